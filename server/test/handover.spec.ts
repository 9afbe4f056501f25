import { randomUUID } from 'node:crypto';
import { createServer, get, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { endHandovers } from '../src/handover/handover.js';
import { readJob } from '../src/jobs/store.js';
import { readDetails } from '../src/links/record.js';
import { readLinks } from '../src/links/store.js';
import { enter, mapTest, newJob, newLink, startApp, straight, type Caller, type TestApp } from './harness.js';

/** More than are read at a time. */
const MANY = 230;

describe('the handover of a job of many links', () => {
  let it1: TestApp;
  let lead: Caller;
  let jobId: string;
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Ines');
    const job = newJob();
    jobId = job.id;
    await lead.post('/api/jobs', job).expect(200);
    const links = Array.from({ length: MANY }, (_, n) => ({
      ...newLink(),
      label: `L-${String(n).padStart(3, '0')}`,
      port: String(n),
      outlet: `outlet ${n}`,
    }));
    await lead.post(`/api/jobs/${jobId}/links`, { links }).expect(200);
    for (const { id } of [links[0], links[7], links[MANY - 1]].filter((each) => each !== undefined))
      await lead.post(`/api/links/${id}/tests`, mapTest(straight)).expect(200);
  });
  afterAll(async () => {
    await endHandovers();
    await it1.close();
  });

  it('has every link once, in order, in the table and in the file, whole at every seam', async () => {
    const csv = (await lead.get(`/api/jobs/${jobId}/handover.csv`).expect(200)).text;
    const labels = Array.from({ length: MANY }, (_, n) => `L-${String(n).padStart(3, '0')}`);
    expect(
      csv
        .trim()
        .split('\r\n')
        .slice(1)
        .map((line) => line.split('","')[0]?.replace('"', '')),
    ).toEqual(labels);
    const json = JSON.parse((await lead.get(`/api/jobs/${jobId}/handover.json`).expect(200)).text) as {
      format: string;
      links: { link: { label: string }; tests: unknown[]; diagnosis: unknown }[];
    };
    expect(json.links.map(({ link }) => link.label)).toEqual(labels);
    expect(json.links.filter(({ tests, diagnosis }) => tests.length === 1 && diagnosis).length).toBe(3);
  });

  it('is read by a handful of statements, however many links there are', async () => {
    const { db } = it1.database;
    await inCrew(FIRST_CREW, async () => {
      const [job, links] = [await readJob(db, jobId), await readLinks(db, { jobId })];
      const asked = spyOn(pg.Client.prototype, 'query').and.callThrough();
      const details = await readDetails(db, links, job);
      expect(details.length).toBe(MANY);
      expect(asked.calls.count()).toBeLessThanOrEqual(4);
    });
  });

  it('is not begun for a job that is not there, nor for a stranger', async () => {
    const viewer = await enter(it1, 'viewer');
    for (const file of ['report/links/report.pdf', 'handover.csv', 'handover.json', 'archive.zip']) {
      await lead.get(`/api/jobs/${randomUUID()}/${file}`).expect(404);
      const { body } = await viewer.get(`/api/jobs/${jobId}/${file}`).expect(200);
      expect(body).withContext(file).toBeDefined();
    }
  });

  it('ends when who asked has left, and the next is served', async () => {
    const server: Server = createServer(it1.app).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const { port } = server.address() as AddressInfo;
    for (let n = 0; n < 6; n++)
      await new Promise<void>((resolve) => {
        const request = get(
          { port, path: `/api/jobs/${jobId}/handover.json`, headers: { cookie: lead.cookie } },
          (response) => {
            response.once('data', () => {
              response.destroy();
              resolve();
            });
          },
        );
        request.on('error', () => resolve());
      });
    const after = await lead.get(`/api/jobs/${jobId}/handover.csv`).expect(200);
    expect(after.text.trim().split('\r\n').length).toBe(MANY + 1);
    await new Promise((resolve) => server.close(resolve));
  });
});
