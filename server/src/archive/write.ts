import type { Job, Link } from '@near-spoke/contracts';
import type { ArchiveFile, ArchiveLink, ArchiveManifest } from '@near-spoke/contracts/archive-files';
import type { LinkRow } from '@near-spoke/core/report';
import { linkRow, namesOf } from '@near-spoke/core/report';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import yazl from 'yazl';
import type { Sql } from '../db/open.js';
import { activity, crewMember, faultFound, link, signOff, testingRound, traceRecord } from '../db/schema.js';
import { csvHead, csvRow } from '../handover/csv.js';
import { readKit } from '../kit/store.js';
import { readNotePhotos, type PhotoBytes } from '../links/notes.js';
import { readDetails } from '../links/record.js';
import { planOf, readLinks } from '../links/store.js';

/** Links whose records are read at a time. */
const AT_A_TIME = 100;
/** Lines of the log that are read at a time. */
const LINES_AT_A_TIME = 2000;
const NO_PHOTOS: PhotoBytes = new Map();
/** The same job gives the same bytes: no file has a time of its own. */
const NO_TIME = new Date(Date.UTC(2000, 0, 1));

/** A job as one archive (PKWARE APPNOTE 6.3), piece by piece: every file named with its checksum in the last one. */
export async function* archivePieces(tx: Sql, job: Job): AsyncGenerator<Buffer> {
  const zip = new yazl.ZipFile();
  const files: ArchiveManifest['files'] = [];
  const rows: LinkRow[] = [];
  const add = (name: ArchiveFile, text: () => AsyncGenerator<string>): void =>
    zip.addReadStreamLazy(name, { mtime: NO_TIME, forceDosTimestamp: true, mode: 0o100644 }, (take) =>
      take(null, Readable.from(counted(name, text(), files))),
    );
  add('job.json', () => jobText(tx, job));
  add('kit.json', () => kitText(tx, job.id));
  add('links.ndjson', () => linkTexts(tx, job, rows));
  add('links.csv', async function* () {
    yield csvHead;
    for (const row of rows) yield csvRow(row);
  });
  add('log.ndjson', () => logTexts(tx, job.id));
  add('manifest.json', async function* () {
    const manifest: ArchiveManifest = { format: 'near-spoke/archive', formatVersion: 1, files: [...files] };
    yield JSON.stringify(manifest, null, 2);
  });
  zip.end();
  for await (const piece of zip.outputStream) yield piece as Buffer;
}

async function* counted(
  name: ArchiveFile,
  text: AsyncGenerator<string>,
  files: ArchiveManifest['files'],
): AsyncGenerator<Buffer> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const piece of text) {
    const some = Buffer.from(piece);
    hash.update(some);
    bytes += some.length;
    yield some;
  }
  files.push({ name, bytes, sha256: hash.digest('hex') });
}

/** The links of a job, and after them those that were taken out of it. */
const everyLink = async (tx: Sql, jobId: string): Promise<Link[]> => [
  ...(await readLinks(tx, { jobId })),
  ...(await readLinks(tx, { jobId, out: true })),
];

async function* jobText(
  tx: Sql,
  { id, site, title, hub, scheme, units, stretches }: Job,
): AsyncGenerator<string> {
  const links = await everyLink(tx, id);
  const people = new Set<string>();
  for (const { out } of links) if (out) people.add(out.by);
  for (let at = 0; at < links.length; at += AT_A_TIME)
    for (const { terminations, cableWork, tests, handovers, reopenings, notes } of await readDetails(
      tx,
      links.slice(at, at + AT_A_TIME),
      { scheme, units },
    ))
      for (const { by } of [...terminations, ...cableWork, ...tests, ...handovers, ...reopenings, ...notes])
        people.add(by);
  const tracers = await tx
    .selectDistinct({ by: crewMember.name })
    .from(traceRecord)
    .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
    .innerJoin(link, eq(link.id, traceRecord.linkId))
    .where(eq(link.jobId, id));
  for (const { by } of tracers) people.add(by);
  const signOffs = await tx
    .select({ row: signOff, by: crewMember.name })
    .from(signOff)
    .innerJoin(crewMember, eq(crewMember.id, signOff.by))
    .where(eq(signOff.jobId, id))
    .orderBy(asc(signOff.seq));
  for (const { by } of signOffs) people.add(by);
  const rounds = await tx
    .select({ row: testingRound, by: crewMember.name })
    .from(testingRound)
    .innerJoin(crewMember, eq(crewMember.id, testingRound.by))
    .where(eq(testingRound.jobId, id))
    .orderBy(asc(testingRound.startedAt), asc(testingRound.id));
  for (const { by } of rounds) people.add(by);
  const actors = await tx
    .selectDistinct({ by: crewMember.name })
    .from(activity)
    .innerJoin(crewMember, eq(crewMember.id, activity.by))
    .where(ofTheJob(id));
  for (const { by } of actors) people.add(by);
  yield JSON.stringify(
    {
      job: { id, site, title, hub, scheme, units, stretches },
      people: [...people].sort(),
      rounds: rounds.map(({ row, by }) => ({
        id: row.id,
        startedAt: row.startedAt.toISOString(),
        by,
        closed: row.closed,
      })),
      signOffs: signOffs.map(({ row, by }) => ({
        id: row.id,
        at: row.at.toISOString(),
        by,
        name: row.name,
        role: row.role,
        note: row.note,
        digest: row.digest,
        seal: row.seal,
      })),
    },
    null,
    2,
  );
}

/** What happened on a job. That it was once brought in from an archive is of that installation, not of the job. */
const ofTheJob = (jobId: string) => and(eq(activity.jobId, jobId), eq(activity.hereOnly, false));

async function* logTexts(tx: Sql, jobId: string): AsyncGenerator<string> {
  for (let after = 0; ;) {
    const some = await tx
      .select({ row: activity, by: crewMember.name })
      .from(activity)
      .innerJoin(crewMember, eq(crewMember.id, activity.by))
      .where(ofTheJob(jobId))
      .orderBy(asc(activity.at), asc(activity.id))
      .limit(LINES_AT_A_TIME)
      .offset(after);
    if (some.length === 0) return;
    after += some.length;
    yield some
      .map(
        ({ row: { at, linkId, what }, by }) =>
          `${JSON.stringify({ at: at.toISOString(), by, linkId, what })}\n`,
      )
      .join('');
  }
}

/** The sheets that the job's links name, as a file of the kit. */
async function* kitText(tx: Sql, jobId: string): AsyncGenerator<string> {
  const links = await everyLink(tx, jobId);
  const kit = await readKit(tx);
  const cables = new Set(links.map(({ cableTypeId }) => cableTypeId));
  const connectors = new Set(links.flatMap(({ near, far }) => [near.connectorId, far.connectorId]));
  const sorted = <T extends { id: string }>(sheets: readonly T[], wanted: ReadonlySet<string>): T[] =>
    sheets.filter(({ id }) => wanted.has(id)).sort((a, b) => (a.id < b.id ? -1 : 1));
  yield JSON.stringify(
    {
      format: 'near-spoke/kit',
      formatVersion: 1,
      cables: sorted(kit.cables, cables),
      connectors: sorted(kit.connectors, connectors),
      tools: [],
    },
    null,
    2,
  );
}

/** One link a line; their rows for the table beside it are gathered on the way. */
async function* linkTexts(tx: Sql, job: Job, rows: LinkRow[]): AsyncGenerator<string> {
  const { cable } = namesOf(await readKit(tx));
  const links = await everyLink(tx, job.id);
  for (let at = 0; at < links.length; at += AT_A_TIME) {
    const some = links.slice(at, at + AT_A_TIME);
    const ids = some.map(({ id }) => id);
    const traces = await tx
      .select({ row: traceRecord, by: crewMember.name })
      .from(traceRecord)
      .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
      .where(inArray(traceRecord.linkId, ids))
      .orderBy(asc(traceRecord.turn));
    const found = await tx
      .select()
      .from(faultFound)
      .where(inArray(faultFound.linkId, ids))
      .orderBy(asc(faultFound.at), asc(faultFound.faultId), asc(faultFound.words));
    for (const detail of await readDetails(tx, some, job)) {
      const { link: planned, terminations, cableWork, tests, handovers, reopenings, notes } = detail;
      const wanted = new Set(notes.flatMap(({ photo }) => photo?.sha256 ?? []));
      const photos = wanted.size > 0 ? await readNotePhotos(tx, [planned.id], wanted) : NO_PHOTOS;
      if (!planned.out) rows.push(linkRow(detail, cable));
      const one: ArchiveLink = {
        plan: planOf(planned),
        ...(planned.out ? { out: planned.out } : {}),
        terminations,
        cableWork,
        tests,
        handovers,
        reopenings,
        notes: notes.map((note) => ({
          ...note,
          jpeg: note.photo && (photos.get(note.photo.sha256) ?? null),
        })),
        traces: traces
          .filter(({ row }) => row.linkId === planned.id)
          .map(({ row: { linkId: _, seq: __, ofCrew: ___, at: when, ...row }, by }) => ({
            ...row,
            at: when.toISOString(),
            by,
          })),
        found: found
          .filter(({ linkId }) => linkId === planned.id)
          .map(({ id: _, linkId: __, ofCrew: ___, at: when, ...row }) => ({
            ...row,
            at: when.toISOString(),
          })),
      };
      yield `${JSON.stringify(one)}\n`;
    }
  }
}
