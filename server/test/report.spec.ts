import { randomUUID } from 'node:crypto';
import { inflateSync } from 'node:zlib';
import type { LinkDetail } from '@near-spoke/contracts';
import { reportFile } from '@near-spoke/contracts/report-files';
import { REPORT_PARTS } from '@near-spoke/core';
import {
  attachedIn,
  checkReport,
  dataInPage,
  linkRow,
  changesSince,
  isOrdinary,
  type JobSeal,
  type ReportData,
} from '@near-spoke/core/report';
import type { Response } from 'supertest';
import { endHandovers } from '../src/handover/handover.js';
import { csvHead, csvRow } from '../src/handover/csv.js';
import {
  enter,
  jobWithLink,
  mapTest,
  newJob,
  newLink,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';
import { picture } from './pictures.js';
import { seeded } from './seeded.js';

const ALL = REPORT_PARTS.map(({ id }) => id).join(',');
const exchanged = { ...straight, 1: ['2'], 2: ['1'] };
const bothEnds = (): [string, object][] => [
  ['terminations', termination('near')],
  ['terminations', termination('far', { connectorsSpoiled: 2, deviceAt: '2026-11-30T10:42:00.000Z' })],
];
const handedOver = (): [string, object] => ['handover', { id: randomUUID() }];

describe('what leaves the crew', () => {
  let it1: TestApp;
  let lead: Caller;
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Ines');
  });
  afterAll(async () => {
    await endHandovers();
    await it1.close();
  });

  const asBytes = (response: Response, done: (error: Error | null, body: Buffer) => void): void => {
    const pieces: Buffer[] = [];
    response.on('data', (piece: Buffer) => pieces.push(piece));
    response.on('end', () => done(null, Buffer.concat(pieces)));
  };

  /** Does these things to a new link in order and answers it. */
  async function after(...steps: [string, object][]): Promise<{ jobId: string; detail: LinkDetail }> {
    const { jobId, linkId } = await jobWithLink(lead);
    for (const [what, body] of steps) await lead.post(`/api/links/${linkId}/${what}`, body).expect(200);
    return { jobId, detail: (await lead.get(`/api/links/${linkId}`)).body as LinkDetail };
  }
  const rowAfter = async (...steps: [string, object][]) =>
    linkRow((await after(...steps)).detail, () => 'Cat 6 unscreened');
  const htmlOf = async (jobId: string, parts = ALL): Promise<string> =>
    (await lead.get(`/api/jobs/${jobId}/report/${parts}/report.html`).expect(200)).text;

  it('says of a link what its verdict rests on, what that cannot see, by whom, and what was spoiled', async () => {
    const row = await rowAfter(...bothEnds(), ['tests', mapTest()], handedOver());
    expect(row).toEqual(
      jasmine.objectContaining({
        label: 'L-01',
        from: 'CR-9 P1 port L-01',
        to: 'Hall, desk 1',
        cable: 'Cat 6 unscreened',
        length: '31.4 m',
        stage: 'handed over',
        verdict: 'Map right',
        restsOn: 'coded mapper',
        testedWith: 'coded mapper, keyed in',
        testedBy: 'Ines',
        handedOverBy: 'Ines',
        spoiled: 2,
      }),
    );
    expect(row.blindTo).toContain('split pair');
  });

  it('names nobody as having handed over a link that was worked on since', async () => {
    const row = await rowAfter(...bothEnds(), ['tests', mapTest()], handedOver(), [
      'cable-work',
      { id: randomUUID(), kind: 'mended', atM: 3 },
    ]);
    expect([row.stage, row.handedOverBy, row.verdict]).toEqual(['to be tested', '', 'not tested']);
  });

  it('begins its CSV with a byte order mark and ends every line as RFC 4180 says', async () => {
    const csv = csvHead + csvRow(await rowAfter());
    expect(csv.startsWith('\ufefflabel,')).toBeTrue();
    expect(csv.endsWith('\r\n')).toBeTrue();
    expect(csv.trim().split('\r\n').length).toBe(2);
  });

  it('tells each failure on a page of its own: the map, what it could be, what was done, what came of it', async () => {
    const { jobId } = await after(
      ...bothEnds(),
      ['tests', mapTest(exchanged)],
      ['terminations', termination('far', { reason: 'order by eye' })],
      ['tests', mapTest()],
    );
    const page = await htmlOf(jobId, 'stories');
    expect(page).toContain('Wire map as it was read');
    expect(page).toMatch(/What it could be, when it was found[\s\S]*\d+ %/);
    expect(page).toMatch(
      /coded mapper, keyed in: 1 and 2 exchanged[\s\S]*far end terminated[\s\S]*order by eye/,
    );
    expect(page).toContain('At the end: Map right.');
    const { jobId: open } = await after(...bothEnds(), ['tests', mapTest(exchanged)]);
    expect(await htmlOf(open, 'stories')).toContain('No reading since has shown it mended.');
  });

  it('holds the parts that were asked for, in their order, and refuses what is no part', async () => {
    const { jobId } = await after();
    const titles = (page: string): string[] =>
      [...page.matchAll(/<h2>(\w+)/g)].map((match) => match[1] ?? '');
    expect(titles(await htmlOf(jobId, 'seal,links,summary'))).toEqual(['Seal', 'Links', 'Summary']);
    expect(titles(await htmlOf(jobId)).length).toBe(REPORT_PARTS.length);
    for (const parts of ['links,links', 'prices', '', 'links,'])
      await lead.get(`/api/jobs/${jobId}/report/${parts || '%20'}/report.pdf`).expect(400);
    await lead.get(`/api/jobs/${randomUUID()}/report/links/report.html`).expect(404);
  });

  it('shows names with markup in them as they were typed, and runs none of it', async () => {
    const job = newJob({
      site: '<img src=x onerror=alert(1)>',
      title: 'A & B </script><script>alert(2)</script>',
    });
    await lead.post('/api/jobs', job).expect(200);
    await lead
      .post(`/api/jobs/${job.id}/links`, { links: [newLink({ room: '"><svg onload=alert(3)>' })] })
      .expect(200);
    const page = await htmlOf(job.id);
    expect(page).not.toMatch(/<img|<svg onload|<script>/);
    expect(page.match(/<script/g)?.length).toBe(1);
    expect(page.match(/<\/script/g)?.length).toBe(1);
    expect(reportFile.parse(dataInPage(page)).job.title).toBe(job.title);
  });

  it('is whole as it was made, as a page and as PDF, and any word changed in the page is found', async () => {
    const { jobId } = await after(
      ...bothEnds(),
      ['tests', mapTest(exchanged)],
      ['terminations', termination('far')],
      ['tests', mapTest()],
      handedOver(),
    );
    await lead
      .post(`/api/jobs/${jobId}/sign-offs`, { id: randomUUID(), name: 'R. Thorne', role: 'owner' })
      .expect(200);
    const page = await htmlOf(jobId);
    const data = reportFile.parse(dataInPage(page));
    expect(checkReport(data, page)).toEqual([]);
    expect(page).toContain('R. Thorne');
    for (const [from, to] of [
      ['31.4 m', '31.5 m'],
      ['Map right', 'Map Right'],
      ['R. Thorne', 'R. Thorn'],
    ] as const) {
      const changed = page.replace(from, to);
      expect(changed).not.toBe(page);
      expect(checkReport(reportFile.parse(dataInPage(changed)), changed).map(({ code }) => code))
        .withContext(from)
        .toContain('words-changed');
    }
    const pdf = (
      await lead
        .get(`/api/jobs/${jobId}/report/${ALL}/report.pdf`)
        .buffer(true)
        .parse(asBytes as never)
        .expect(200)
    ).body as Buffer;
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    const attached = attachedIn(pdf);
    const inside = reportFile.parse(JSON.parse(inflateSync(attached ?? new Uint8Array()).toString()));
    expect(checkReport(inside)).toEqual([]);
    expect(inside.seal.digest).toBe(data.seal.digest);
  });

  it('is found out where its data were changed with its words', async () => {
    const { jobId } = await after(...bothEnds(), ['tests', mapTest()], handedOver());
    const data = reportFile.parse(dataInPage(await htmlOf(jobId)));
    const changed = structuredClone(data) as ReportData;
    const test = changed.links[0]?.tests[0];
    if (!test) throw new Error('no test');
    test.by = 'Somebody Else';
    expect(checkReport(changed).map(({ code }) => code)).toEqual(['records-changed']);
    const [flaw] = checkReport({ ...changed, seal: { ...changed.seal, digest: '0'.repeat(64) } });
    expect(flaw?.code).toBe('seal-broken');
    const verdict = structuredClone(data) as ReportData;
    const [link] = verdict.links;
    if (!link?.diagnosis) throw new Error('no verdict');
    link.diagnosis = { ...link.diagnosis, result: 'fail' };
    expect(checkReport(verdict).map(({ code }) => code)).toEqual(['verdict-changed']);
  });

  it('hands over all that are proved at once, and says of the others why not; a repeat changes nothing', async () => {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const links = ['A', 'B', 'C'].map((label, n) => newLink({ label, port: String(n), outlet: label }));
    await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    for (const { id } of links.slice(0, 2))
      for (const [what, body] of bothEnds()) await lead.post(`/api/links/${id}/${what}`, body).expect(200);
    await lead.post(`/api/links/${links[0]?.id}/tests`, mapTest()).expect(200);
    await lead.post(`/api/links/${links[1]?.id}/tests`, mapTest(exchanged)).expect(200);
    const asked = { handovers: links.map(({ id: linkId }) => ({ id: randomUUID(), linkId })) };
    const { body } = await lead.post(`/api/jobs/${job.id}/handovers`, asked).expect(200);
    expect(body.given).toEqual([links[0]?.id]);
    expect(body.refused.map(({ label, why }: { label: string; why: string }) => [label, why])).toEqual([
      ['B', 'B cannot be handed over: 1 and 2 exchanged. Prove its map first.'],
      ['C', 'C cannot be handed over: not begun. Prove its map first.'],
    ]);
    expect(body.links.map(({ stage }: { stage: string }) => stage)).toEqual([
      'handed-over',
      'failed',
      'planned',
    ]);
    const again = await lead.post(`/api/jobs/${job.id}/handovers`, asked).expect(200);
    expect(again.body.given).toEqual([links[0]?.id]);
    const { rows } = await it1.query('SELECT count(*)::int AS n FROM handover WHERE link_id = $1', [
      links[0]?.id,
    ]);
    expect(rows[0].n).toBe(1);
    const viewer = await enter(it1, 'viewer', 'Guest');
    await viewer.post(`/api/jobs/${job.id}/handovers`, asked).expect(403);
  });

  it('takes a handover back with a reason, and lets it be given again', async () => {
    const { detail } = await after(...bothEnds(), ['tests', mapTest()], handedOver());
    const path = `/api/links/${detail.link.id}/reopenings`;
    await lead.post(path, { id: randomUUID(), reason: ' ' }).expect(400);
    const sent = { id: randomUUID(), reason: 'label on the wrong outlet' };
    const { body } = await lead.post(path, sent).expect(200);
    expect([body.link.stage, body.reopenings[0].reason]).toEqual(['proved', sent.reason]);
    expect((await lead.post(path, sent).expect(200)).body.reopenings.length).toBe(1);
    const refused = await lead.post(path, { id: randomUUID(), reason: 'twice' });
    expect([refused.status, refused.body.detail]).toEqual([
      422,
      'L-01 is not handed over: there is nothing to reopen.',
    ]);
    const given = await lead.post(`/api/links/${detail.link.id}/handover`, { id: randomUUID() }).expect(200);
    expect(given.body.link.stage).toBe('handed-over');
  });

  it('signs only for what is handed over, and tells what changed since by whom', async () => {
    const { jobId, detail } = await after(...bothEnds(), ['tests', mapTest()]);
    const sent = { id: randomUUID(), name: 'R. Thorne', role: 'site owner', note: 'seen on the 2nd' };
    expect((await lead.post(`/api/jobs/${jobId}/sign-offs`, sent)).status).toBe(422);
    await lead.post(`/api/links/${detail.link.id}/handover`, { id: randomUUID() }).expect(200);
    const { body } = await lead.post(`/api/jobs/${jobId}/sign-offs`, sent).expect(200);
    expect([body.links, body.name, body.by]).toEqual([1, 'R. Thorne', 'Ines']);
    expect((await lead.post(`/api/jobs/${jobId}/sign-offs`, sent).expect(200)).body).toEqual(body);
    await lead.post(`/api/jobs/${jobId}/sign-offs`, { ...sent, name: 'X' }).expect(409);
    const sealed = (await lead.get(`/api/jobs/${jobId}/sign-offs/${sent.id}/seal`).expect(200))
      .body as JobSeal;
    const now = async () => (await lead.get(`/api/jobs/${jobId}/seal`).expect(200)).body as JobSeal;
    expect(changesSince(sealed, await now())).toEqual([]);
    await lead.patch(`/api/links/${detail.link.id}`, { version: 1, lengthM: 33 }).expect(200);
    await lead.post(`/api/links/${detail.link.id}/tests`, mapTest()).expect(200);
    const changes = changesSince(sealed, await now());
    expect(changes.map(({ code }) => code)).toEqual(['plan-changed', 'record-added']);
    expect(changes.every(isOrdinary)).toBeTrue();
    await lead.get(`/api/jobs/${jobId}/sign-offs/${randomUUID()}/seal`).expect(404);
  });

  it('finds each of 200 random single changes made in the tables after somebody signed', async () => {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const links = ['A', 'B', 'C'].map((label, n) =>
      newLink({ label, port: String(n), outlet: label, route: [{ name: 'tray', lengthM: 20 }] }),
    );
    await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    for (const { id } of links)
      for (const [what, body] of [
        ...bothEnds(),
        ['tests', mapTest(exchanged)],
        ['cable-work', { id: randomUUID(), kind: 'mended', atM: 4, note: 'by the tray' }],
        ['terminations', termination('far', { lot: 'b7', reason: 'order' })],
        ['tests', mapTest()],
        ['notes', { id: randomUUID(), end: 'far', words: 'by the sink', jpeg: picture().toString('base64') }],
        handedOver(),
      ] as const)
        await lead.post(`/api/links/${id}/${what}`, body).expect(200);
    const sent = { id: randomUUID(), name: 'R. Thorne', role: 'owner' };
    await lead.post(`/api/jobs/${job.id}/sign-offs`, sent).expect(200);
    const sealed = (await lead.get(`/api/jobs/${job.id}/sign-offs/${sent.id}/seal`)).body as JobSeal;
    const random = seeded(20261129);
    const other = await enter(it1, 'technician', 'Marit');
    const tables = ['termination_attempt', 'cable_work', 'test_record', 'handover', 'link_note', 'link'];
    for (const table of tables) await it1.query(`ALTER TABLE ${table} DISABLE TRIGGER USER`);
    const columns = await sealedColumns(it1, tables);
    for (let n = 0; n < 200; n++) {
      const { table, column, type } = pick(columns, random);
      const link = pick(links, random).id;
      const { rows } = await it1.query(
        `SELECT id, to_jsonb("${column}") AS was FROM ${table} WHERE ${table === 'link' ? 'id' : 'link_id'} = $1 ORDER BY ${table === 'link' ? 'id' : 'turn'}`,
        [link],
      );
      const row = pick(rows, random) as { id: string; was: unknown };
      const set = (value: unknown) =>
        it1.query(
          `UPDATE ${table} SET "${column}" = ${type === 'jsonb' ? '$2::jsonb' : `($2::jsonb #>> '{}')::${type}`} WHERE id = $1`,
          [row.id, JSON.stringify(value)],
        );
      await set(otherThan(row.was, { column, random, crewId: other.id }));
      const now = (await lead.get(`/api/jobs/${job.id}/seal`).expect(200)).body as JobSeal;
      expect(changesSince(sealed, now).length).withContext(`${n}: ${table}.${column}`).toBeGreaterThan(0);
      await set(row.was);
    }
    const now = (await lead.get(`/api/jobs/${job.id}/seal`)).body as JobSeal;
    expect(changesSince(sealed, now)).toEqual([]);
  });
});

function pick<T>(some: readonly T[], random: () => number): T {
  const one = some[Math.floor(random() * some.length)];
  if (one === undefined) throw new Error('nothing to pick from');
  return one;
}

/** Columns that say something of what was done, read or planned; not those that follow from others, nor their order in the table. */
async function sealedColumns(
  { query }: TestApp,
  tables: readonly string[],
): Promise<{ table: string; column: string; type: string }[]> {
  const { rows } = await query(
    `SELECT table_name AS table, column_name AS column, CASE WHEN data_type = 'USER-DEFINED' THEN udt_name ELSE data_type END AS type
     FROM information_schema.columns WHERE table_name = ANY($1)`,
    [tables],
  );
  const planned = ['label', 'length_m', 'route', 'carries'];
  const unsaid = [
    'id',
    'of_crew',
    'link_id',
    'seq',
    'connector_type_id',
    'corrects',
    'test_id',
    'photo_sha256',
  ];
  return (rows as { table: string; column: string; type: string }[]).filter(({ table, column }) =>
    table === 'link' ? planned.includes(column) : !unsaid.includes(column),
  );
}

/** Another value that the column takes. */
function otherThan(
  was: unknown,
  { column, random, crewId }: { column: string; random: () => number; crewId: string },
): unknown {
  if (column === 'by') return crewId;
  if (column === 'jpeg_base64') return picture(9).toString('base64');
  if (column === 'at' || column === 'device_at')
    return new Date((was === null ? 0 : Date.parse(String(was))) + 1000).toISOString();
  const kinds: Readonly<Record<string, readonly string[]>> = {
    side: ['near', 'far'],
    outcome: ['good', 'spoiled'],
    kind: ['mended', 'replaced', 'outlet'],
    source: ['keyed', 'instrument'],
    end: ['near', 'far'],
  };
  const kind = kinds[column];
  if (kind) return kind.find((each) => each !== was);
  if (typeof was === 'boolean') return !was;
  // A turn is drawn once on a link: another than all that are there.
  if (column === 'turn') return Number(was) + 100;
  if (typeof was === 'number') return was + 1;
  if (typeof was === 'string') return `${was}x`;
  if (was === null) return 1.5;
  const keys = Object.keys(was as object);
  if (keys.length === 0) return Array.isArray(was) ? ['x'] : { x: 1 };
  const key = pick(keys, random);
  const inner = (was as Record<string, unknown>)[key];
  const next = inner === null ? 'x' : otherThan(inner, { column: '', random, crewId });
  return Array.isArray(was)
    ? was.map((each: unknown, n) => (String(n) === key ? next : each))
    : { ...(was as object), [key]: next };
}
