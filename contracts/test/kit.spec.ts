import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  TOOL_TYPES,
  type CableType,
  type ConnectorType,
} from '@near-spoke/core';
import fc from 'fast-check';
import { cableType, connectorType, fieldErrors, kitFile, toolType } from '../src/index.js';

const connectors = fc.constantFrom(...CONNECTOR_TYPES);
const cables = fc.constantFrom(...CABLE_TYPES);
const wrong = (
  schema: { safeParse: (value: unknown) => { success: boolean; error?: unknown } },
  value: unknown,
) => {
  const parsed = schema.safeParse(value);
  return parsed.success ? [] : fieldErrors(parsed.error as Parameters<typeof fieldErrors>[0]);
};

/** What a connector's sheet says where it has something to say. */
const MAY_BE_LEFT_OUT = ['impedanceOhm', 'centre', 'hold', 'nutted', 'sheetDecides'];

describe('the sheets of a kit', () => {
  it('that ship are all valid, and survive a file', () => {
    const file = {
      format: 'near-spoke/kit',
      formatVersion: 1,
      cables: CABLE_TYPES,
      connectors: CONNECTOR_TYPES,
      tools: TOOL_TYPES,
    };
    const back = kitFile.parse(JSON.parse(JSON.stringify(file)));
    expect(back.cables).toEqual([...CABLE_TYPES]);
    expect(back.connectors).toEqual([...CONNECTOR_TYPES]);
    expect(back.tools).toEqual([...TOOL_TYPES]);
  });

  it('name the field that is missing, whichever it is', () => {
    fc.assert(
      fc.property(connectors, fc.nat(), (sheet, pick) => {
        const keys = Object.keys(sheet).filter((key) => !MAY_BE_LEFT_OUT.includes(key));
        const gone = keys[pick % keys.length] as string;
        const { [gone as keyof ConnectorType]: _, ...rest } = sheet;
        expect(wrong(connectorType, rest).map((e) => e.path)).toContain(gone);
      }),
    );
  });

  it('refuse what contradicts itself', () => {
    fc.assert(
      fc.property(cables, fc.integer({ min: 1, max: 12 }), (cable, pairs) => {
        const given: CableType = { ...cable, pairs };
        const right = cable.family === 'balanced' && cable.conductors === pairs * 2;
        expect(wrong(cableType, given).length === 0).toBe(right);
      }),
    );
    const coax = CABLE_TYPES.find((c) => c.id === 'rg6') as CableType;
    expect(wrong(cableType, { ...coax, dielectricMm: 9 })[0]?.path).toBe('dielectricMm');
    expect(wrong(cableType, { ...coax, bareMm: 5 })[0]?.path).toBe('bareMm');
    expect(wrong(cableType, { ...coax, screens: [] })[0]?.path).toBe('screens');
  });

  it('refuse lengths that are no lengths, and say what to do', () => {
    const plug = CONNECTOR_TYPES[0] as ConnectorType;
    for (const bad of [-1, 0, Number.NaN, Infinity, '12', 99_999]) {
      const errors = wrong(connectorType, { ...plug, bodyMm: bad });
      expect(errors.map((e) => e.path))
        .withContext(String(bad))
        .toEqual(['bodyMm']);
      expect(errors[0]?.message).toMatch(/mm|length/i);
    }
  });

  it('refuse a slot that feeds a contact twice, and wires exchanged in thickness', () => {
    const jack = CONNECTOR_TYPES.find((c) => c.id === 'jack-punched') as ConnectorType;
    const twice = jack.slots.map((slot) => ({ ...slot, contact: '1' }));
    expect(wrong(connectorType, { ...jack, slots: twice })[0]?.message).toContain('Contact 1 has two slots');
    const takes = { ...jack.takes, awg: { thickest: 26, thinnest: 22 } };
    expect(wrong(connectorType, { ...jack, takes })[0]?.message).toContain('exchange the two');
  });

  it('keep markup as text and refuse hidden characters in names', () => {
    const tool = TOOL_TYPES[0];
    expect(wrong(toolType, { ...tool, name: '<b>stripper</b>' })).toEqual([]);
    expect(wrong(toolType, { ...tool, name: 'strip\u202eper' })[0]?.path).toBe('name');
  });
});
