import { knownA, placeWords, type AdapterDesign, type AdapterEnd, type Join, type Pin } from './design.js';

/** One difference between two designs. */
export interface DesignChange {
  what: 'lead' | 'end' | 'contact' | 'join' | 'conductor';
  /** Where: "A", "A 3", "A 3 to B 5", a conductor's name. */
  where: string;
  before: string | null;
  after: string | null;
}

const joinPlace = ({ from, to }: Join): string => [placeWords(from), placeWords(to)].sort().join(' to ');
const joinParts = ({ parts }: Join): string =>
  parts.length === 0
    ? 'straight'
    : parts
        .map(({ kind, ohm, words }) => [kind, ohm && `${ohm} ohm`, words].filter(Boolean).join(' '))
        .join(', ');

const pinWords = (pin: Pin): string =>
  [
    pin.signal,
    pin.kind,
    pin.levels ?? '',
    pin.volts ? `${pin.volts.join(' to ')} V` : '',
    knownA(pin) === null ? '' : `${pin.currentA} A`,
    pin.needed ? 'needed' : '',
    pin.pullUp ? 'pulled up' : '',
    pin.together ? `with ${pin.together}` : '',
    pin.source,
    pin.colour ? `wire ${pin.colour}` : '',
    pin.figures ? `own levels ${Object.values(pin.figures).join(' ')}` : '',
    pin.measured ? `${pin.measured.lowV.toFixed(2)} to ${pin.measured.highV.toFixed(2)} V measured` : '',
    pin.sheetSaid ? `sheet said ${pin.sheetSaid}` : '',
  ]
    .filter((word) => word !== '')
    .join(', ');

const endWords = ({ name, connector, sheetFace, note = '' }: AdapterEnd): string =>
  [name, connector, sheetFace ? `from the ${sheetFace} face` : 'face not said', note]
    .filter((word) => word !== '')
    .join(', ');

/** What a later design has otherwise than an earlier one, place by place. */
export function compareDesigns(before: AdapterDesign, after: AdapterDesign): DesignChange[] {
  return [
    ...differences('lead', named('name', before.name), named('name', after.name)),
    ...differences('lead', named('length', `${before.lengthM} m`), named('length', `${after.lengthM} m`)),
    ...differences(
      'lead',
      named('function test', (before.functionTest ?? []).join('; ')),
      named('function test', (after.functionTest ?? []).join('; ')),
    ),
    ...differences('lead', named('spares', before.spares ?? 'keep'), named('spares', after.spares ?? 'keep')),
    ...differences('end', endsOf(before), endsOf(after)),
    ...differences('contact', pinsOf(before), pinsOf(after)),
    ...differences('join', joinsOf(before), joinsOf(after)),
    ...differences('conductor', wiresOf(before), wiresOf(after)),
  ];
}

const named = (name: string, value: string): Map<string, string> => new Map([[name, value]]);
const endsOf = ({ ends }: AdapterDesign): Map<string, string> =>
  new Map(ends.map((end) => [end.id, endWords(end)]));
const pinsOf = ({ ends }: AdapterDesign): Map<string, string> =>
  new Map(
    ends.flatMap(({ id, pins }) => pins.map((pin) => [`${id} ${pin.contact}`, pinWords(pin)] as const)),
  );
const joinsOf = ({ joins }: AdapterDesign): Map<string, string> =>
  new Map(joins.map((join) => [joinPlace(join), joinParts(join)]));
const wiresOf = ({ wires }: AdapterDesign): Map<string, string> =>
  new Map(
    wires.map(({ id, colour, areaMm2, pair, halves }) => [
      id,
      [
        colour,
        `${areaMm2} mm2`,
        pair === null ? '' : `pair ${pair}`,
        ...Object.entries(halves ?? {}).map((h) => h.join(' ')),
      ]
        .filter((word) => word !== '')
        .join(', '),
    ]),
  );

function differences(
  what: DesignChange['what'],
  before: ReadonlyMap<string, string>,
  after: ReadonlyMap<string, string>,
): DesignChange[] {
  const all = [...new Set([...before.keys(), ...after.keys()])];
  return all.flatMap((where) => {
    const [was, is] = [before.get(where) ?? null, after.get(where) ?? null];
    return was === is ? [] : [{ what, where, before: was, after: is }];
  });
}
