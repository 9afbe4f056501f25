import { randomUUID } from 'node:crypto';
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

describe('a plan that changes', () => {
  let app: TestApp;
  let lead: Caller;
  let worker: Caller;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead', 'Ines');
    worker = await enter(app, 'technician', 'Tobi');
  });
  afterAll(() => app.close());

  /** A job with links A, B and C, of which nothing is recorded. */
  async function three() {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const links = ['A', 'B', 'C'].map((label) => newLink({ label }));
    await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    const [a, b, c] = links.map(({ id }) => id) as [string, string, string];
    const inPlan = async (): Promise<string[]> =>
      (await lead.get(`/api/jobs/${job.id}/links`).expect(200)).body.map((l: { label: string }) => l.label);
    return { jobId: job.id, a, b, c, inPlan };
  }
  const log = async (jobId: string): Promise<string[]> =>
    (await lead.get(`/api/jobs/${jobId}/activity`)).body.map((entry: { what: string }) => entry.what);

  describe('links that are not wanted any more', () => {
    it('go out of lists and counts, and come back as they were', async () => {
      const { jobId, a, inPlan } = await three();
      const out = await worker
        .post(`/api/jobs/${jobId}/links/out`, { links: [{ id: a, version: 1 }], reason: '' })
        .expect(200);
      expect(out.body).toHaveSize(1);
      expect(out.body[0].out.by).toBe('Tobi');
      expect(await inPlan()).toEqual(['B', 'C']);
      const jobs = (await lead.get('/api/jobs')).body as { id: string; stages: { planned: number } }[];
      expect(jobs.find(({ id }) => id === jobId)?.stages.planned).toBe(2);
      const { body } = await worker
        .post(`/api/jobs/${jobId}/links/back`, { links: [{ id: a, version: 2 }] })
        .expect(200);
      expect(body[0].out).toBeUndefined();
      expect([body[0].standing, body[0].nextStep]).toEqual(['not begun', 'Terminate the near end']);
      expect(await inPlan()).toEqual(['A', 'B', 'C']);
      expect((await log(jobId)).slice(0, 2)).toEqual([
        'brought it back into the job',
        'took it out of the job',
      ]);
    });

    it('with a record only for a lead, who says why; the record stays and nothing is added to it', async () => {
      const { jobId, linkId } = await jobWithLink(lead);
      const first = termination('near');
      await lead.post(`/api/links/${linkId}/terminations`, first).expect(200);
      await lead.post(`/api/links/${linkId}/terminations`, termination('far')).expect(200);
      await lead.post(`/api/links/${linkId}/tests`, mapTest()).expect(200);
      const path = `/api/jobs/${jobId}/links/out`;
      const links = [{ id: linkId, version: 1 }];
      await worker.post(path, { links, reason: 'moved' }).expect(403);
      await lead.post(path, { links, reason: '' }).expect(422);
      await lead.post(path, { links, reason: 'the wall comes down' }).expect(200);
      const { body } = await lead.get(`/api/links/${linkId}`).expect(200);
      expect(body.link.out.reason).toBe('the wall comes down');
      expect(body.link.standing).toBe('taken out of the job: the wall comes down');
      expect([body.tests.length, body.terminations.length]).toEqual([1, 2]);
      const refused = await lead.post(`/api/links/${linkId}/tests`, mapTest());
      expect([refused.status, refused.body.title]).toEqual([409, 'Taken out of the job']);
      await lead.post(`/api/links/${linkId}/handover`, { id: randomUUID() }).expect(409);
      await lead.patch(`/api/links/${linkId}`, { version: 2, lengthM: 12 }).expect(409);
      // What was recorded before is a repeat, and no record.
      await lead.post(`/api/links/${linkId}/terminations`, first).expect(200);
      await lead.post(`/api/jobs/${jobId}/links/back`, { links: [{ id: linkId, version: 2 }] }).expect(200);
      expect((await lead.get(`/api/links/${linkId}`)).body.link.stage).toBe('proved');
    });

    it('all or none, not over what changed meanwhile, and twice does no harm', async () => {
      const { jobId, a, b, inPlan } = await three();
      await lead.patch(`/api/links/${b}`, { version: 1, lengthM: 40 }).expect(200);
      const path = `/api/jobs/${jobId}/links/out`;
      const stale = await lead.post(path, {
        links: [a, b].map((id) => ({ id, version: 1 })),
        reason: '',
      });
      expect([stale.status, stale.body.current.label]).toEqual([409, 'B']);
      expect(await inPlan()).toEqual(['A', 'B', 'C']);
      const sent = { links: [{ id: a, version: 1 }], reason: '' };
      await lead.post(path, sent).expect(200);
      const again = await lead.post(path, sent).expect(200);
      expect(again.body[0].version).toBe(2);
      expect((await log(jobId)).filter((what) => what === 'took it out of the job')).toHaveSize(1);
    });

    it('leave label and port to others, and do not come back over them', async () => {
      const { jobId, a } = await three();
      await lead
        .post(`/api/jobs/${jobId}/links/out`, { links: [{ id: a, version: 1 }], reason: '' })
        .expect(200);
      const next = newLink({ label: 'A' });
      await lead.post(`/api/jobs/${jobId}/links`, { links: [next] }).expect(200);
      const back = { links: [{ id: a, version: 2 }] };
      expect((await lead.post(`/api/jobs/${jobId}/links/back`, back)).body.title).toBe('Label taken');
      await lead.patch(`/api/links/${next.id}`, { version: 1, label: 'A2' }).expect(200);
      expect((await lead.post(`/api/jobs/${jobId}/links/back`, back)).body.title).toBe('Port taken');
    });

    it('are found with what became of them', async () => {
      const { jobId, a } = await three();
      const links = [{ id: a, version: 1 }];
      await lead.post(`/api/jobs/${jobId}/links/out`, { links, reason: 'quincunx hall' }).expect(200);
      const found = await lead.get('/api/search/quincunx').expect(200);
      expect(found.body.links[0]?.linkId).toBe(a);
    });
  });

  describe('labels and ports', () => {
    it('are each one link’s', async () => {
      const { jobId, b } = await three();
      const { body, status } = await lead.post(`/api/jobs/${jobId}/links`, {
        links: [newLink({ label: 'D', port: 'B' })],
      });
      expect([status, body.detail]).toEqual([409, 'Port B of P1 is B’s already. Give another port.']);
      expect((await lead.patch(`/api/links/${b}`, { version: 1, port: 'A' })).body.errors).toEqual([
        { path: 'port', message: 'It is A’s already.' },
      ]);
      expect((await lead.patch(`/api/links/${b}`, { version: 1, label: 'C' })).body.title).toBe(
        'Label taken',
      );
    });

    it('change hands in one go', async () => {
      const { jobId, a, b, c, inPlan } = await three();
      const changes = [
        { id: a, version: 1, label: 'B', port: 'C' },
        { id: b, version: 1, label: 'C', port: 'A' },
        { id: c, version: 1, label: 'A', port: 'B' },
      ];
      await lead.patch(`/api/jobs/${jobId}/links`, { changes }).expect(200);
      expect(await inPlan()).toEqual(['B', 'C', 'A']);
      expect(await log(jobId)).toContain('changed label from A to B; port from A to C');
      const twice = await lead.patch(`/api/jobs/${jobId}/links`, {
        changes: [
          { id: a, version: 2, label: 'X' },
          { id: b, version: 2, label: 'X' },
        ],
      });
      expect([twice.status, twice.body.title]).toEqual([409, 'Label taken']);
      expect(await inPlan()).toEqual(['B', 'C', 'A']);
    });

    it('are given to one of two who ask at once, and no link is changed twice in one sending', async () => {
      const { jobId, a, b } = await three();
      const answers = await Promise.all(
        [a, b].map((id) => lead.patch(`/api/links/${id}`, { version: 1, port: '40' })),
      );
      expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
      const changes = [2, 2].map((version) => ({ id: a, version, lengthM: 20 }));
      const now = (await lead.get(`/api/links/${a}`)).body.link.version as number;
      const twice = await lead.patch(`/api/jobs/${jobId}/links`, {
        changes: changes.map((change) => ({ ...change, version: now })),
      });
      expect([twice.status, twice.body.errors[0].message]).toEqual([422, 'A is changed twice in this.']);
    });

    it('that two links had from before do not stop other changes', async () => {
      const { jobId, a, b } = await three();
      await app.query(
        `UPDATE link_end SET place_id = (SELECT place_id FROM link_end WHERE link_id = $1 AND side = 'near')
         WHERE link_id = $2 AND side = 'near'`,
        [a, b],
      );
      const { body } = await lead.get(`/api/jobs/${jobId}/links`);
      const { near } = body.find(({ id }: { id: string }) => id === b);
      const change = { version: 1, panel: near.panel, port: near.port, lengthM: 44 };
      expect((await lead.patch(`/api/links/${b}`, change).expect(200)).body.lengthM).toBe(44);
    });
  });

  describe('a job', () => {
    it('that is closed is read and not changed, until it is reopened', async () => {
      const { jobId, a } = await three();
      const closed = await lead.patch(`/api/jobs/${jobId}`, { version: 1, closed: true }).expect(200);
      expect(closed.body.closedAt).toBeDefined();
      await lead.get(`/api/links/${a}`).expect(200);
      for (const refused of [
        lead.post(`/api/links/${a}/terminations`, termination('near')),
        lead.patch(`/api/links/${a}`, { version: 1, lengthM: 12 }),
        lead.post(`/api/jobs/${jobId}/links`, { links: [newLink({ label: 'D' })] }),
        lead.post(`/api/jobs/${jobId}/links/out`, { links: [{ id: a, version: 1 }], reason: '' }),
        lead.patch(`/api/jobs/${jobId}`, { version: 2, hub: 'CR-2' }),
      ])
        expect((await refused).body.title).toBe('The job is closed');
      const open = await lead.patch(`/api/jobs/${jobId}`, { version: 2, closed: false }).expect(200);
      expect(open.body.closedAt).toBeUndefined();
      await lead.post(`/api/links/${a}/terminations`, termination('near')).expect(200);
      expect((await log(jobId)).filter((what) => what.endsWith('the job'))).toEqual([
        'reopened the job',
        'closed the job',
      ]);
    });

    it('lends another its plan and nothing of its record, once', async () => {
      const { jobId, a, b } = await three();
      await lead.post(`/api/links/${b}/terminations`, termination('near')).expect(200);
      await lead
        .post(`/api/jobs/${jobId}/links/out`, { links: [{ id: a, version: 1 }], reason: '' })
        .expect(200);
      const copy = { id: randomUUID(), site: 'Test site', title: 'Second floor', hub: 'CR-12' };
      await worker.post(`/api/jobs/${jobId}/copies`, copy).expect(403);
      await lead.post(`/api/jobs/${jobId}/copies`, copy).expect(200);
      await lead.post(`/api/jobs/${jobId}/copies`, copy).expect(200);
      await lead.post(`/api/jobs/${jobId}/copies`, { ...copy, title: 'Third floor' }).expect(409);
      const { body } = await lead.get(`/api/jobs/${copy.id}/links`).expect(200);
      expect(
        body.map((l: { label: string; stage: string; near: { hub: string } }) => [
          l.label,
          l.stage,
          l.near.hub,
        ]),
      ).toEqual([
        ['B', 'planned', 'CR-12'],
        ['C', 'planned', 'CR-12'],
      ]);
    });
  });
});
