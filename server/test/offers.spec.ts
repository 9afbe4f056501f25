import { randomUUID } from 'node:crypto';
import type { CrewPrices, OfferOrder } from '@near-spoke/contracts';
import { USUAL_WORK } from '@near-spoke/core';
import { enter, jobWithLink, startApp, type Caller, type TestApp } from './harness.js';

describe('Prices, and what a job is offered for', () => {
  let app: TestApp;
  let [lead, technician, viewer]: Caller[] = [];
  let jobId: string;
  beforeAll(async () => {
    app = await startApp();
    [lead, technician, viewer] = [
      await enter(app, 'lead'),
      await enter(app, 'technician'),
      await enter(app, 'viewer'),
    ];
    ({ jobId } = await jobWithLink(lead));
  });
  afterAll(() => app.close());

  const list = (change: object = {}) => ({
    currency: 'EUR',
    dated: '2026-11-02',
    prices: [
      { item: 'Cat 6 unscreened, box of 305 m', price: 141.5 },
      { item: '8-contact jack, punched', price: 3.2 },
    ],
    ...change,
  });
  const keep = async (change: object | null): Promise<CrewPrices> => {
    const { version } = (await (lead as Caller).get('/api/prices').expect(200)).body as CrewPrices;
    const body = { list: change && list(change), version };
    return (await (lead as Caller).patch('/api/prices', body).expect(200)).body as CrewPrices;
  };
  const order = (change: Partial<OfferOrder> = {}): OfferOrder => ({
    material: [{ item: '8-contact jack, PUNCHED', count: 2 }],
    work: {
      ends: [{ connectorId: 'jack-punched', name: '8-contact jack, punched', count: 2, minutes: 5 }],
      pulls: 1,
      links: 1,
    },
    terms: { currency: 'EUR', hour: 60, ...USUAL_WORK, markup: 10, tax: 20 },
    until: '2026-12-31',
    note: 'Ladder is brought.',
    ...change,
  });
  const offer = (body: object, by = technician) => (by as Caller).post(`/api/jobs/${jobId}/offer.pdf`, body);

  it('keeps one list, which a lead changes and nobody writes over unseen', async () => {
    await keep(null);
    const { body } = await (technician as Caller).get('/api/prices').expect(200);
    expect((body as CrewPrices).list).toBeNull();
    const { version } = body as CrewPrices;
    await (technician as Caller).patch('/api/prices', { list: list(), version }).expect(403);
    await (viewer as Caller).get('/api/prices').expect(403);
    const both = await Promise.all(
      ['EUR', 'CHF'].map((currency) =>
        (lead as Caller).patch('/api/prices', { list: list({ currency }), version }),
      ),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('takes no price of nothing, no item twice, no day that there is not', async () => {
    const { version } = await keep({});
    const plug = { item: 'plug', price: 1 };
    for (const [change, path] of [
      [{ prices: [{ ...plug, price: 0 }] }, 'list.prices[0].price'],
      [{ prices: [plug, { ...plug, item: ' PLUG' }] }, 'list.prices'],
      [{ prices: [] }, 'list.prices'],
      [{ dated: '2026-02-30' }, 'list.dated'],
      [{ currency: 'euro' }, 'list.currency'],
    ] as const) {
      const { body } = await (lead as Caller)
        .patch('/api/prices', { list: list(change), version })
        .expect(400);
      expect(body.detail).withContext(path).toContain(path);
    }
  });

  it('prints an offer by it, and nobody who may only look does', async () => {
    await keep({});
    const { body, headers } = await offer(order()).expect(200);
    expect(headers['content-type']).toContain('application/pdf');
    expect((body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    await offer(order(), viewer).expect(403);
  });

  it('prints none without every price, and says which are wanting', async () => {
    await keep({});
    const { body } = await offer(order({ material: [{ item: 'boot, bore 6.5 mm', count: 4 }] })).expect(409);
    expect(body.detail).toContain('No price is known of: boot, bore 6.5 mm.');
    const unpaid = order();
    const { body: hourless } = await offer({ ...unpaid, terms: { ...unpaid.terms, hour: null } }).expect(409);
    expect(hourless.detail).toContain('an hour of work');
  });

  it('changes no currency into another', async () => {
    await keep({ currency: 'CHF' });
    const { body } = await offer(order()).expect(409);
    expect(body.detail).toContain('The price list is in CHF');
  });

  it('is of a job that there is', async () => {
    await keep({});
    const { status } = await (lead as Caller).post(`/api/jobs/${randomUUID()}/offer.pdf`, order());
    expect(status).toBe(404);
  });
});
