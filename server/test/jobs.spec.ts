import pg from 'pg';
import {
  enter,
  jobWithLink,
  mapTest,
  newJob,
  newLink,
  startApp,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

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

  it('shows a job of a thousand links by as many statements as one of three', async () => {
    const asked = spyOn(pg.Client.prototype, 'query').and.callThrough();
    const statements = async (count: number): Promise<number> => {
      const job = newJob();
      await lead.post('/api/jobs', job).expect(200);
      const links = Array.from({ length: count }, (_, n) => newLink({ label: `L-${n}`, port: String(n) }));
      await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
      asked.calls.reset();
      const { body } = await lead.get(`/api/jobs/${job.id}/links`).expect(200);
      expect((body as unknown[]).length).toBe(count);
      return asked.calls.count();
    };
    const few = await statements(3);
    expect(await statements(1000)).toBe(few);
    // Who asks, the job with its figures, its links.
    expect(few).toBeLessThanOrEqual(4);
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
