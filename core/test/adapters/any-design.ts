import fc from 'fast-check';
import {
  CONTACT_LAYOUTS,
  LEVEL_FAMILIES,
  PIN_KINDS,
  type AdapterDesign,
  type AdapterEnd,
  type InlinePart,
  type Pin,
} from '@near-spoke/core';

const SIGNALS = ['TXD', 'RXD', 'GND', 'VCC', 'D+', 'D-', 'RTS', 'CTS', 'MIC', 'SHIELD'];
const LEVELS = [null, ...LEVEL_FAMILIES.map(({ id }) => id)];

const someSignal = (contact: string): fc.Arbitrary<Pin> =>
  fc.record({
    contact: fc.constant(contact),
    signal: fc.constantFrom(...SIGNALS),
    kind: fc.constantFrom(...PIN_KINDS),
    levels: fc.constantFrom(...LEVELS),
    volts: fc.option(
      fc
        .tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 0, max: 6 }))
        .map(([from, more]) => [from, from + more] as const),
    ),
    currentA: fc.constantFrom(0, 0.1, 2),
    needed: fc.boolean(),
    pullUp: fc.boolean(),
    together: fc.constantFrom(null, null, 'usb', 'mic'),
    source: fc.constantFrom('sheet' as const, 'metered' as const, 'typical' as const),
  });

/** A pin; of a moulded end every one has a wire of its own colour. */
const somePin = (contact: string, moulded: boolean): fc.Arbitrary<Pin> =>
  moulded
    ? fc
        .tuple(someSignal(contact), fc.constantFrom('RD', 'BK', 'WH-BU'))
        .map(([pin, colour]) => ({ ...pin, colour }))
    : someSignal(contact);

const someEnd = (id: string, moulded = false): fc.Arbitrary<AdapterEnd> =>
  fc.constantFrom(null, ...CONTACT_LAYOUTS.filter(({ places }) => places.length <= 10)).chain((layout) => {
    const contacts = layout?.places.map(({ contact }) => contact) ?? ['1', '2', '3', 'S'];
    return fc.record({
      id: fc.constant(id),
      name: fc.constant(`device ${id}`),
      connector: fc.constant(layout?.name ?? 'something'),
      sheetFace: fc.constantFrom('mating' as const, 'rear' as const, null),
      contactBearsA: fc.constantFrom(0.5, 1, 5),
      layout: fc.constant(layout?.id ?? null),
      note: fc.constant(''),
      pins: fc.tuple(...contacts.map((contact) => somePin(contact, moulded))),
    });
  });

const PARTS: readonly InlinePart[] = [
  { kind: 'resistor', words: '', ohm: 470 },
  { kind: 'diode', words: '' },
  { kind: 'switch', words: 'held' },
  { kind: 'level stage', words: '' },
  { kind: 'battery', words: '', cells: { count: 2, freshV: 1.6, endV: 0.9 } },
];

/** Two or three ends with any connectors, any pins, and joins between any two contacts. */
export const anyDesign: fc.Arbitrary<AdapterDesign> = fc
  .boolean()
  .chain((moulded) =>
    fc.tuple(someEnd('A', moulded), someEnd('B', moulded), fc.option(someEnd('C'), { freq: 3 })),
  )
  .chain(([one, other, third]) => {
    const ends = third ? [one, other, third] : [one, other];
    const places = ends.flatMap(({ id, pins }) => pins.map(({ contact }) => ({ end: id, contact })));
    const place = fc.constantFrom(...places);
    return fc.record({
      name: fc.constant('any lead'),
      ends: fc.constant(ends),
      joins: fc.array(
        fc
          .record({ from: place, to: place, parts: fc.subarray([...PARTS], { maxLength: 1 }) })
          .filter(({ from, to }) => from.end !== to.end || from.contact !== to.contact),
        { maxLength: 12 },
      ),
      wires: fc
        .array(
          fc.record({
            colour: fc.constantFrom('RD', 'BK', 'WH', 'GN', 'WH-BU', 'SCREEN'),
            areaMm2: fc.constantFrom(0.08, 0.14, 0.5),
            pair: fc.constantFrom(null, 1, 2, 3),
            edge: fc.constantFrom(false, false, false, true),
          }),
          { maxLength: 12 },
        )
        .map((wires) => wires.map((wire, n) => ({ id: String(n + 1), ...wire }))),
      lengthM: fc.constantFrom(0.2, 1, 20),
      spares: fc.constantFrom('keep' as const, 'cut' as const),
      functionTest: fc.constantFrom([], ['Each key in turn.']),
    });
  });
