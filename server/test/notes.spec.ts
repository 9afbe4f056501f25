import { randomUUID } from 'node:crypto';
import type { AdapterRecord, JobLead, LinkDetail } from '@near-spoke/contracts';
import { imperfect, seededRandom, simulate } from '@near-spoke/core';
import { checkReport, dataInPage, type JobSeal, type ReportData } from '@near-spoke/core/report';
import { readFileSync } from 'node:fs';
import { endHandovers } from '../src/handover/handover.js';
import { bareJpeg } from '../src/jpeg.js';
import {
  DEMO,
  enter,
  jobWithLink,
  mapTest,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';
import { asTaken, picture } from './pictures.js';

const LOGGER = JSON.parse(readFileSync(`${DEMO}/adapters/tide-gauge-logger.adapter.json`, 'utf8')) as unknown;

describe('A photo', () => {
  it('is bared of all that a camera or program wrote beside the picture, and of nothing else', () => {
    expect(bareJpeg(asTaken())?.equals(picture())).toBeTrue();
    expect(bareJpeg(picture(7))?.equals(picture(7))).toBeTrue();
  });

  it('is refused where it ends before its picture, wherever it is cut', () => {
    const whole = asTaken();
    const begins = whole.indexOf(Buffer.from([0xff, 0xda]));
    for (let at = 0; at < begins; at++)
      expect(bareJpeg(whole.subarray(0, at)))
        .withContext(String(at))
        .toBeNull();
  });
});

describe('Notes and leads', () => {
  let app: TestApp;
  let lead: Caller;
  let jobId: string;
  let linkId: string;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead', 'Ines');
    ({ jobId, linkId } = await jobWithLink(lead));
  });
  afterAll(async () => {
    await endHandovers();
    await app.close();
  });
  const note = (change: object = {}) => ({ id: randomUUID(), words: 'behind the shelf', ...change });
  const kept = async (body: object): Promise<LinkDetail> =>
    (await lead.post(`/api/links/${linkId}/notes`, body).expect(200)).body as LinkDetail;
  const seal = async (): Promise<JobSeal> => (await lead.get(`/api/jobs/${jobId}/seal`)).body as JobSeal;
  const page = async (parts: string): Promise<string> =>
    (await lead.get(`/api/jobs/${jobId}/report/${parts}/report.html`).expect(200)).text;

  it('are kept with their link, counted and sized, without what the camera wrote into the photo', async () => {
    const before = await seal();
    const sent = note({ end: 'far', jpeg: asTaken(3).toString('base64') });
    const { notes, link } = await kept(sent);
    const one = notes.find(({ id }) => id === sent.id);
    expect([one?.words, one?.end, one?.by, one?.photo?.bytes, one?.photo?.widthPx]).toEqual([
      'behind the shelf',
      'far',
      'Ines',
      picture(3).length,
      1,
    ]);
    expect(link.stage).toBe('planned');
    const photo = await lead.get(`/api/links/${linkId}/notes/${sent.id}/photo.jpg`).expect(200);
    expect((photo.body as Buffer).equals(picture(3))).toBeTrue();
    expect((await seal()).digest).not.toBe(before.digest);
    const log = (await lead.get(`/api/jobs/${jobId}/activity`)).body as { what: string }[];
    expect(log[0]?.what).toBe('took a photo of the far end: behind the shelf');
  });

  it('are found by their words, from any page', async () => {
    await kept(note({ words: 'asbestos board above the ceiling' }));
    const found = await lead.get('/api/search/asbestos');
    expect(JSON.stringify(found.body)).toContain(linkId);
  });

  it('say what is wrong with one that says nothing, or whose photo is none', async () => {
    const refused = async (body: object): Promise<string> => {
      const { status, body: problem } = await lead.post(`/api/links/${linkId}/notes`, body);
      expect(status).toBe(400);
      return problem.errors[0].message as string;
    };
    expect(await refused(note({ words: '  ' }))).toBe('Write something, or take a photo.');
    expect(await refused(note({ jpeg: 'AAAA' }))).toBe('The picture is not a JPEG.');
    const cut = picture().subarray(0, 20).toString('base64');
    expect(await refused(note({ jpeg: cut }))).toContain('cut short');
    await lead.get(`/api/links/${linkId}/notes/${randomUUID()}/photo.jpg`).expect(404);
  });

  it('stand in the report with their photos; a photo that is exchanged in it is found', async () => {
    await kept(note({ end: 'near', words: 'loop in the ceiling', jpeg: picture(9).toString('base64') }));
    const html = await page('notes');
    const jpeg = picture(9).toString('base64');
    expect(html).toContain(`src="data:image/jpeg;base64,${jpeg}"`);
    expect(html).toContain('loop in the ceiling. Near end, Ines,');
    const data = dataInPage(html) as ReportData;
    expect(checkReport(data, html)).toEqual([]);
    const other = html.replace(jpeg, picture(10).toString('base64'));
    expect(checkReport(data, other).map(({ code }) => code)).toEqual(['words-changed']);
    const pdf = await lead.get(`/api/jobs/${jobId}/report/notes/report.pdf`).expect(200);
    expect((pdf.body as Buffer).includes(picture(9))).toBeTrue();
  });

  it('name the leads that go with a job, whose joining table and proofs stand in its report', async () => {
    const sent = { id: randomUUID(), version: 0, file: LOGGER };
    const { id, design } = (await lead.post('/api/adapters', sent).expect(200)).body as AdapterRecord;
    const photo = { id: randomUUID(), end: 'A', words: 'slot up', jpeg: asTaken(5).toString('base64') };
    await lead.post(`/api/adapters/${id}/photos`, photo).expect(200);
    const path = `/api/jobs/${jobId}/leads`;
    const added = (await lead.post(path, { adapterId: id }).expect(200)).body as JobLead[];
    expect(added).toEqual([{ adapterId: id, name: design.name, version: 1, built: 0, proved: 0 }]);
    expect((await lead.post(path, { adapterId: id }).expect(200)).body).toEqual(added);
    const html = await page('adapters');
    expect(html).toContain(design.name);
    expect(html).toContain('No built one is on record: nothing of it is proved.');
    expect(html).toContain(`base64,${picture(5).toString('base64')}`);
    for (const { id: end } of design.ends) expect(html).toContain(`End ${end}`);
    expect((await lead.delete(`${path}/${id}`).expect(200)).body).toEqual([]);
    expect(await page('adapters')).toContain('No lead goes with this job.');
    await lead.post(path, { adapterId: randomUUID() }).expect(404);
  });
});

describe('Loose work that was given to a job', () => {
  it('stands in its report beside who terminated what, with its photos', async () => {
    const app = await startApp();
    const lead = await enter(app, 'lead', 'Ines');
    const { jobId } = await jobWithLink(lead);
    const page = async (): Promise<string> =>
      (await lead.get(`/api/jobs/${jobId}/report/terminations/report.html`).expect(200)).text;
    expect(await page()).not.toContain('Made loose');
    const end = {
      id: randomUUID(),
      name: 'tail for the pay desk',
      cableTypeId: 'cat6-u',
      connectorTypeId: 'jack-punched',
      scheme: 'T568B',
      outcome: 'good',
      lot: 'L9',
      functionTest: [
        { what: 'the lamp lights', does: true },
        { what: 'it rings', does: false },
      ],
    };
    await lead.post('/api/loose-ends', end).expect(200);
    await lead.post('/api/loose-ends', { ...end, id: randomUUID(), name: 'another job’s' }).expect(200);
    const photo = { id: randomUUID(), jpeg: asTaken(6).toString('base64') };
    await lead.post(`/api/loose-ends/${end.id}/photos`, photo).expect(200);
    await lead.post('/api/loose-ends/given', { jobId, ends: [end.id] }).expect(200);
    const html = await page();
    expect(html).toContain('Made loose, and given to this job');
    expect(html).toContain('tail for the pay desk');
    expect(html).not.toContain('another job');
    expect(html).toContain('not metered; does not do: it rings');
    expect(html).toContain('lot L9');
    expect(html).toContain(`base64,${picture(6).toString('base64')}`);
    expect(checkReport(dataInPage(html) as ReportData, html)).toEqual([]);
    await app.close();
  });
});

describe('A report of a link that failed', () => {
  it('shows the newest trace of each end and pair with what explains it, and what each event is', async () => {
    const app = await startApp();
    const lead = await enter(app, 'lead', 'Ines');
    const { jobId, linkId } = await jobWithLink(lead);
    for (const side of ['near', 'far'] as const)
      await lead.post(`/api/links/${linkId}/terminations`, termination(side)).expect(200);
    await lead.post(`/api/links/${linkId}/tests`, mapTest({ ...straight, 4: [] })).expect(200);
    const line = {
      impedanceOhm: 100,
      velocityFactor: 0.69,
      skinDb: 1.9,
      dielectricDb: 0.02,
      loopOhmPerM: 0.18,
    };
    const bare = simulate(
      {
        source: { shape: 'pulse', volts: 2, widthS: 1e-8, riseS: 2e-9, edge: 'smooth', impedanceOhm: 100 },
        scope: { inputOhm: Infinity, inputF: 0 },
        chain: [{ kind: 'line', lengthM: 12.5, line }],
        load: 'open',
      },
      { intervalS: 5e-10, samples: 1000, launchS: 3e-8 },
    );
    const { intervalS, startS, volts } = imperfect(
      bare,
      { noiseV: 0.004, quantumV: 0, offsetV: 0 },
      seededRandom(4),
    );
    const told = {
      velocityFactor: 0.69,
      velocityU95: 0.01,
      impedanceOhm: 100,
      leadM: 0,
      leadVelocityFactor: 0.66,
      shape: null,
    };
    for (const name of ['first.csv', 'second.csv'])
      await lead
        .post(`/api/links/${linkId}/traces`, {
          id: randomUUID(),
          end: 'near',
          pair: '4-5',
          name,
          trace: { intervalS, startS, volts: [...volts] },
          told,
          unplugged: true,
        })
        .expect(200);
    const html = (await lead.get(`/api/jobs/${jobId}/report/stories/report.html`).expect(200)).text;
    const data = dataInPage(html) as ReportData;
    expect(checkReport(data, html)).toEqual([]);
    const [trace, ...more] = data.links[0]?.traces ?? [];
    expect([trace?.name, more.length]).toEqual(['second.csv', 0]);
    const main = trace?.events[trace.main ?? -1];
    expect(main?.kind).toBe('open');
    expect(Math.abs((main?.distanceM ?? 0) - 12.5)).toBeLessThan(main?.u95M ?? 0);
    // What is drawn as its explanation lies on what was taken.
    const off = (trace?.seen ?? []).map((volt, n) => Math.abs(volt - (trace?.model[n] ?? 0)));
    expect(Math.max(...off)).toBeLessThan(0.1);
    expect(html).toContain('Trace of pair 4-5 from the near end, second.csv');
    await endHandovers();
    await app.close();
  });
});
