import type { LinkDetail } from '@near-spoke/contracts';
import {
  enter,
  jobWithLink,
  mapTest,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

describe('judging', () => {
  let test: TestApp;
  let lead: Caller;

  beforeAll(async () => {
    test = await startApp();
    lead = await enter(test, 'lead');
  });
  afterAll(() => test.close());

  const detail = async (linkId: string): Promise<LinkDetail> =>
    (await lead.get(`/api/links/${linkId}`).expect(200)).body as LinkDetail;

  const exchanged = { ...straight, '1': ['2'], '2': ['1'] };

  it('keeps others waiting for nothing: they are answered while a tangled cable of 25 pairs is judged', async () => {
    const block = { cableTypeId: 'tel-25', nearConnectorId: 'block-66', farConnectorId: 'block-66' };
    const { linkId } = await jobWithLink(lead, block);
    const contacts = Array.from({ length: 50 }, (_, i) => String(i + 1));
    // Every contact elsewhere, in an order that no hand makes: 7 has no factor in common with 50.
    const arrivals = Object.fromEntries(contacts.map((c, i) => [c, [String(((i * 7 + 3) % 50) + 1)]]));
    const answered: string[] = [];
    const judged = lead
      .post(`/api/links/${linkId}/tests`, mapTest(arrivals))
      .expect(200)
      .then(() => answered.push('judged'));
    await new Promise((later) => setTimeout(later, 50));
    await lead.get('/api/health').expect(200);
    answered.push('asked');
    await judged;
    expect(answered).toEqual(['asked', 'judged']);
    expect((await detail(linkId)).diagnosis?.result).toBe('fail');
  });

  it('is done once: what was judged is kept with the rates it was judged by, and shown as it was', async () => {
    const { linkId } = await jobWithLink(lead);
    const kept = (await lead.post(`/api/links/${linkId}/tests`, mapTest(exchanged)).expect(200))
      .body as LinkDetail;
    const [row] = (await test.query('SELECT verdict FROM link WHERE id = $1', [linkId])).rows as {
      verdict: { rules: number; diagnosis: unknown; practice: unknown };
    }[];
    expect(row?.verdict.diagnosis).toEqual(kept.diagnosis);
    expect(row?.verdict.practice).toEqual(kept.practice);
    // Other people's slips move the rates of what is judged from now on, not what was said of this link.
    const other = await jobWithLink(lead, { label: 'L-02' });
    for (const side of ['near', 'far'] as const)
      await lead.post(`/api/links/${other.linkId}/terminations`, termination(side)).expect(200);
    const later = await detail(linkId);
    expect(later.diagnosis).toEqual(kept.diagnosis);
    expect(later.practice).toEqual(kept.practice);
  });

  it('is done anew where the rules have changed, or a verdict was never kept', async () => {
    const { linkId } = await jobWithLink(lead);
    await lead.post(`/api/links/${linkId}/tests`, mapTest(exchanged)).expect(200);
    const { diagnosis } = await detail(linkId);
    const set = (verdict: string): Promise<unknown> =>
      test.query('UPDATE link SET verdict = $2::jsonb WHERE id = $1', [linkId, verdict]);
    await set(
      JSON.stringify({ rules: 0, diagnosis: { ...diagnosis, headline: 'by old rules' }, practice: {} }),
    );
    expect((await detail(linkId)).diagnosis?.headline).toBe(diagnosis?.headline ?? '');
    await test.query('UPDATE link SET verdict = NULL WHERE id = $1', [linkId]);
    expect((await detail(linkId)).diagnosis?.headline).toBe(diagnosis?.headline ?? '');
  });

  it('takes as many touches as a long session has, and says where there are more', async () => {
    const { linkId } = await jobWithLink(lead);
    const touch = {
      from: { end: 'near', contacts: ['1'] },
      to: { end: 'far', contacts: ['1'] },
      closed: true,
    };
    const send = (count: number) =>
      lead.post(
        `/api/links/${linkId}/tests`,
        mapTest(undefined, { reading: { instrument: 'beeper', touches: Array(count).fill(touch) } }),
      );
    const { body } = await send(401).expect(400);
    expect((body as { detail: string }).detail).toContain('At most 400 touches');
    await send(400).expect(200);
  });
});
