import { randomUUID } from 'node:crypto';
import type { LinkDetail } from '@near-spoke/contracts';
import { csvHead, csvRow } from '../src/handover/csv.js';
import { makeSheet } from '../src/handover/sheet.js';
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

describe('the handover sheet', () => {
  let it1: TestApp;
  let lead: Caller;
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Ines');
  });
  afterAll(() => it1.close());

  /** Does these things to a link in order and answers the sheet. */
  async function sheetAfter(...steps: [string, object][]) {
    const { jobId, linkId } = await jobWithLink(lead);
    for (const [what, body] of steps) await lead.post(`/api/links/${linkId}/${what}`, body).expect(200);
    const job = ((await lead.get('/api/jobs')).body as { id: string }[]).find((j) => j.id === jobId);
    const detail = (await lead.get(`/api/links/${linkId}`)).body as LinkDetail;
    return makeSheet({
      job: job as never,
      details: [detail],
      cableNames: new Map([['cat6-u', 'Cat 6 unscreened']]),
    });
  }
  const ends: [string, object][] = [
    ['terminations', termination('near')],
    ['terminations', termination('far', { connectorsSpoiled: 2 })],
  ];
  const bothEnds = (): [string, object][] =>
    ends.map(([what, body]) => [what, { ...body, id: randomUUID() }]);
  const exchanged = { ...straight, 1: ['2'], 2: ['1'] };

  it('says what a verdict rests on, what that cannot see, by whom, and what was spoiled', async () => {
    const { rows } = await sheetAfter(
      ...bothEnds(),
      ['tests', mapTest()],
      ['handover', { id: randomUUID() }],
    );
    expect(rows[0]).toEqual(
      jasmine.objectContaining({
        label: 'L-01',
        from: 'CR-9 P1 port 01',
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
    expect(rows[0]?.blindTo).toContain('split pair');
  });

  it('tells each failure with the work that mended it', async () => {
    const { repairs } = await sheetAfter(
      ...bothEnds(),
      ['tests', mapTest(exchanged)],
      ['terminations', termination('far')],
      ['tests', mapTest()],
    );
    expect(repairs.map(({ label, found, mended }) => ({ label, found, mended }))).toEqual([
      { label: 'L-01', found: '1 and 2 exchanged', mended: 'far end redone by Ines' },
    ]);
  });

  it('says that a failure is not mended yet', async () => {
    const { repairs, rows } = await sheetAfter(...bothEnds(), ['tests', mapTest(exchanged)]);
    expect(repairs[0]?.mended).toBe('not mended yet');
    expect([rows[0]?.stage, rows[0]?.handedOverBy]).toEqual(['wrong', '']);
  });

  it('names nobody as having handed over a link that was worked on since', async () => {
    const { rows } = await sheetAfter(
      ...bothEnds(),
      ['tests', mapTest()],
      ['handover', { id: randomUUID() }],
      ['cable-work', { id: randomUUID(), kind: 'mended', atM: 3 }],
    );
    expect([rows[0]?.stage, rows[0]?.handedOverBy, rows[0]?.verdict]).toEqual([
      'to be tested',
      '',
      'not tested',
    ]);
  });

  it('begins its CSV with a byte order mark and ends every line as RFC 4180 says', async () => {
    const { rows } = await sheetAfter();
    const csv = csvHead + rows.map(csvRow).join('');
    expect(csv.startsWith('\ufefflabel,')).toBeTrue();
    expect(csv.endsWith('\r\n')).toBeTrue();
    expect(csv.trim().split('\r\n').length).toBe(2);
  });
});

describe('jobs and places', () => {
  let it1: TestApp;
  let lead: Caller;
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Ines');
  });
  afterAll(() => it1.close());

  it('refuses a stale change to a job with both values', async () => {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    await lead.patch(`/api/jobs/${job.id}`, { version: 1, hub: 'CR-2' }).expect(200);
    const { status, body } = await lead.patch(`/api/jobs/${job.id}`, { version: 1, hub: 'CR-3' });
    expect([status, body.current.hub, body.changedBy]).toEqual([409, 'CR-2', 'Ines']);
  });

  it('keeps each place once: two outlets of one room share it', async () => {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const links = [
      newLink({ label: 'A', port: '1', outlet: 'desk 1' }),
      newLink({ label: 'B', port: '2', outlet: 'desk 2' }),
    ];
    await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    const { rows } = await it1.query('SELECT kind, name FROM place WHERE job_id = $1 ORDER BY kind, name', [
      job.id,
    ]);
    expect(rows.map((row) => `${row.kind} ${row.name}`)).toEqual([
      'building Test site',
      'room CR-9',
      'room Hall',
      'panel P1',
      'port 1',
      'port 2',
      'outlet desk 1',
      'outlet desk 2',
    ]);
  });

  it('judges a link anew when its plan changes: another scheme of cable, another verdict', async () => {
    const { linkId } = await jobWithLink(lead);
    await lead.post(`/api/links/${linkId}/terminations`, termination('near')).expect(200);
    await lead.post(`/api/links/${linkId}/terminations`, termination('far')).expect(200);
    await lead.post(`/api/links/${linkId}/tests`, mapTest()).expect(200);
    const change = {
      version: 1,
      cableTypeId: 'cat6-f-outdoor',
      nearConnectorId: 'jack-punched-screened',
      farConnectorId: 'plug-outdoor',
    };
    const { body } = await lead.patch(`/api/links/${linkId}`, change).expect(200);
    expect([body.stage, body.standing]).toEqual(['failed', 'Screen open']);
  });

  it('ends a session that is out of date', async () => {
    const guest = await enter(it1, 'viewer', 'Guest');
    expect((await guest.get('/api/jobs')).status).toBe(200);
    await it1.query("UPDATE session SET expires_at = now() - interval '1 minute' WHERE crew_id = $1", [
      guest.id,
    ]);
    expect((await guest.get('/api/jobs')).status).toBe(401);
  });

  it('keeps a link’s length positive even against SQL', async () => {
    const { linkId } = await jobWithLink(lead);
    await expectAsync(
      it1.query('UPDATE link SET length_m = -1 WHERE id = $1', [linkId]),
    ).toBeRejectedWithError(/link_length/);
  });
});
