import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import {
  adapterFile,
  designOf,
  fileOf,
  type AdapterRecord,
  type AdapterSummary,
} from '@near-spoke/contracts';
import { layoutFor, probesPlan, soundAnswers, workUp } from '@near-spoke/core';
import { faceSvg } from '../src/adapters/drawing.js';
import { DEMO, enter, startApp, type Caller, type TestApp } from './harness.js';
import { picture } from './pictures.js';

const demoFile = (name: string): Record<string, unknown> =>
  JSON.parse(readFileSync(`${DEMO}/adapters/${name}.adapter.json`, 'utf8')) as Record<string, unknown>;
const LOGGER = demoFile('tide-gauge-logger');
const JPEG = picture().toString('base64');

/** How wide the curved shapes of a document are, points. */
const widths = (pdf: string): Set<number> =>
  new Set(
    pdf.split(/\n(?:S|f|B|f\*|b|s)\n/).flatMap((path) => {
      const xs = [...path.matchAll(/^(?:[-\d.]+ ){4}([-\d.]+) [-\d.]+ c$/gm)].map(([, x = '0']) => Number(x));
      return xs.length > 0 ? [Math.round(Math.max(...xs) - Math.min(...xs))] : [];
    }),
  );

describe('Adapters', () => {
  let app: TestApp;
  let technician: Caller;
  let lead: Caller;
  let viewer: Caller;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    technician = await enter(app, 'technician');
    viewer = await enter(app, 'viewer');
  });
  afterAll(() => app.close());

  const keep = async (change: object = {}, file: object = {}): Promise<AdapterRecord> => {
    const body = { id: randomUUID(), version: 0, file: { ...LOGGER, ...file }, ...change };
    return (await technician.post('/api/adapters', body).expect(200)).body as AdapterRecord;
  };
  const build = (record: AdapterRecord, change: object = {}) => {
    const { beeped, parts, supplies, functions } = soundAnswers(record.design);
    return {
      id: randomUUID(),
      version: record.version,
      name: 'one',
      beeped,
      parts,
      supplies,
      functions,
      ...change,
    };
  };

  it('are kept, listed with what is wrong and what was built, and come back as the file they were', async () => {
    const { id } = await keep();
    const { body } = await viewer.get('/api/adapters').expect(200);
    const line = (body as AdapterSummary[]).find((each) => each.id === id);
    expect(line).toEqual(
      jasmine.objectContaining({
        name: 'Tide-gauge logger',
        version: 1,
        wrong: 0,
        unsure: 0,
        built: 0,
        proved: 0,
      }),
    );
    const file = await viewer.get(`/api/adapters/${id}/versions/1/adapter.json`).expect(200);
    expect(designOf(adapterFile.parse(file.body))).toEqual(designOf(adapterFile.parse(LOGGER)));
    expect(file.headers['content-disposition']).toContain('tide-gauge-logger-v1.adapter.json');
  });

  it('get a next version from who opened the last, and refuse one from an older', async () => {
    const { id } = await keep();
    const next = { id, version: 1, note: 'longer', file: { ...LOGGER, lengthM: 3 } };
    const { body } = await lead.post('/api/adapters', next).expect(200);
    expect((body as AdapterRecord).versions.map(({ version, note }) => [version, note])).toEqual([
      [2, 'longer'],
      [1, ''],
    ]);
    // Sent twice, it makes no third.
    expect((await lead.post('/api/adapters', next).expect(200)).body.version).toBe(2);
    const late = await technician.post('/api/adapters', { id, version: 1, file: { ...LOGGER, lengthM: 9 } });
    expect([late.status, late.body.changedBy]).toEqual([409, lead.name]);
    expect(late.body.current.design.lengthM).toBe(3);
    const old = await viewer.get(`/api/adapters/${id}/versions/1`).expect(200);
    expect(old.body.design.lengthM).toBe(1.5);
    await viewer.get(`/api/adapters/${id}/versions/7`).expect(404);
  });

  it('are kept once by two people at a time: the second is told who was first', async () => {
    const { id } = await keep();
    const both = await Promise.all([
      lead.post('/api/adapters', { id, version: 1, file: { ...LOGGER, lengthM: 4 } }),
      technician.post('/api/adapters', { id, version: 1, file: { ...LOGGER, lengthM: 5 } }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { body } = await viewer.get(`/api/adapters/${id}`).expect(200);
    expect((body as AdapterRecord).versions.length).toBe(2);
    // A new one that two send at once is one adapter.
    const fresh = { id: randomUUID(), version: 0, file: LOGGER };
    const twice = await Promise.all([
      technician.post('/api/adapters', fresh),
      technician.post('/api/adapters', fresh),
    ]);
    expect(twice.map(({ status }) => status)).toEqual([200, 200]);
    expect((await viewer.get(`/api/adapters/${fresh.id}`)).body.versions.length).toBe(1);
  });

  it('and builds of one id sent at once are one build', async () => {
    const record = await keep();
    const one = build(record);
    await Promise.all(
      [1, 2, 3].map(() => technician.post(`/api/adapters/${record.id}/builds`, one).expect(200)),
    );
    const { rows } = await app.query('SELECT count(*)::int AS n FROM adapter_build WHERE id = $1', [one.id]);
    expect(rows[0].n).toBe(1);
    const { rows: said } = await app.query('SELECT count(*)::int AS n FROM activity WHERE what LIKE $1', [
      'built Tide-gauge logger, one%',
    ]);
    expect(said[0].n).toBeGreaterThan(0);
  });

  it('are refused where a join goes nowhere, a layout is not known, or a colour is none', async () => {
    const send = (file: object) =>
      technician.post('/api/adapters', { id: randomUUID(), version: 0, file: { ...LOGGER, ...file } });
    const nowhere = await send({ joins: [{ from: 'A 1', to: 'B 77' }] });
    expect([nowhere.status, nowhere.body.detail]).toEqual([422, jasmine.stringMatching(/no contact 77/)]);
    const ends = LOGGER['ends'] as object[];
    const strange = await send({ ends: [{ ...ends[0], layout: 'octagon' }, ends[1], ends[2]] });
    expect([strange.status, strange.body.errors[0].path]).toEqual([400, 'file.ends[0].layout']);
    const painted = await send({ wires: [{ id: '1', colour: 'MAUVE', areaMm2: 1 }] });
    expect(painted.body.errors[0].path).toBe('file.wires[0].colour');
    const { rows } = await app.query(
      'SELECT count(*)::int AS n FROM adapter a WHERE NOT EXISTS (SELECT 1 FROM adapter_version v WHERE v.adapter_id = a.id)',
    );
    expect(rows[0].n).toBe(0);
  });

  it('are not for a viewer to change', async () => {
    const record = await keep();
    const kept = await viewer.post('/api/adapters', { id: randomUUID(), version: 0, file: LOGGER });
    const built = await viewer.post(`/api/adapters/${record.id}/builds`, build(record));
    expect([kept.status, built.status]).toEqual([403, 403]);
  });

  it('are built and proved one by one, by answers that the server judges itself', async () => {
    const record = await keep();
    const proved = build(record);
    await technician.post(`/api/adapters/${record.id}/builds`, proved).expect(200);
    await technician.post(`/api/adapters/${record.id}/builds`, proved).expect(200);
    const wrong = [...proved.beeped];
    wrong[0] = !wrong[0];
    await technician
      .post(`/api/adapters/${record.id}/builds`, build(record, { name: 'two', beeped: wrong }))
      .expect(200);
    const open = [...proved.beeped.slice(1), null];
    const { body } = await technician
      .post(
        `/api/adapters/${record.id}/builds`,
        build(record, { name: 'three', beeped: [proved.beeped[0], ...open.slice(0, -2), null] }),
      )
      .expect(200);
    expect((body as AdapterRecord).builds.map(({ name, verdict }) => `${name} ${verdict}`)).toEqual([
      'three unfinished',
      'two failed',
      'one proved',
    ]);
    const list = (await viewer.get('/api/adapters')).body as AdapterSummary[];
    const line = list.find(({ id }) => id === record.id);
    expect([line?.built, line?.proved]).toEqual([3, 1]);
  });

  it('are proved by touches as they were made, by whichever list', async () => {
    const record = await keep();
    const { nets } = workUp(record.design);
    const made = probesPlan(nets, record.design.ends).touches.map(({ one, other, should }) => ({
      one,
      other,
      beeped: should === 'beep',
    }));
    const post = (name: string, touched: object[]) =>
      technician.post(`/api/adapters/${record.id}/builds`, build(record, { name, beeped: [], touched }));
    await post('one', made).expect(200);
    await post('two', made.slice(1)).expect(200);
    const { body } = await post(
      'three',
      made.map((touch, n) => (n === 1 ? { ...touch, beeped: !touch.beeped } : touch)),
    ).expect(200);
    const { builds } = body as AdapterRecord;
    expect(builds.map(({ name, verdict }) => `${name} ${verdict}`)).toEqual([
      'three failed',
      'two unfinished',
      'one proved',
    ]);
    expect(builds[2]?.touched).toEqual(made);
    const stray = [{ one: [{ end: 'A', contact: '77' }], other: made[0]?.other ?? [], beeped: false }];
    const { status, body: problem } = await post('four', stray);
    expect([status, problem.detail]).toEqual([422, jasmine.stringContaining('no contact 77 at A')]);
  });

  it('refuse answers to another proof than the version’s own', async () => {
    const record = await keep();
    const { status, body } = await technician.post(
      `/api/adapters/${record.id}/builds`,
      build(record, { beeped: [true] }),
    );
    expect([status, body.detail]).toEqual([422, jasmine.stringMatching(/1 answers for \d+ touches/)]);
    await technician.post(`/api/adapters/${record.id}/builds`, build(record, { version: 4 })).expect(404);
  });

  it('keep photos of how a connector lies, and nothing that is no photo', async () => {
    const { id } = await keep();
    const photo = { id: randomUUID(), end: 'A', words: 'slot to the lid', jpeg: JPEG };
    const { body } = await technician.post(`/api/adapters/${id}/photos`, photo).expect(200);
    expect((body as AdapterRecord).photos.map(({ words, end }) => [end, words])).toEqual([
      ['A', 'slot to the lid'],
    ]);
    const bytes = await viewer.get(`/api/adapters/${id}/photos/${photo.id}`).expect(200);
    expect([bytes.headers['content-type'], (bytes.body as Buffer).length]).toEqual([
      'image/jpeg',
      picture().length,
    ]);
    const text = Buffer.from('<svg onload="x">').toString('base64');
    const refused = await technician.post(`/api/adapters/${id}/photos`, {
      ...photo,
      id: randomUUID(),
      jpeg: text,
    });
    expect([refused.status, refused.body.errors[0].message]).toEqual([400, 'The picture is not a JPEG.']);
    const cut = picture().subarray(0, 6).toString('base64');
    const damaged = await technician.post(`/api/adapters/${id}/photos`, {
      ...photo,
      id: randomUUID(),
      jpeg: cut,
    });
    expect([damaged.status, damaged.body.errors[0].message]).toEqual([
      400,
      'The picture is damaged or cut short: take it again.',
    ]);
    // And what was taken does not keep the sheet from being printed.
    await viewer.get(`/api/adapters/${id}/versions/1/sheet-2.pdf`).expect(200);
  });

  it('print a build sheet at a scale, and no other than there is paper for', async () => {
    const { id } = await keep();
    const sheet = async (scale: number): Promise<string> => {
      const { body, headers } = await viewer
        .get(`/api/adapters/${id}/versions/1/sheet-${scale}.pdf`)
        .buffer(true)
        .parse((response, done) => {
          const chunks: Buffer[] = [];
          response.on('data', (chunk: Buffer) => chunks.push(chunk));
          response.on('end', () => done(null, Buffer.concat(chunks)));
        })
        .expect(200);
      expect(headers['content-type']).toBe('application/pdf');
      return (body as Buffer).toString('latin1');
    };
    const [small, large] = [await sheet(1), await sheet(4)];
    expect(small.startsWith('%PDF')).toBeTrue();
    // What both have alike are marks to tick; the others are contacts, drawn four times as wide.
    const own = (of: Set<number>, other: Set<number>): number =>
      Math.max(...[...of].filter((width) => !other.has(width)));
    const [one, four] = [widths(small), widths(large)];
    expect(own(four, one) / own(one, four)).toBeCloseTo(4, 0);
    await viewer.get(`/api/adapters/${id}/versions/1/sheet-9.pdf`).expect(400);
  });

  it('draw a face so that its millimetres are millimetres of the scale, and its two faces mirrored', () => {
    const layout = layoutFor('d-sub-9');
    if (!layout) throw new Error('layout');
    const placesOf = (face: 'mating' | 'rear', unit: number): Map<string, number> =>
      new Map(
        [
          ...faceSvg(layout, { face, latch: 'down' }, unit).svg.matchAll(
            /cx="(-?[\d.]+)"[^]*?>(\w+)<\/text>/g,
          ),
        ].map(([, x = '', contact = '']) => [contact, Number(x)]),
      );
    const mating = placesOf('mating', 10);
    expect((mating.get('2') ?? 0) - (mating.get('1') ?? 0)).toBeCloseTo(27.7, 1);
    const rear = placesOf('rear', 10);
    for (const [contact, x] of mating) expect(rear.get(contact)).withContext(contact).toBeCloseTo(-x, 6);
  });

  it('draw the lead with every contact and every colour, names as text and never as markup', async () => {
    const ends = LOGGER['ends'] as { name: string }[];
    const { id } = await keep(
      {},
      { name: '<script>x</script>', ends: [{ ...ends[0], name: 'a & b' }, ends[1], ends[2]] },
    );
    const { body } = await viewer.get(`/api/adapters/${id}/versions/1/lead.svg`).expect(200);
    const svg = (body as Buffer).toString('utf8');
    expect(svg).not.toContain('<script>');
    expect(svg).toContain('a &amp; b');
    expect(svg.match(/<rect /g)?.length).toBeGreaterThanOrEqual(23);
    // Red is the logger's supply, black its ground.
    expect(svg).toContain('#c4342d');
    expect(svg).toContain('#23272a');
  });

  it('give the joining table to a spreadsheet, formulas made harmless', async () => {
    const ends = structuredClone(LOGGER['ends']) as { pins: { signal: string }[] }[];
    const pin = ends[0]?.pins[1];
    if (pin) pin.signal = '=cmd()';
    const { id } = await keep({}, { ends });
    const { text } = await viewer.get(`/api/adapters/${id}/versions/1/joints.csv`).expect(200);
    expect(text.split('\r\n')[0]).toBe('\ufeffnet,contacts,conductor,colour,because');
    expect(text).toContain('"\'=cmd()"');
    expect(text).toContain('A red, S red');
  });

  it('made of a design come back as that design', () => {
    for (const name of [
      'tide-gauge-logger',
      'departure-board-ribbon',
      'gangway-intercom-tail',
      'dome-shutter-hand-box',
    ]) {
      const design = designOf(adapterFile.parse(demoFile(name)));
      expect(designOf(adapterFile.parse(JSON.parse(JSON.stringify(fileOf(design))))))
        .withContext(name)
        .toEqual(design);
    }
  });
});
