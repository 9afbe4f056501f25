import { randomUUID } from 'node:crypto';
import { type LabelStock } from '@near-spoke/core';
import { placesOf, LABEL_STOCKS, LABEL_WAYS } from '@near-spoke/core/labels';
import type { Response } from 'supertest';
import { enter, newJob, newLink, startApp, type Caller, type TestApp } from './harness.js';
import { boxesIn, papersIn } from './pdf-boxes.js';

const asBytes = (response: Response, done: (error: Error | null, body: Buffer) => void): void => {
  const pieces: Buffer[] = [];
  response.on('data', (piece: Buffer) => pieces.push(piece));
  response.on('end', () => done(null, Buffer.concat(pieces)));
};

describe('labels', () => {
  let it1: TestApp;
  let lead: Caller;
  let jobId: string;
  const links = Array.from({ length: 60 }, (_, at) =>
    newLink({
      label: `P1-${String(at + 1).padStart(2, '0')}`,
      port: String(at + 1),
      outlet: `desk ${at + 1}`,
    }),
  );
  beforeAll(async () => {
    it1 = await startApp();
    lead = await enter(it1, 'lead', 'Ines');
    const job = newJob();
    jobId = job.id;
    await lead.post('/api/jobs', job).expect(200);
    await lead.post(`/api/jobs/${jobId}/links`, { links }).expect(200);
  });
  afterAll(() => it1.close());

  const stock = (id: string): LabelStock => {
    const found = LABEL_STOCKS.find((each) => each.id === id);
    if (!found) throw new Error(`no stock ${id}`);
    return found;
  };
  const order = (id: string, change: object = {}): object => ({
    linkIds: links.map((link) => link.id),
    ends: ['near', 'far'],
    stock: stock(id),
    lines: LABEL_WAYS.find((way) => way.id === 'label')?.lines,
    ...change,
  });
  const print = async (body: object): Promise<Buffer> =>
    (
      await lead
        .post(`/api/jobs/${jobId}/labels.pdf`, body)
        .buffer(true)
        .parse(asBytes as never)
        .expect(200)
    ).body as Buffer;

  for (const [id, pages] of [
    ['a4-wrap-25x38', 3],
    ['letter-wrap-1x2', 5],
    ['a4-flag-60x12', 3],
  ] as const)
    it(`of ${id} lie in the PDF where they lie on the sheet, to 0.2 mm, both ends of every link`, async () => {
      const skip = 3;
      const pdf = await print(order(id, { edges: true, skip }));
      const on = stock(id);
      const papers = papersIn(pdf);
      expect(papers.length).toBe(pages);
      for (const paper of papers) {
        expect(paper.widthMm).toBeCloseTo(on.sheet?.paperWidthMm ?? 0, 1);
        expect(paper.heightMm).toBeCloseTo(on.sheet?.paperHeightMm ?? 0, 1);
      }
      const edges = boxesIn(pdf).filter(
        (box) => Math.abs(box.widthMm - on.widthMm) < 0.2 && Math.abs(box.heightMm - on.heightMm) < 0.2,
      );
      const places = placesOf(on);
      const wanted = links.flatMap((_, n) =>
        [2 * n, 2 * n + 1].map((index) => ({
          page: Math.floor((index + skip) / places.length),
          ...places[(index + skip) % places.length],
        })),
      );
      expect(edges.length).toBe(wanted.length);
      for (const { page, xMm = 0, yMm = 0 } of wanted)
        expect(
          edges.filter(
            (box) => box.page === page && Math.abs(box.leftMm - xMm) < 0.2 && Math.abs(box.topMm - yMm) < 0.2,
          ).length,
        )
          .withContext(`page ${page}, ${xMm} ${yMm}`)
          .toBe(1);
    });

  it('are moved and drawn larger as the printer needs it', async () => {
    const fit = { offsetXMm: 1.5, offsetYMm: -0.5, scaleX: 1.01, scaleY: 1 };
    const on = stock('a4-flat-48x25');
    const pdf = await print(order(on.id, { linkIds: [links[0]?.id], ends: ['near'], edges: true, fit }));
    const [edge] = boxesIn(pdf).filter((box) => Math.abs(box.heightMm - on.heightMm) < 0.2);
    expect(edge?.leftMm).toBeCloseTo(1.5 + 8 * 1.01, 1);
    expect(edge?.topMm).toBeCloseTo(-0.5 + 8.8, 1);
    expect(edge?.widthMm).toBeCloseTo(48.5 * 1.01, 1);
  });

  it('have a test page with two lines of 100 mm', async () => {
    const boxes = boxesIn(await print(order('a4-flat-48x25', { testPage: true })));
    const long = boxes.filter(({ widthMm, heightMm }) => Math.max(widthMm, heightMm) > 99);
    expect(long.some(({ widthMm }) => Math.abs(widthMm - 100) < 0.2)).toBeTrue();
    expect(long.some(({ heightMm }) => Math.abs(heightMm - 100) < 0.2)).toBeTrue();
  });

  it('are a table for a label printer too, formulas made harmless', async () => {
    const lines = { near: ['{label}', '=1+{port}'], far: ['{label}'] };
    const { text } = await lead
      .post(
        `/api/jobs/${jobId}/labels.csv`,
        order('roll-flat-50x12', { linkIds: [links[1]?.id], lines, qr: true }),
      )
      .expect(200);
    const [head, near, far] = text.replace('\ufeff', '').split('\r\n');
    expect(head).toBe('link,end,line1,line2,address');
    expect(near).toMatch(/^"P1-02","near","P1-02","'=1\+2","http:\/\/127\.0\.0\.1:\d+\/l\/[\w-]{22}"$/);
    expect(far).toContain('"P1-02","far","P1-02",""');
  });

  it('are refused with the field where they cannot be printed', async () => {
    const refusal = async (change: object): Promise<string[]> => {
      const { status, body } = await lead.post(
        `/api/jobs/${jobId}/labels.pdf`,
        order('a4-flat-48x25', change),
      );
      expect(status).toBeGreaterThanOrEqual(400);
      expect(status).toBeLessThan(500);
      return body.errors.map(({ path, message }: { path: string; message: string }) => `${path}: ${message}`);
    };
    expect(await refusal({ skip: 44 })).toEqual(['skip: A sheet has 44 places: skip fewer of them.']);
    expect(await refusal({ linkIds: [randomUUID()] })).toEqual(['linkIds[0]: This job has no such link.']);
    expect(await refusal({ lines: { near: ['{prot}'], far: [] } })).toEqual([
      'lines.near[0]: There is no field {prot}.',
    ]);
    const on = stock('a4-flat-48x25');
    const [wide] = await refusal({ stock: { ...on, sheet: { ...on.sheet, columns: 5 } } });
    expect(wide).toBe('stock.sheet.columns: The last column ends at 250.5 mm, the paper at 210.0 mm.');
  });

  it('are kept as the crew’s own by a name that is given once', async () => {
    const form = {
      id: randomUUID(),
      kind: 'label-stock',
      name: 'Our flags',
      body: { ...stock('roll-flag-76x25'), id: 'ours', name: 'Our flags' },
    };
    await lead.post('/api/forms', form).expect(200);
    await lead.post('/api/forms', form).expect(200);
    const taken = await lead.post('/api/forms', { ...form, id: randomUUID(), name: 'our FLAGS' });
    expect([taken.status, taken.body.errors[0].path]).toEqual([422, 'name']);
    const report = {
      id: randomUUID(),
      kind: 'report',
      name: 'For the owner',
      body: { parts: ['summary', 'links'] },
    };
    await lead.post('/api/forms', report).expect(200);
    await lead
      .post('/api/forms', { ...report, id: randomUUID(), name: 'x', body: { parts: ['prices'] } })
      .expect(400);
    const { body } = await lead.get('/api/forms').expect(200);
    expect(body.map(({ name, updatedBy }: { name: string; updatedBy: string }) => [name, updatedBy])).toEqual(
      [
        ['For the owner', 'Ines'],
        ['Our flags', 'Ines'],
      ],
    );
    await lead.delete(`/api/forms/${form.id}`).expect(200);
    await lead.delete(`/api/forms/${form.id}`).expect(404);
  });
});
