import { randomUUID } from 'node:crypto';
import { CONNECTOR_TYPES, CABLE_TYPES, TOOL_TYPES } from '@near-spoke/core';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { kitSheet } from '../src/db/schema.js';
import { genericAlike } from '../src/instruments/alike.js';
import { stockKit } from '../src/kit/store.js';
import { enter, newJob, newLink, startApp, type Caller, type TestApp } from './harness.js';

const sheet = <T extends { id: string }>(list: readonly T[], id: string): T =>
  list.find((t) => t.id === id) as T;
const plug = sheet(CONNECTOR_TYPES, 'plug-closed');

interface Version {
  version: number;
  by: string | null;
  sheet: { strip: { jacketMm: number } };
}

/** Straight lines of a PDF page that is not compressed, in millimetres. */
function linesOf(pdf: Buffer): { lengthMm: number; horizontal: boolean; xMm: number }[] {
  const found: { lengthMm: number; horizontal: boolean; xMm: number }[] = [];
  const mm = 25.4 / 72;
  type Matrix = [number, number, number, number, number, number];
  const turn = (m: Matrix, x: number, y: number): [number, number] => [
    m[0] * x + m[2] * y + m[4],
    m[1] * x + m[3] * y + m[5],
  ];
  for (const [, stream = ''] of pdf.toString('latin1').matchAll(/stream\r?\n([\s\S]*?)endstream/g)) {
    let now: Matrix = [1, 0, 0, 1, 0, 0];
    const kept: Matrix[] = [];
    let from: [number, number] | null = null;
    let to: [number, number] | null = null;
    for (const line of stream.split(/\r?\n/)) {
      const numbers = line.trim().split(/\s+/);
      const operator = numbers.pop();
      const n = numbers.map(Number);
      if (operator === 'q') kept.push([...now] as Matrix);
      else if (operator === 'Q') now = kept.pop() ?? now;
      else if (operator === 'cm') {
        const [a, b, c, d, e, f] = n as Matrix;
        now = [
          a * now[0] + b * now[2],
          a * now[1] + b * now[3],
          c * now[0] + d * now[2],
          c * now[1] + d * now[3],
          ...turn(now, e, f),
        ];
      } else if (operator === 'm') [from, to] = [turn(now, n[0] ?? 0, n[1] ?? 0), null];
      else if (operator === 'l') to = turn(now, n[0] ?? 0, n[1] ?? 0);
      else if (operator === 'S' && from && to) {
        const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
        found.push({ lengthMm: Math.hypot(dx, dy) * mm, horizontal: Math.abs(dy) < 0.01, xMm: from[0] * mm });
      }
    }
  }
  return found;
}

describe('the kit', () => {
  let test: TestApp;
  let lead: Caller;
  let technician: Caller;
  let viewer: Caller;
  beforeAll(async () => {
    test = await startApp();
    lead = await enter(test, 'lead', 'Ines');
    technician = await enter(test, 'technician', 'Tobi');
    viewer = await enter(test, 'viewer');
  });
  afterAll(() => test.close());

  it('opens with the generic sheets, each in its first version', async () => {
    const { body } = await viewer.get('/api/kit').expect(200);
    const ids = (list: { id: string }[]): string[] => list.map((t) => t.id);
    expect(ids(body.connectors)).toEqual(jasmine.arrayContaining(ids([...CONNECTOR_TYPES])));
    expect(ids(body.cables)).toEqual(jasmine.arrayContaining(ids([...CABLE_TYPES])));
    expect(ids(body.tools)).toEqual(jasmine.arrayContaining(ids([...TOOL_TYPES])));
    expect(body.versions.connector['plug-large-bore']).toBe(1);
  });

  it('keeps the figures of the sheet in the bag as the next version, and says whose they are', async () => {
    const changed = { ...plug, source: 'sheet', strip: { ...plug.strip, jacketMm: 28 } };
    const kept = await technician
      .post('/api/kit', { kind: 'connector', version: 1, sheet: changed })
      .expect(200);
    expect([kept.body.version, kept.body.by]).toEqual([2, 'Tobi']);
    const { body } = await viewer.get('/api/kit/connector/plug-closed').expect(200);
    expect((body as Version[]).map((v) => [v.version, v.by, v.sheet.strip.jacketMm])).toEqual([
      [2, 'Tobi', 28],
      [1, null, 30],
    ]);
    await technician.post('/api/kit', { kind: 'connector', version: 1, sheet: changed }).expect(200);
    const again = await viewer.get('/api/kit/connector/plug-closed').expect(200);
    expect((again.body as Version[]).length).toBe(2);

    // A stale sheet is refused with the one that holds now.
    const stale = { ...plug, strip: { ...plug.strip, jacketMm: 33 } };
    const refused = await lead.post('/api/kit', { kind: 'connector', version: 1, sheet: stale }).expect(409);
    expect(refused.body.changedBy).toBe('Tobi');
    expect(refused.body.current.strip.jacketMm).toBe(28);

    // Bringing the application up to date leaves a crew's own figures alone.
    await inCrew(FIRST_CREW, () => stockKit(test.database.db));
    const kit = (await viewer.get('/api/kit').expect(200)).body;
    expect(sheet(kit.connectors as (typeof plug)[], 'plug-closed').strip.jacketMm).toBe(28);
    expect(kit.versions.connector['plug-outdoor']).toBe(1);
  });

  it('names the field that cannot be', async () => {
    const cases: [object, string, number][] = [
      [{ ...plug, strip: { ...plug.strip, trimMm: 99 } }, 'sheet.strip.trimMm', 400],
      [{ ...plug, parts: [{ ...plug.parts[0], outsideMm: 1 }] }, 'sheet.parts[0].outsideMm', 400],
      [{ ...plug, takes: { ...plug.takes, jacketMm: { min: 9, max: 5 } } }, 'sheet.takes.jacketMm.max', 400],
      [{ ...plug, id: 'No Good' }, 'sheet.id', 400],
      [{ ...plug, surprise: 1 }, 'sheet', 400],
    ];
    for (const [bad, path, status] of cases) {
      const { body } = await lead
        .post('/api/kit', { kind: 'connector', version: 2, sheet: bad })
        .expect(status);
      expect((body.errors as { path: string }[]).map((e) => e.path)).toContain(path);
    }
    const cable = { ...sheet(CABLE_TYPES, 'cat6-u'), pairs: 3 };
    const { body } = await lead.post('/api/kit', { kind: 'cable', version: 1, sheet: cable }).expect(400);
    expect(body.errors[0]).toEqual({ path: 'sheet.conductors', message: '3 pairs are 6 conductors.' });
    await viewer.post('/api/kit', { kind: 'connector', version: 2, sheet: plug }).expect(403);
  });

  it('never rewrites a version', async () => {
    await expectAsync(inCrew(FIRST_CREW, () => test.database.db.delete(kitSheet))).toBeRejected();
  });

  it('goes out as a file and comes back whole, all or nothing', async () => {
    const file = (await lead.get('/api/kit.json').expect(200)).body as {
      cables: object[];
      tools: object[];
      connectors: object[];
    };
    const same = await lead.post('/api/kit/import', file).expect(200);
    const all = file.connectors.length + file.cables.length + file.tools.length;
    expect(same.body).toEqual({ added: 0, changed: 0, same: all });
    const mine = { ...sheet(TOOL_TYPES, 'knife'), id: 'my-knife', name: 'my knife' };
    const bad = { ...mine, id: 'x' };
    await lead.post('/api/kit/import', { ...file, tools: [mine, bad] }).expect(400);
    expect((await lead.get('/api/kit').expect(200)).body.tools.length).toBe(TOOL_TYPES.length);
    const added = await lead.post('/api/kit/import', { ...file, tools: [mine] }).expect(200);
    expect(added.body.added).toBe(1);
    const { body } = await lead.post('/api/kit/import', { format: 'something else' }).expect(400);
    expect(body.detail).toContain('near-spoke/kit');
  });

  describe('with a link', () => {
    let link: ReturnType<typeof newLink>;
    beforeAll(async () => {
      const job = newJob();
      link = newLink({ farConnectorId: 'plug-pass-through', cableTypeId: 'cat6-u' });
      await lead.post('/api/jobs', job).expect(200);
      await lead.post(`/api/jobs/${job.id}/links`, { links: [link] }).expect(200);
    });

    it('will not change what its readings mean', async () => {
      const screened = sheet(CONNECTOR_TYPES, 'jack-punched');
      const other = { ...screened, contacts: ['1', '2'] };
      const { body } = await lead
        .post('/api/kit', { kind: 'connector', version: 1, sheet: other })
        .expect(422);
      expect(body.errors[0].path).toBe('sheet.contacts');
    });

    it('records by which sheets an end was made, with lot and stopgap, prints that card again, and counts', async () => {
      const through = sheet(CONNECTOR_TYPES, 'plug-pass-through');
      const next = { ...through, strip: { ...through.strip, jacketMm: 36 } };
      await lead.post('/api/kit', { kind: 'connector', version: 1, sheet: next }).expect(200);
      const attempt = (id: string, more: object = {}) => ({
        id,
        side: 'far',
        connectorTypeId: 'plug-pass-through',
        outcome: 'good',
        connectorsSpoiled: 1,
        lot: 'bag 12',
        stopgap: 'a sharp blade for the stripper',
        ...more,
      });
      const [old, fresh] = [randomUUID(), randomUUID()];
      await technician
        .post(`/api/links/${link.id}/terminations`, attempt(old, { connectorVersion: 1 }))
        .expect(200);
      const { body } = await technician
        .post(`/api/links/${link.id}/terminations`, attempt(fresh))
        .expect(200);
      const [first, second] = body.terminations as {
        connectorVersion: number;
        stopgap: string;
        lot: string;
      }[];
      expect([first?.connectorVersion, second?.connectorVersion]).toEqual([1, 2]);
      expect([second?.lot, second?.stopgap]).toEqual(['bag 12', 'a sharp blade for the stripper']);
      const future = attempt(randomUUID(), { connectorVersion: 7 });
      const refused = await technician.post(`/api/links/${link.id}/terminations`, future).expect(422);
      expect(refused.body.errors[0].path).toBe('connectorVersion');
      for (const [id, jacketMm] of [
        [old, 40],
        [fresh, 36],
      ] as const) {
        const pdf = await viewer
          .get(`/api/links/${link.id}/terminations/${id}/card.pdf`)
          .buffer(true)
          .expect(200);
        const lengths = linesOf(pdf.body as Buffer)
          .filter((l) => l.horizontal)
          .map((l) => l.lengthMm);
        expect(lengths.some((l) => Math.abs(l - jacketMm) < 0.2))
          .withContext(`${jacketMm} mm`)
          .toBeTrue();
      }
      await viewer.get(`/api/links/${link.id}/terminations/${randomUUID()}/card.pdf`).expect(404);
      const spoils = await viewer.get('/api/spoils').expect(200);
      expect(spoils.body).toEqual([
        { crewId: technician.id, by: 'Tobi', connectorTypeId: 'plug-pass-through', good: 2, spoiled: 2 },
      ]);
    });

    it('prints every card on one page with a gauge that measures true within 0.2 mm', async () => {
      const job = newJob();
      await lead.post('/api/jobs', job).expect(200);
      const ends: [string, string, number[]][] = [
        ['cat6-f-outdoor', 'plug-outdoor', [42]],
        ['rg213', 'coax-n', [22, 14, 6]],
        ['rg6', 'coax-f', [12.7, 6.4]],
        ['cat6-u', 'jack-toolless', [45]],
        ['tel-2', 'phone-socket', [50]],
        ['tel-25', 'block-66', []],
        ['multi-9', 'dsub-9-plug', [20, 4]],
      ];
      const links = ends.map(([cableTypeId, connectorId], i) =>
        newLink({
          label: `G-${i}`,
          port: `${i}`,
          cableTypeId,
          nearConnectorId: connectorId,
          farConnectorId: connectorId,
        }),
      );
      await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
      for (const [i, [, connectorId, cuts]] of ends.entries()) {
        const pdf = (await viewer.get(`/api/links/${links[i]?.id}/cards/near.pdf`).buffer(true).expect(200))
          .body as Buffer;
        expect(pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length)
          .withContext(connectorId)
          .toBe(1);
        const lengths = linesOf(pdf)
          .filter((l) => l.horizontal)
          .map((l) => l.lengthMm);
        for (const wanted of [50, 50.8, ...cuts]) {
          const nearest = Math.min(...lengths.map((l) => Math.abs(l - wanted)));
          expect(nearest).withContext(`${connectorId}, ${wanted} mm`).toBeLessThan(0.2);
        }
      }
    });
  });

  it('tells the stand-in of a crew’s own type as the generic one a tester could not tell from it', () => {
    const own = { ...plug, id: 'our-plug' };
    const kit = {
      cables: [...CABLE_TYPES, { ...sheet(CABLE_TYPES, 'cat6a-f'), id: 'our-cable' }],
      connectors: [...CONNECTOR_TYPES, own],
      tools: [],
      versions: { cable: {}, connector: {}, tool: {} },
    };
    const planned = {
      cableTypeId: 'our-cable',
      near: { connectorId: 'jack-punched-screened' },
      far: { connectorId: 'our-plug' },
    } as Parameters<typeof genericAlike>[1];
    const known = genericAlike(kit, planned);
    expect(sheet(CABLE_TYPES, known?.cable ?? '').screened).toBeTrue();
    expect(known?.near).toBe('jack-punched-screened');
    expect(sheet(CONNECTOR_TYPES, known?.far ?? '').contacts).toEqual(own.contacts);
    expect(genericAlike(kit, { ...planned, cableTypeId: 'gone' })).toBeNull();
  });
});
