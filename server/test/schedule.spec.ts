import { randomUUID } from 'node:crypto';
import type { JobDays, Schedule } from '@near-spoke/contracts';
import { enter, jobWithLink, startApp, termination, type Caller, type TestApp } from './harness.js';

const said = (change: Partial<Schedule> = {}): Schedule => ({
  begins: '2026-11-30',
  people: [
    {
      name: 'Ines Varga',
      days: [1, 2, 3, 4, 5],
      from: 480,
      to: 960,
      pause: { from: 720, minutes: 30 },
      off: ['2026-12-24'],
      skills: ['pull', 'pairs', 'test'],
    },
  ],
  access: [{ place: 'Hall', days: [1, 2], from: 360, to: 540, notBefore: null, notAfter: '2026-12-11' }],
  minutes: { pull: 12, test: 6 },
  ...change,
});

describe('The days of a job', () => {
  let app: TestApp;
  let lead: Caller;
  let technician: Caller;
  let viewer: Caller;
  let path: string;
  let linkId: string;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    technician = await enter(app, 'technician');
    viewer = await enter(app, 'viewer');
    const made = await jobWithLink(lead);
    linkId = made.linkId;
    path = `/api/jobs/${made.jobId}/schedule`;
  });
  afterAll(() => app.close());

  it('are nobody’s until somebody says who works on it, and are not said over what another said meanwhile', async () => {
    const { body } = await viewer.get(path).expect(200);
    expect(body as JobDays).toEqual(jasmine.objectContaining({ schedule: null, version: 0, walkS: 120 }));
    expect(body.crew).toContain('technician');
    await technician.patch(path, { schedule: said(), version: 0 }).expect(200);
    const refused = await lead.patch(path, { schedule: said({ begins: null }), version: 0 }).expect(409);
    expect(refused.body.current.schedule).toEqual(said());
    await lead.patch(path, { schedule: said({ begins: null }), version: 1 }).expect(200);
    expect((await viewer.get(path).expect(200)).body.schedule.begins).toBeNull();
  });

  it('are refused by name where they cannot be', async () => {
    const [person] = said().people;
    const wrong: [object, string][] = [
      [{ people: [{ ...person, from: 900, to: 480 }] }, 'schedule.people[0].to'],
      [{ people: [person, person] }, 'schedule.people'],
      [{ people: [{ ...person, days: [] }] }, 'schedule.people[0].days'],
      [{ begins: '2026-02-30' }, 'schedule.begins'],
      [{ minutes: { pull: 0, test: 6 } }, 'schedule.minutes.pull'],
    ];
    for (const [change, where] of wrong) {
      const sent = { schedule: { ...said(), ...change }, version: 2 };
      const { body } = await technician.patch(path, sent).expect(400);
      expect(body.errors[0].path).toBe(where);
    }
    await viewer.patch(path, { schedule: said(), version: 2 }).expect(403);
    await viewer.get(`/api/jobs/${randomUUID()}/schedule`).expect(404);
  });

  it('know the crew’s pace by connector, and of nobody by name', async () => {
    for (let n = 0; n < 8; n++)
      await technician.post(`/api/links/${linkId}/terminations`, termination('near')).expect(200);
    const { times } = (await viewer.get(path).expect(200)).body as JobDays;
    // Eight in a few milliseconds say nothing of how long one takes, and are there.
    expect(times.map(({ known }) => known)).toEqual([7]);
    expect(JSON.stringify(times)).not.toContain('technician');
  });
});
