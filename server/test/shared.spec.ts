import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import request from 'supertest';
import { endHandovers } from '../src/handover/handover.js';
import { enter, jobWithLink, startApp, type Caller, type TestApp } from './harness.js';

describe('a report shown to somebody without an account', () => {
  let it1: TestApp;
  let lead: Caller;
  let jobId: string;
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Ines');
    ({ jobId } = await jobWithLink(lead));
  });
  afterAll(async () => {
    await endHandovers();
    await it1.close();
  });

  const share = async (change: object = {}) => {
    const sent = { id: randomUUID(), forWhom: 'the harbour office', days: 30, ...change };
    const { body } = await lead.post(`/api/jobs/${jobId}/share-links`, sent).expect(200);
    return { sent, ...(body as { token: string; link: { id: string; expiresAt: string } }) };
  };
  const open = (token: string, more = '') => request(it1.app).get(`/api/shared/${token}${more}`);

  it('opens by its address alone, says for whom, and counts how often', async () => {
    const { token, link } = await share();
    const page = await open(token).expect(200);
    expect(page.headers['content-type']).toContain('text/html');
    expect(page.headers['content-disposition']).toBeUndefined();
    // It brings all of its own, and may load and run nothing.
    expect(page.headers['content-security-policy']).toContain("default-src 'none'");
    expect(page.headers['content-security-policy']).not.toContain('script');
    expect(page.text).toContain('by the application, for the harbour office');
    await open(token, '/report.pdf').expect(200);
    const { body } = await lead.get(`/api/jobs/${jobId}/share-links`).expect(200);
    expect(body.find(({ id }: { id: string }) => id === link.id).opened).toBe(2);
  });

  it('opens nothing else, and for strangers no list of addresses', async () => {
    await open('A'.repeat(43)).expect(404);
    await open('short').expect(400);
    await request(it1.app).get(`/api/jobs/${jobId}/share-links`).expect(401);
    await request(it1.app).get(`/api/jobs/${jobId}/report/links/report.html`).expect(401);
    const viewer = await enter(it1, 'viewer', 'Guest');
    expect((await viewer.get(`/api/jobs/${jobId}/share-links`)).status).toBe(403);
  });

  it('closes when it is taken back, when its days are over, and tells a stranger no more than that', async () => {
    const [back, over] = [await share(), await share()];
    await lead.delete(`/api/jobs/${jobId}/share-links/${back.link.id}`).expect(200);
    const again = await lead.delete(`/api/jobs/${jobId}/share-links/${back.link.id}`).expect(200);
    expect(again.body.find(({ id }: { id: string }) => id === back.link.id).revokedAt).not.toBeNull();
    await it1.query("UPDATE share_link SET expires_at = now() - interval '1 second' WHERE id = $1", [
      over.link.id,
    ]);
    const [first, second] = [await open(back.token), await open(over.token)];
    expect([first.status, second.status]).toEqual([404, 404]);
    expect(first.body.detail).toBe(second.body.detail);
  });

  it('has its address in the database as a digest alone', async () => {
    const { token } = await share();
    const { rows } = await it1.query('SELECT token_hash FROM share_link');
    expect(rows.some(({ token_hash: kept }: { token_hash: string }) => kept.includes(token))).toBeFalse();
  });

  it('leaves no address in the log', async () => {
    const lines: string[] = [];
    const log = pino({ level: 'debug' }, { write: (line: string) => void lines.push(line) });
    const watched = await startApp({ log });
    const token = 'A'.repeat(43);
    await request(watched.app).get(`/api/shared/${token}/report.pdf`).expect(404);
    await watched.close();
    expect(lines.join('')).toContain('/api/shared/.../report.pdf');
    expect(lines.join('')).not.toContain(token);
  });

  it('gets a new address where the first answer was lost, and the lost one opens nothing', async () => {
    const { sent, token } = await share();
    const { body } = await lead.post(`/api/jobs/${jobId}/share-links`, sent).expect(200);
    expect(body.token).not.toBe(token);
    await open(token).expect(404);
    await open(body.token as string).expect(200);
    await lead.post(`/api/jobs/${jobId}/share-links`, sent).expect(409);
    await lead.post(`/api/jobs/${jobId}/share-links`, { ...sent, forWhom: 'x' }).expect(409);
    await lead.post(`/api/jobs/${jobId}/share-links`, { ...sent, id: randomUUID(), days: 0 }).expect(400);
  });
});
