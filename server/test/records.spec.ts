import { randomUUID } from 'node:crypto';
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

describe('jobs and links', () => {
  let it1: TestApp;
  let lead: Caller;
  let tech: Caller;
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Lead');
    tech = await enter(it1, 'technician', 'Tech');
  });
  afterAll(() => it1.close());

  const stageOf = async (linkId: string): Promise<string> =>
    (await lead.get(`/api/links/${linkId}`)).body.link.stage;

  describe('creating', () => {
    it('twice with the same id makes one', async () => {
      const job = newJob();
      const first = await lead.post('/api/jobs', job).expect(200);
      const again = await lead.post('/api/jobs', job).expect(200);
      expect(again.body).toEqual(first.body);
      const link = newLink();
      await lead.post(`/api/jobs/${job.id}/links`, { links: [link] }).expect(200);
      await lead.post(`/api/jobs/${job.id}/links`, { links: [link] }).expect(200);
      expect((await lead.get(`/api/jobs/${job.id}/links`)).body.length).toBe(1);
    });

    it('many links with one bad among them makes none', async () => {
      const job = newJob();
      await lead.post('/api/jobs', job).expect(200);
      const links = [newLink({ label: 'A-1' }), newLink({ label: 'A-2', cableTypeId: 'string-and-cans' })];
      const { body } = await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(422);
      expect(body.errors[0].path).toBe('links[1].cableTypeId');
      expect((await lead.get(`/api/jobs/${job.id}/links`)).body).toEqual([]);
    });

    it('refuses a label the job already has, and takes it in another job', async () => {
      const { jobId } = await jobWithLink(lead, { label: 'X-1' });
      const again = await lead.post(`/api/jobs/${jobId}/links`, { links: [newLink({ label: 'X-1' })] });
      expect(again.status).toBe(409);
      expect((await jobWithLink(lead, { label: 'X-1' })).jobId).not.toBe(jobId);
    });

    it('refuses an id that names a link of another job', async () => {
      const { linkId } = await jobWithLink(lead);
      const job = newJob();
      await lead.post('/api/jobs', job).expect(200);
      const taken = await lead.post(`/api/jobs/${job.id}/links`, { links: [newLink({ id: linkId })] });
      expect(taken.status).toBe(409);
    });
  });

  describe('two people at one plan', () => {
    it('refuses the stale write with both values and who changed it', async () => {
      const { linkId } = await jobWithLink(lead);
      await tech.patch(`/api/links/${linkId}`, { version: 1, lengthM: 35 }).expect(200);
      const { body } = await lead.patch(`/api/links/${linkId}`, { version: 1, lengthM: 40 }).expect(409);
      expect(body.changedBy).toBe('Tech');
      expect(body.current.lengthM).toBe(35);
      await lead.patch(`/api/links/${linkId}`, { version: 2, lengthM: 40 }).expect(200);
    });

    it('lets exactly one of two simultaneous writes through', async () => {
      const { linkId } = await jobWithLink(lead);
      const both = await Promise.all([
        lead.patch(`/api/links/${linkId}`, { version: 1, outlet: 'a' }),
        tech.patch(`/api/links/${linkId}`, { version: 1, outlet: 'b' }),
      ]);
      expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    });
  });

  describe('the way of one link', () => {
    it('goes from planned to handed over, and every step is on the log', async () => {
      const { jobId, linkId } = await jobWithLink(lead);
      const at = `/api/links/${linkId}`;
      expect(await stageOf(linkId)).toBe('planned');
      await tech.post(`${at}/terminations`, termination('near')).expect(200);
      expect(await stageOf(linkId)).toBe('one-end');
      await tech.post(`${at}/terminations`, termination('far', { connectorsSpoiled: 1 })).expect(200);
      const exchanged = { ...straight, 1: ['2'], 2: ['1'] };
      const failed = await tech.post(`${at}/tests`, mapTest(exchanged)).expect(200);
      expect(failed.body.link.standing).toBe('1 and 2 exchanged');
      expect(failed.body.diagnosis.nextLook.instrument).toBe('eye');
      const colours = { 1: 'OG', 2: 'WH-OG', 3: 'WH-GN', 4: 'BU', 5: 'WH-BU', 6: 'GN', 7: 'WH-BN', 8: 'BN' };
      const looked = await tech
        .post(`${at}/tests`, { ...mapTest(), reading: { instrument: 'eye', end: 'far', colours } })
        .expect(200);
      expect(looked.body.diagnosis.repair.places).toEqual(['far']);
      await tech.post(`${at}/terminations`, termination('far')).expect(200);
      expect(await stageOf(linkId)).toBe('both-ends');
      await lead.post(`${at}/handover`, { id: randomUUID() }).expect(422);
      await tech.post(`${at}/tests`, mapTest()).expect(200);
      expect(await stageOf(linkId)).toBe('proved');
      await lead.post(`${at}/handover`, { id: randomUUID() }).expect(200);
      expect(await stageOf(linkId)).toBe('handed-over');
      const log = (await lead.get(`/api/jobs/${jobId}/activity`)).body as { what: string; by: string }[];
      expect(log.map((entry) => `${entry.by} ${entry.what}`).reverse()).toEqual([
        'Lead started the job Test job',
        'Lead planned L-01',
        'Tech terminated the near end',
        'Tech terminated the far end, 1 spoiled',
        'Tech tested with coded mapper: 1 and 2 exchanged',
        'Tech tested with colours read by eye: 1 and 2 exchanged',
        'Tech terminated the far end',
        'Tech tested with coded mapper: Map right',
        'Lead handed over',
      ]);
    });

    it('records a retried reading once', async () => {
      const { linkId } = await jobWithLink(lead);
      const test = mapTest();
      await tech.post(`/api/links/${linkId}/tests`, test).expect(200);
      const { body } = await tech.post(`/api/links/${linkId}/tests`, test).expect(200);
      expect(body.tests.length).toBe(1);
    });

    it('keeps a corrected reading on record and judges by the correction', async () => {
      const { linkId } = await jobWithLink(lead);
      const at = `/api/links/${linkId}`;
      await tech.post(`${at}/terminations`, termination('near'));
      await tech.post(`${at}/terminations`, termination('far'));
      const slip = mapTest({ ...straight, 1: [] });
      await tech.post(`${at}/tests`, slip).expect(200);
      const { body } = await tech.post(`${at}/tests`, mapTest(straight, { corrects: slip.id })).expect(200);
      expect(body.link.stage).toBe('proved');
      expect(body.tests.length).toBe(2);
    });

    it('asks that both ends are unplugged before any reading', async () => {
      const { linkId } = await jobWithLink(lead);
      const { body } = await tech
        .post(`/api/links/${linkId}/tests`, { ...mapTest(), unplugged: false })
        .expect(400);
      expect(body.errors[0]).toEqual({
        path: 'unplugged',
        message: 'Confirm first that both ends are unplugged and dead.',
      });
    });
  });

  describe('what was measured', () => {
    for (const table of [
      'termination_attempt',
      'cable_work',
      'test_record',
      'trace_record',
      'reel_entry',
      'velocity_figure',
      'adapter_version',
      'adapter_build',
      'adapter_photo',
      'link_note',
      'loose_end',
      'loose_given',
      'loose_photo',
      'drill_answer',
      'together_told',
      'handover',
      'activity',
    ]) {
      it(`cannot be rewritten or deleted, not even in SQL: ${table}`, async () => {
        for (const statement of [
          `UPDATE ${table} SET at = now()`,
          `DELETE FROM ${table}`,
          `TRUNCATE ${table} CASCADE`,
        ]) {
          await expectAsync(it1.query(statement))
            .withContext(statement)
            .toBeRejectedWithError(/append-only|cannot truncate/);
        }
      });
    }

    it('is not half-written when the transaction fails', async () => {
      const { linkId } = await jobWithLink(lead);
      const before = (await it1.query('SELECT count(*)::int AS n FROM activity')).rows[0].n as number;
      await tech
        .post(`/api/links/${linkId}/terminations`, termination('near', { connectorTypeId: 'none such' }))
        .expect(422);
      await tech
        .post(`/api/links/${linkId}/terminations`, termination('near', { corrects: randomUUID() }))
        .expect(422);
      expect((await it1.query('SELECT count(*)::int AS n FROM activity')).rows[0].n).toBe(before);
      expect((await lead.get(`/api/links/${linkId}`)).body.terminations).toEqual([]);
    });
  });

  describe('bad input', () => {
    const refused = async (body: object, linkId: string) =>
      (await tech.post(`/api/links/${linkId}/tests`, body)).body as {
        status: number;
        detail: string;
        errors: { path: string }[];
      };

    it('names a contact that the link does not have', async () => {
      const { linkId } = await jobWithLink(lead);
      const problem = await refused(mapTest({ ...straight, 9: ['9'] }), linkId);
      expect([problem.status, problem.errors[0]?.path]).toEqual([422, 'reading.arrivals.9']);
    });

    it('takes a short for a short and saves it', async () => {
      const { linkId } = await jobWithLink(lead);
      const { body } = await tech
        .post(`/api/links/${linkId}/tests`, mapTest({ ...straight, 2: ['1'] }))
        .expect(200);
      expect(body.diagnosis.findings[0].kind).toBe('short');
    });

    it('keeps markup in names as the text it is', async () => {
      const { jobId } = await jobWithLink(lead, { outlet: '<img src=x onerror=alert(1)>' });
      expect((await lead.get(`/api/jobs/${jobId}/links`)).body[0].far.outlet).toBe(
        '<img src=x onerror=alert(1)>',
      );
    });

    for (const [what, send] of [
      [
        'a 10 MB body',
        (caller: Caller) => caller.post('/api/jobs', newJob({ title: 'x'.repeat(10_000_000) })),
      ],
      [
        'broken JSON',
        (caller: Caller) => caller.post('/api/jobs').set('Content-Type', 'application/json').send('{"id":'),
      ],
      ['a list for an object', (caller: Caller) => caller.post('/api/jobs', [])],
      ['an unknown field', (caller: Caller) => caller.post('/api/jobs', newJob({ colour: 'red' }))],
      ['a null character', (caller: Caller) => caller.post('/api/jobs', newJob({ title: 'a\u0000b' }))],
      ['an id that is none', (caller: Caller) => caller.get('/api/links/42')],
      ['an address that cannot be read', (caller: Caller) => caller.get('/api/links/%E0%A4%A')],
      [
        'an endless number',
        (caller: Caller) =>
          caller.post('/api/jobs').set('Content-Type', 'application/json').send('{"version":1e999}'),
      ],
      ['an unknown address', (caller: Caller) => caller.get('/api/nothing/here')],
      [
        'a link of no job',
        (caller: Caller) => caller.post(`/api/jobs/${randomUUID()}/links`, { links: [newLink()] }),
      ],
    ] as const) {
      it(`answers ${what} with problem details, no 500 and no stack`, async () => {
        const response = await send(lead);
        expect(response.status).toBeGreaterThanOrEqual(400);
        expect(response.status).toBeLessThan(500);
        expect(response.headers['content-type']).toContain('application/problem+json');
        const problem = JSON.parse(response.text) as { title: string; detail: string };
        expect(problem.detail.length).toBeGreaterThan(10);
        expect(response.text).not.toContain('node_modules');
      });
    }
  });
});
