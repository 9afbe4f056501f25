import { createHash, randomUUID } from 'node:crypto';
import { once } from 'node:events';
import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { promisify } from 'node:util';
import type { Activity, ArchiveTaken, Link, LinkDetail } from '@near-spoke/contracts';
import type { JobSeal } from '@near-spoke/core/report';
import request, { type Response } from 'supertest';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { endHandovers } from '../src/handover/handover.js';
import { pino } from 'pino';
import { judgeWaiting } from '../src/links/standing.js';
import {
  enter,
  mapTest,
  newJob,
  newLink,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';
import { asTaken, picture } from './pictures.js';
import { seeded } from './seeded.js';

const asBytes = (response: Response, done: (error: Error | null, body: Buffer) => void): void => {
  const pieces: Buffer[] = [];
  response.on('data', (piece: Buffer) => pieces.push(piece));
  response.on('end', () => done(null, Buffer.concat(pieces)));
};
const TABLES = [
  'job',
  'link',
  'link_end',
  'termination_attempt',
  'test_record',
  'handover',
  'link_note',
  'place',
  'crew_member',
  'membership',
  'link_search',
  'testing_round',
];

/** A zip of these files, their list made to fit unless one is given. */
async function zipOf(files: Readonly<Record<string, string | Buffer>>, listed = true): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  const entries = Object.entries(files).map(([name, content]) => ({ name, content: Buffer.from(content) }));
  for (const { name, content } of entries) zip.addBuffer(content, name);
  if (listed)
    zip.addBuffer(
      Buffer.from(
        JSON.stringify({
          format: 'near-spoke/archive',
          formatVersion: 1,
          files: entries.map(({ name, content }) => ({
            name,
            bytes: content.length,
            sha256: createHash('sha256').update(content).digest('hex'),
          })),
        }),
      ),
      'manifest.json',
    );
  zip.end();
  return buffer(zip.outputStream);
}

/** What is in a zip, by name. */
async function unzipped(zip: Buffer): Promise<Record<string, string>> {
  const opened = await promisify<Buffer, yauzl.Options, yauzl.ZipFile>(yauzl.fromBuffer)(zip, {});
  const files: Record<string, string> = {};
  const opening: Promise<void>[] = [];
  opened.on('entry', (entry: yauzl.Entry) =>
    opening.push(
      promisify<yauzl.Entry, Readable>(opened.openReadStream.bind(opened) as never)(entry).then(
        async (stream) => {
          files[entry.fileName] = (await buffer(stream)).toString('utf8');
        },
      ),
    ),
  );
  await once(opened, 'end');
  await Promise.all(opening);
  return files;
}

describe('the archive of a job', () => {
  let here: TestApp;
  let there: TestApp;
  let ines: Caller;
  let other: Caller;
  let archive: Buffer;
  const job = newJob({ site: 'Salt store', title: 'Office', stretches: [] });
  const links = ['S-01', 'S-02', 'S-03'].map((label, at) =>
    newLink({
      label,
      port: String(at),
      // The last begins in another hub.
      ...(at === 2 ? { hub: 'Shed' } : {}),
      outlet: label,
      route: [{ name: 'tray', lengthM: 9 }],
      carries: { data: '1000base-t' },
    }),
  );
  beforeAll(async () => {
    [here, there] = [await startApp(), await startApp()];
    ines = await enter(here, 'lead', 'Ines Varga');
    const tobi = await enter(here, 'technician', 'Tobi Lund');
    other = await enter(there, 'lead', 'Rosa Pell');
    await ines.post('/api/jobs', job).expect(200);
    await ines.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    const [first, second] = links;
    for (const link of [first, second])
      for (const side of ['near', 'far'] as const)
        await tobi.post(`/api/links/${link?.id}/terminations`, termination(side)).expect(200);
    await tobi
      .post(`/api/links/${first?.id}/tests`, mapTest({ ...straight, 1: ['2'], 2: ['1'] }))
      .expect(200);
    await tobi.post(`/api/links/${first?.id}/terminations`, termination('far', { lot: 'b7' })).expect(200);
    await tobi
      .post(`/api/links/${first?.id}/cable-work`, { id: randomUUID(), kind: 'outlet', note: 'moved' })
      .expect(200);
    await tobi
      .post(`/api/links/${first?.id}/tests`, mapTest(straight, { deviceAt: '2026-11-30T10:42:00.000Z' }))
      .expect(200);
    await tobi
      .post(`/api/links/${first?.id}/notes`, {
        id: randomUUID(),
        end: 'near',
        words: 'behind the boiler',
        jpeg: asTaken().toString('base64'),
      })
      .expect(200);
    // One is not built after all, and another has its label and port.
    const gone = newLink({ label: 'S-09' });
    await ines.post(`/api/jobs/${job.id}/links`, { links: [gone] }).expect(200);
    await tobi.post(`/api/links/${gone.id}/terminations`, termination('near')).expect(200);
    await ines
      .post(`/api/jobs/${job.id}/links/out`, {
        links: [{ id: gone.id, version: 1 }],
        reason: 'no wall there',
      })
      .expect(200);
    await ines.post(`/api/jobs/${job.id}/links`, { links: [newLink({ label: 'S-09' })] }).expect(200);
    await ines.post(`/api/links/${first?.id}/handover`, { id: randomUUID() }).expect(200);
    await ines
      .post(`/api/jobs/${job.id}/sign-offs`, { id: randomUUID(), name: 'R. Thorne', role: 'owner' })
      .expect(200);
    await ines.post(`/api/jobs/${job.id}/round-of-tests`, { id: randomUUID() }).expect(200);
    archive = await exported(ines);
  });
  afterAll(async () => {
    await endHandovers();
    await here.close();
    await there.close();
  });

  const exported = async (who: Caller): Promise<Buffer> =>
    (
      await who
        .get(`/api/jobs/${job.id}/archive.zip`)
        .buffer(true)
        .parse(asBytes as never)
        .expect(200)
    ).body as Buffer;
  const send = (content: Buffer, who = other) =>
    request(there.app)
      .post('/api/archives')
      .set('Cookie', who.cookie)
      .set('x-near-spoke-token', who.token)
      .set('Content-Type', 'application/zip')
      .send(content);
  const seal = async (who: Caller): Promise<JobSeal> =>
    (await who.get(`/api/jobs/${job.id}/seal`).expect(200)).body as JobSeal;
  const counts = async (app: TestApp): Promise<string> => {
    const all: string[] = [];
    for (const table of TABLES)
      all.push(`${table} ${(await app.query(`SELECT count(*) FROM ${table}`)).rows[0].count}`);
    return all.join(', ');
  };

  it('is the same bytes every time, and tells all of it in plain files', async () => {
    expect((await exported(ines)).equals(archive)).toBeTrue();
  });

  it('is refused whole, with the file and the reason, where it is damaged, hostile or no archive', async () => {
    const before = await counts(there);
    const says = async (content: Buffer): Promise<string> => {
      const { status, body } = await send(content);
      expect(status).withContext(body.detail).toBe(422);
      return body.detail as string;
    };
    const good = { 'job.json': '{}', 'kit.json': '{}', 'links.ndjson': '', 'links.csv': '' };
    expect(await says(Buffer.from('no zip'))).toContain('the file: It is no zip archive');
    expect(await says(archive.subarray(0, archive.length - 40))).toContain('the file:');
    expect(await says(await zipOf(good, false))).toContain('manifest.json: It is missing.');
    expect(await says(await zipOf({ ...good, 'notes.txt': 'x' }, false))).toContain(
      'notes.txt: No archive has such a file.',
    );
    expect(await says(await zipOf({ 'manifest.json': '{"format":"other"}' }, false))).toContain(
      'manifest.json: format',
    );
    expect(await says(await zipOf(good))).toContain('job.json: ');
    expect(await says(await zipOf({ ...good, 'manifest.json': Buffer.alloc(70 * 1024) }, false))).toContain(
      'larger than any',
    );
    const paths = await zipOf({ 'aa/aa/aaa.txt': 'x' }, false);
    const climbing = Buffer.from(
      paths.toString('latin1').replaceAll('aa/aa/aaa.txt', '../../etc/pwd'),
      'latin1',
    );
    expect(await says(climbing)).toContain('the file:');
    expect(await counts(there)).toBe(before);
  });

  it('does not swell beyond what any job is, however small it was packed', async () => {
    const before = process.memoryUsage().rss;
    const bomb = await zipOf({
      'job.json': Buffer.alloc(60 * 1024 * 1024, 32),
      'kit.json': '{}',
      'links.ndjson': Buffer.alloc(120 * 1024 * 1024, 97),
      'links.csv': '',
    });
    expect(bomb.length).toBeLessThan(1024 * 1024);
    const { status } = await send(bomb);
    expect(status).toBe(422);
    expect(process.memoryUsage().rss - before).toBeLessThan(1024 * 1024 * 1024);
  });

  it('brings nothing in by part, of a thousand that were changed somewhere', async () => {
    const before = await counts(there);
    const random = seeded(20261129);
    for (let n = 0; n < 1000; n++) {
      const changed = mutated(archive, random);
      const { status, body } = await send(changed);
      if (status === 200) {
        // Only what no file says was changed: a time, a flag. Then it is all there; taken away again for the next.
        expect((await seal(other)).digest)
          .withContext(`${n}`)
          .toBe((await seal(ines)).digest);
        await forget(there);
      } else {
        expect([409, 422]).withContext(`${n}: ${status} ${body.detail}`).toContain(status);
        expect(body.detail).toContain('Nothing was');
      }
    }
    expect(await counts(there)).toBe(before);
  });

  it('gives the same job on another installation: seal, verdicts, people, and the same archive again', async () => {
    const { body } = await send(archive).expect(200);
    const taken = body as ArchiveTaken;
    expect([taken.links, taken.title, taken.people, taken.otherSheets]).toEqual([
      5,
      'Office',
      ['Ines Varga', 'Tobi Lund'],
      [],
    ]);
    await judgeWaiting({ db: there.database.db, log: pino({ level: 'silent' }) });
    expect((await seal(other)).digest).toBe((await seal(ines)).digest);
    const listed = async (who: Caller) =>
      (
        (await who.get(`/api/jobs/${job.id}/links`)).body as {
          label: string;
          stage: string;
          standing: string;
        }[]
      ).map(({ label, stage, standing }) => [label, stage, standing]);
    expect(await listed(other)).toEqual(await listed(ines));
    const out = async (who: Caller) =>
      ((await who.get(`/api/jobs/${job.id}/links/out`)).body as Link[]).map(
        ({ label, standing, out: how }) => [label, standing, how],
      );
    expect(await out(ines)).toHaveSize(1);
    expect(await out(other)).toEqual(await out(ines));
    const table = async (who: Caller): Promise<string> =>
      (await who.get(`/api/jobs/${job.id}/handover.csv`)).text;
    expect(await table(other)).toBe(await table(ines));
    expect((await exported(other)).equals(archive)).toBeTrue();
    const log = async (who: Caller): Promise<string[]> =>
      ((await who.get(`/api/jobs/${job.id}/activity`)).body as Activity[]).map(({ at, by, what }) =>
        [at, by, what].join(' '),
      );
    const here1 = await log(ines);
    expect(here1.length).toBeGreaterThan(10);
    expect((await log(other)).slice(1)).toEqual(here1);
    const rounds = async (app: TestApp): Promise<unknown> =>
      (await app.query('SELECT id, started_at, closed FROM testing_round')).rows;
    expect(await rounds(there)).toEqual(await rounds(here));
    const { notes } = (await other.get(`/api/links/${links[0]?.id}`)).body as LinkDetail;
    const photo = await other.get(`/api/links/${links[0]?.id}/notes/${notes[0]?.id}/photo.jpg`).expect(200);
    expect((photo.body as Buffer).equals(picture())).toBeTrue();
    const again = await send(archive);
    expect([again.status, again.body.title]).toEqual([409, 'It is here already']);
    const signIn = await other.post('/api/session', {
      name: 'Tobi Lund',
      passphrase: 'anything at all here',
    });
    expect(signIn.status).toBe(401);
    expect((await other.get('/api/search/moved')).body.links.length).toBe(1);
  });

  it('is taken from before it had a log, and refused where its log is of other links', async () => {
    const files = await unzipped(archive);
    await forget(there);
    const { 'log.ndjson': log = '', 'manifest.json': _, ...before } = files;
    const stray = log.replace(/"linkId":"[0-9a-f-]+"/, `"linkId":"${randomUUID()}"`);
    const refused = await send(await zipOf({ ...before, 'log.ndjson': stray }));
    expect([refused.status, refused.body.detail]).toEqual([
      422,
      'log.ndjson: A line is about a link that is not there. Nothing was brought in.',
    ]);
    await send(await zipOf(before)).expect(200);
    // Whichever comes next finds this installation without the job.
    await forget(there);
  });

  it('is brought in by a lead alone', async () => {
    const tech = await enter(there, 'technician', 'Marit');
    expect((await send(archive, tech)).status).toBe(403);
  });
});

/** Takes a job away that no application could: the tables are emptied of it by their owner. */
async function forget({ query }: TestApp): Promise<void> {
  // What was brought in is judged beside everything else: its tables are let alone until that is through.
  const waiting = async (): Promise<number> =>
    (await query('SELECT count(*)::int AS n FROM link WHERE NOT judged')).rows[0].n as number;
  while ((await waiting()) > 0) await new Promise((later) => setTimeout(later, 20));
  const only = [
    'handover',
    'reopening',
    'sign_off',
    'test_record',
    'termination_attempt',
    'cable_work',
    'link_note',
    'trace_record',
    'activity',
  ];
  for (const table of only) await query(`ALTER TABLE ${table} DISABLE TRIGGER USER`);
  for (const table of [
    'link_search',
    'fault_found',
    'handover',
    'reopening',
    'sign_off',
    'test_record',
    'termination_attempt',
    'cable_work',
    'link_note',
    'activity',
    'testing_round',
    'link_end',
    'link',
    'place',
    'job',
  ])
    await query(`DELETE FROM ${table}`);
  await query(`DELETE FROM membership WHERE NOT active`);
  await query(`DELETE FROM crew_member p WHERE NOT EXISTS (SELECT FROM membership WHERE person_id = p.id)`);
  for (const table of only) await query(`ALTER TABLE ${table} ENABLE TRIGGER USER`);
}

/** One byte changed, some lost, some doubled, or a stretch overwritten. */
function mutated(archive: Buffer, random: () => number): Buffer {
  const at = Math.floor(random() * archive.length);
  const length = 1 + Math.floor(random() * 24);
  const kind = Math.floor(random() * 4);
  if (kind === 0) {
    const changed = Buffer.from(archive);
    changed[at] = (changed[at] ?? 0) ^ (1 << Math.floor(random() * 8));
    return changed;
  }
  if (kind === 1) return Buffer.concat([archive.subarray(0, at), archive.subarray(at + length)]);
  if (kind === 2) return Buffer.concat([archive.subarray(0, at + length), archive.subarray(at)]);
  const changed = Buffer.from(archive);
  for (let k = 0; k < length && at + k < changed.length; k++) changed[at + k] = Math.floor(random() * 256);
  return changed;
}
