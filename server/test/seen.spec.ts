import { Writable } from 'node:stream';
import { pino } from 'pino';
import supertest from 'supertest';
import { enter, jobWithLink, startApp, type Caller, type TestApp } from './harness.js';

describe('what the server does is seen', () => {
  let it1: TestApp;
  let lead: Caller;
  let jobId: string;
  const lines: string[] = [];
  beforeAll(async () => {
    const into = new Writable({
      write: (chunk: Buffer, _encoding, done) => {
        lines.push(chunk.toString());
        done();
      },
    });
    it1 = await startApp({ log: pino({ level: 'warn' }, into) });
    lead = await enter(it1, 'lead', 'Ines');
    ({ jobId } = await jobWithLink(lead));
  });
  afterAll(() => it1.close());

  it('every answer has a number of its own', async () => {
    const numbers = [];
    for (let n = 0; n < 5; n++)
      numbers.push((await lead.get('/api/jobs').expect(200)).headers['x-request-id']);
    expect(new Set(numbers).size).toBe(5);
    for (const number of numbers) expect(number).toMatch(/^[0-9a-f]{10}$/);
  });

  it('what fails tells its number, under which the log says why, and no secret', async () => {
    await it1.query('ALTER TABLE activity RENAME TO activity_gone');
    const answer = await lead.get(`/api/jobs/${jobId}/activity`).expect(500);
    await it1.query('ALTER TABLE activity_gone RENAME TO activity');
    const { request } = answer.body as { request: string };
    expect(request).toBe(answer.headers['x-request-id'] as string);
    const about = lines.filter((line) => line.includes(request));
    expect(about.join()).toContain('activity');
    for (const secret of [lead.token, lead.cookie.split('=')[1] ?? lead.cookie])
      expect(lines.join()).not.toContain(secret);
    // What a person did wrong is told to that person alone.
    const refused = await lead.get('/api/jobs/not-an-id').expect(404);
    expect((refused.body as { request?: string }).request).toBeUndefined();
    expect(lines.join()).not.toContain(String(refused.headers['x-request-id']));
  });

  it('counts requests, connections and what waits, for this machine alone', async () => {
    for (let n = 0; n < 4; n++) await lead.get('/api/jobs').expect(200);
    const told = await supertest(it1.app).get('/metrics').expect(200);
    expect(told.headers['content-type']).toContain('text/plain');
    const counted = (name: string): number =>
      told.text
        .split('\n')
        .filter((line) => line.startsWith(name))
        .reduce((sum, line) => sum + Number(line.split(' ').at(-1)), 0);
    expect(counted('near_spoke_request_seconds_count')).toBeGreaterThan(3);
    expect(counted('near_spoke_database_connections')).toBeGreaterThan(0);
    expect(told.text).toContain('near_spoke_waiting{for="verdict"} 0');
    expect(told.text).toContain('near_spoke_nodejs_eventloop_lag');
    for (const header of ['X-Forwarded-For', 'Forwarded'])
      await supertest(it1.app).get('/metrics').set(header, 'for=192.0.2.7').expect(404);
  });
});
