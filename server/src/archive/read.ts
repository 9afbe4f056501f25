import { fieldErrors, kitFile } from '@near-spoke/contracts';
import {
  archiveJob,
  ARCHIVE_FILES,
  ARCHIVE_MAY_LACK,
  archiveLine,
  archiveLink,
  archiveManifest,
  type ArchiveFile,
  type ArchiveLine,
  type ArchiveLink,
  type ArchiveManifest,
} from '@near-spoke/contracts/archive-files';
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { promisify } from 'node:util';
import yauzl from 'yauzl';
import type { ZodType } from 'zod';
import { Refusal } from '../problems.js';

/** No file inside is larger, and no line of one. */
const MOST_BYTES: Readonly<Record<ArchiveFile, number>> = {
  'job.json': 64 * 1024 * 1024,
  'kit.json': 16 * 1024 * 1024,
  'links.ndjson': 1024 * 1024 * 1024,
  'links.csv': 64 * 1024 * 1024,
  'log.ndjson': 256 * 1024 * 1024,
  'manifest.json': 64 * 1024,
};
const MOST_LINE_BYTES = 32 * 1024 * 1024;
/** Links that are held at a time: so many, or as many as come to so much. */
const [AT_A_TIME, HELD_BYTES] = [50, 8 * 1024 * 1024];
const LINES_AT_A_TIME = 500;

/** Why an archive is not taken: which file in it, and what is wrong with that. */
export const notTaken = (file: string, why: string): Refusal =>
  new Refusal(422, 'The archive is not taken', `${file}: ${why} Nothing was brought in.`);

/** An archive, opened and looked over: only the files that belong there, each once, none too large. */
export class Archive {
  private constructor(
    private readonly zip: yauzl.ZipFile,
    private readonly entries: ReadonlyMap<ArchiveFile, yauzl.Entry>,
    private readonly manifest: ArchiveManifest,
  ) {}

  /** @throws Refusal 422 for a file that is no whole archive of ours */
  static async open(path: string): Promise<Archive> {
    const zip = await promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open)(path, {
      lazyEntries: true,
      autoClose: false,
      validateEntrySizes: true,
    }).catch((error: unknown) => {
      throw notTaken('the file', `It is no zip archive, or a part of it is missing (${said(error)}).`);
    });
    try {
      const entries = await entriesOf(zip);
      const text = (await new Archive(zip, entries, NO_FILES).whole('manifest.json')).toString('utf8');
      const manifest = parsed('manifest.json', archiveManifest, text);
      for (const name of ARCHIVE_FILES)
        if (name !== 'manifest.json') {
          const listed = manifest.files.filter((file) => file.name === name).length;
          const lacks = listed === 0 && !entries.has(name) && ARCHIVE_MAY_LACK.includes(name);
          if (listed !== 1 && !lacks) throw notTaken('manifest.json', `${name} is not listed once.`);
        }
      return new Archive(zip, entries, manifest);
    } catch (error) {
      zip.close();
      throw error;
    }
  }

  close(): void {
    this.zip.close();
  }

  async job() {
    return parsed('job.json', archiveJob, (await this.whole('job.json')).toString('utf8'));
  }

  async kit() {
    return parsed('kit.json', kitFile, (await this.whole('kit.json')).toString('utf8'));
  }

  /** The links, some at a time; what was read before a checksum turns out wrong has to be given up. */
  async *links(): AsyncGenerator<ArchiveLink[]> {
    let [at, held, some] = [0, 0, [] as ArchiveLink[]];
    for await (const line of linesOf(this.pieces('links.ndjson'))) {
      at++;
      held += line.length;
      some.push(parsed(`links.ndjson, line ${at}`, archiveLink, line));
      if (some.length < AT_A_TIME && held < HELD_BYTES) continue;
      yield some;
      [held, some] = [0, []];
    }
    if (some.length > 0) yield some;
  }

  /** What happened, some lines at a time; nothing where the archive is from before it had a log. */
  async *log(): AsyncGenerator<ArchiveLine[]> {
    if (!this.entries.has('log.ndjson')) return;
    let [at, some] = [0, [] as ArchiveLine[]];
    for await (const line of linesOf(this.pieces('log.ndjson'), 'log.ndjson')) {
      some.push(parsed(`log.ndjson, line ${++at}`, archiveLine, line));
      if (some.length < LINES_AT_A_TIME) continue;
      yield some;
      some = [];
    }
    if (some.length > 0) yield some;
  }

  /** Reads what nobody needs, for its checksum alone. */
  async check(name: ArchiveFile): Promise<void> {
    for await (const _ of this.pieces(name));
  }

  private async whole(name: ArchiveFile): Promise<Buffer> {
    const pieces: Buffer[] = [];
    for await (const piece of this.pieces(name)) pieces.push(piece);
    return Buffer.concat(pieces);
  }

  /** A file's bytes; after the last of them its size and checksum hold, or it is refused. */
  private async *pieces(name: ArchiveFile): AsyncGenerator<Buffer> {
    const entry = this.entries.get(name);
    if (!entry) throw notTaken(name, 'It is missing.');
    const hash = createHash('sha256');
    let bytes = 0;
    try {
      const stream = await promisify<yauzl.Entry, Readable>(this.zip.openReadStream.bind(this.zip) as never)(
        entry,
      );
      for await (const piece of stream) {
        bytes += (piece as Buffer).length;
        if (bytes > MOST_BYTES[name]) throw notTaken(name, 'It is larger than any such file is.');
        hash.update(piece as Buffer);
        yield piece as Buffer;
      }
    } catch (error) {
      throw error instanceof Refusal ? error : notTaken(name, `It is damaged (${said(error)}).`);
    }
    const listed = this.manifest.files.find((file) => file.name === name);
    if (listed && (listed.bytes !== bytes || listed.sha256 !== hash.digest('hex')))
      throw notTaken(name, 'Its checksum is not the one that the archive lists: it was changed or damaged.');
  }
}

const NO_FILES: ArchiveManifest = { format: 'near-spoke/archive', formatVersion: 1, files: [] };

const said = (error: unknown): string => (error instanceof Error ? error.message : String(error));

async function entriesOf(zip: yauzl.ZipFile): Promise<Map<ArchiveFile, yauzl.Entry>> {
  if (zip.entryCount > ARCHIVE_FILES.length)
    throw notTaken('the file', `It holds ${zip.entryCount} files, an archive ${ARCHIVE_FILES.length}.`);
  const entries = new Map<ArchiveFile, yauzl.Entry>();
  await new Promise<void>((resolve, reject) => {
    zip.on('error', (error) =>
      reject(notTaken('the file', `Its list of files is damaged (${said(error)}).`)),
    );
    zip.on('end', () => resolve());
    zip.on('entry', (entry: yauzl.Entry) => {
      const name = ARCHIVE_FILES.find((one) => one === entry.fileName);
      // Nothing is ever unpacked to a path, and a name that is not ours is not looked at.
      if (!name) return reject(notTaken(entry.fileName.slice(0, 80), 'No archive has such a file.'));
      if (entries.has(name)) return reject(notTaken(name, 'It is there twice.'));
      if (entry.uncompressedSize > MOST_BYTES[name])
        return reject(notTaken(name, 'It is larger than any such file is.'));
      entries.set(name, entry);
      zip.readEntry();
    });
    zip.readEntry();
  });
  return entries;
}

function parsed<T>(where: string, schema: ZodType<T>, text: string): T {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw notTaken(where, 'It is not JSON.');
  }
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const [first] = fieldErrors(result.error);
  throw notTaken(where, first ? `${first.path}: ${first.message}` : 'It has another shape.');
}

async function* linesOf(
  pieces: AsyncIterable<Buffer>,
  file: ArchiveFile = 'links.ndjson',
): AsyncGenerator<string> {
  let held: Buffer[] = [];
  let bytes = 0;
  for await (const piece of pieces) {
    let from = 0;
    for (let at = piece.indexOf(10); at >= 0; at = piece.indexOf(10, from)) {
      yield Buffer.concat([...held, piece.subarray(from, at)]).toString('utf8');
      [held, bytes, from] = [[], 0, at + 1];
    }
    const rest = piece.subarray(from);
    bytes += rest.length;
    if (bytes > MOST_LINE_BYTES) throw notTaken(file, 'A line is longer than any such line is.');
    if (rest.length > 0) held.push(rest);
  }
  if (bytes > 0) yield Buffer.concat(held).toString('utf8');
}
