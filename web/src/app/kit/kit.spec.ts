import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  TOOL_TYPES,
  type CableType,
  type ConnectorType,
} from '@near-spoke/core';
import { CableSection } from '../drawing/cable-section';
import { showRoom } from '../testing/rooms';
import type { KindedSheet } from './kit-shelf';
import {
  parseField,
  SHEET_FIELDS,
  showField,
  valueAt,
  withSpan,
  withValue,
  type SheetField,
} from './sheet-fields';
import { SheetForm } from './sheet-form';
import { SheetPreview } from './sheet-preview';
import { ToolSizes } from './tool-sizes';

const find = <T extends { id: string }>(list: readonly T[], id: string): T =>
  list.find((t) => t.id === id) as T;
const plug = find(CONNECTOR_TYPES, 'plug-closed');

describe('a sheet as fields', () => {
  it('shows every figure and takes it back unchanged', () => {
    for (const [kind, sheets] of [
      ['connector', CONNECTOR_TYPES],
      ['cable', CABLE_TYPES],
      ['tool', TOOL_TYPES],
    ] as const) {
      for (const sheet of sheets) {
        for (const field of SHEET_FIELDS[kind].flatMap((group) => group.fields)) {
          const value = valueAt(sheet, field.path);
          if (value === undefined) continue;
          expect(parseField(field, showField(field, value)))
            .withContext(`${sheet.id} ${field.path}`)
            .toEqual(value);
        }
      }
    }
  });

  it('changes one figure and nothing else', () => {
    const changed = withValue(plug, 'strip.jacketMm', 25);
    expect(changed.strip).toEqual({ ...plug.strip, jacketMm: 25 });
    expect(plug.strip.jacketMm).toBe(30);
    expect(withValue(plug, 'parts.0.boreMm', 7).parts[0]?.boreMm).toBe(7);
  });

  it('forgets a range only when both its figures are gone', () => {
    const half = withSpan(plug, 'takes.jacketMm.min', null);
    expect(half.takes.jacketMm).toEqual({ min: null as unknown as number, max: 6.3 });
    expect(withSpan(half, 'takes.jacketMm.max', null).takes.jacketMm).toBeNull();
  });

  it('takes a comma for a point, and an empty field for unknown only where that may be', () => {
    const length: SheetField = { path: 'x', label: 'x', input: 'number' };
    expect(parseField(length, ' 7,5 ')).toBe(7.5);
    expect(parseField(length, '')).toBeNaN();
    expect(parseField({ ...length, nullable: true }, '')).toBeNull();
  });

  it('says beside the field what is wrong with it', async () => {
    const draft: KindedSheet = { kind: 'connector', sheet: plug };
    const room = await showRoom(SheetForm, {
      inputs: { draft, wrong: { 'strip.trimMm': 'No more can be left.' } },
    });
    expect(room.text('label.bad small')).toBe('No more can be left.');
    const changes: KindedSheet[] = [];
    room.fixture.componentInstance.changed.subscribe((change) => changes.push(change));
    const add = [...room.page.querySelectorAll('button')].find((b) => b.textContent?.includes('Add a part'));
    add?.click();
    expect((changes[0]?.sheet as ConnectorType).parts.length).toBe(plug.parts.length + 1);
  });
});

describe('live drawings in the kit', () => {
  it('show a connector’s strip plan, parts, fit and order on a cable that fits it', async () => {
    const room = await showRoom(SheetPreview, {
      inputs: { connector: find(CONNECTOR_TYPES, 'coax-n'), cables: CABLE_TYPES },
    });
    expect((room.page.querySelector('select') as HTMLSelectElement).value).toBe('rg213');
    expect(room.page.querySelector('ns-strip-plan svg')?.getAttribute('aria-label')).toContain(
      'screen off 14 mm, baring 8 mm',
    );
    expect(room.text('ol')).toContain('Thread the heat-shrink and ferrule');
  });

  it('wait while a figure makes no sense', async () => {
    const room = await showRoom(SheetPreview, {
      inputs: { connector: plug, cables: CABLE_TYPES, whole: false },
    });
    expect(room.page.textContent).toContain('The drawing waits');
  });

  it('cut a cable across with every conductor inside its jacket', async () => {
    const room = await showRoom(CableSection, { inputs: { cable: CABLE_TYPES[0] } });
    for (const cable of CABLE_TYPES as readonly CableType[]) {
      room.fixture.componentRef.setInput('cable', cable);
      await room.fixture.whenStable();
      expect(room.text('p')).toContain('to scale');
      const discs = [...room.page.querySelectorAll<SVGCircleElement>('circle.edge')];
      expect(discs.length).withContext(cable.id).toBeGreaterThan(0);
      if (cable.family === 'ribbon') continue;
      for (const disc of discs) {
        const reach = Math.hypot(disc.cx.baseVal.value, disc.cy.baseVal.value) + disc.r.baseVal.value;
        expect(reach)
          .withContext(cable.id)
          .toBeLessThanOrEqual(cable.jacketMm / 2 + 0.01);
      }
    }
  });

  it('draw dies by their width across flats, and name what has no measure', async () => {
    const hex = await showRoom(ToolSizes, { inputs: { tool: find(TOOL_TYPES, 'hex-crimp') } });
    expect(hex.page.querySelectorAll('svg').length).toBe(6);
    expect(hex.page.querySelector('svg')?.getAttribute('aria-label')).toBe('3.3 mm across flats');
    hex.fixture.componentRef.setInput('tool', find(TOOL_TYPES, 'insertion-110'));
    await hex.fixture.whenStable();
    expect([hex.page.querySelectorAll('svg').length, hex.text('ul')]).toEqual([0, '11066']);
  });
});
