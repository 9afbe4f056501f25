import type { ContactId } from '../cabling/schemes.js';
import type { LayoutChoice } from '../connectors/own-layout.js';
import type { Wire } from './conductor-choice.js';
import { LEVEL_FAMILIES, type LevelFamily } from './levels.js';
import { familyFromLevels, type MeasuredLevels } from './measure-levels.js';

/** What a contact does, seen from its device. */
export const PIN_KINDS = [
  'supply-out',
  'supply-in',
  'ground',
  'input',
  'output',
  'both',
  'open-collector',
  'video',
  'audio',
  'shield',
  'not-connected',
  'reserved',
] as const;
export type PinKind = (typeof PIN_KINDS)[number];

/** Where a figure comes from. */
export type PinSource = 'sheet' | 'metered' | 'typical';

/** Amperes of a supply's contact, null where they are not known: none gives or takes nought. */
export const knownA = ({ currentA }: Pick<Pin, 'currentA'>): number | null =>
  currentA === null || currentA === 0 ? null : currentA;

/** Levels and thresholds as a device's own sheet gives them, volts. */
export type LevelFigures = Omit<LevelFamily, 'id' | 'name' | 'source'>;

/** One contact of a device with what is on it. */
export interface Pin {
  contact: ContactId;
  signal: string;
  kind: PinKind;
  /** Family of its levels, by id; null where it has none. */
  levels: string | null;
  /** Volts that a supply gives, or that a load accepts, from and to; null for signals. */
  volts: readonly [from: number, to: number] | null;
  /** Amperes that a supply can give, or that a load takes; null where nobody has said, which is never nought. */
  currentA: number | null;
  /** It has to be driven, or nothing works. */
  needed: boolean;
  /** It has its own pull-up: an open collector on the same net works. */
  pullUp: boolean;
  /** Signals that belong on one pair share a name here. */
  together: string | null;
  source: PinSource;
  /** Insulation of the wire that comes from this contact in a moulded lead, as metered. */
  colour?: string;
  /** Levels taken from an oscilloscope's samples; they stand before those of the family. */
  measured?: MeasuredLevels;
  /** Levels and thresholds of its own sheet, where it belongs to no family. */
  figures?: LevelFigures;
  /** What the sheet says, where the device was found otherwise: kept for the next person. */
  sheetSaid?: string;
}

/** Space about a connector, millimetres. */
export interface Room {
  widthMm: number;
  heightMm: number;
  lengthMm: number;
}

/** One device's connector. */
export interface AdapterEnd {
  /** Short, as joins name it: A, B, C. */
  id: string;
  name: string;
  connector: string;
  /** The face that the pinout was drawn from; null while nobody has said. */
  sheetFace: 'mating' | 'rear' | null;
  /** Amperes that one contact bears. */
  contactBearsA: number;
  /** Where its contacts lie; left out or null where nothing is drawn. */
  layout?: LayoutChoice;
  /** The body as it is when assembled, and the room where it has to go. */
  body?: Room;
  room?: Room;
  /** How it lies in its case, in words. */
  note?: string;
  pins: readonly Pin[];
}

export const INLINE_KINDS = [
  'resistor',
  'diode',
  'LED',
  'switch',
  'capacitor',
  'battery',
  'level stage',
] as const;
export type InlineKind = (typeof INLINE_KINDS)[number];

/** Something in the way of a join. */
export interface InlinePart {
  kind: InlineKind;
  words: string;
  /** Ohm of a resistor. */
  ohm?: number;
  /** A battery pack: its cells, and volts of one new and one at the end of its life. */
  cells?: { count: number; freshV: number; endV: number };
}

/** A contact, as "A 3". */
export interface PinPlace {
  end: string;
  contact: ContactId;
}

/** A join; parts in its way lie at the end that it goes to. */
export interface Join {
  from: PinPlace;
  to: PinPlace;
  parts: readonly InlinePart[];
}

/** A lead between two or more devices. */
export interface AdapterDesign {
  name: string;
  ends: readonly AdapterEnd[];
  joins: readonly Join[];
  /** The cable it is made of; empty while none is chosen. */
  wires: readonly Wire[];
  lengthM: number;
  /** Conductors and contacts that do nothing are insulated and kept, unless they are cut off. */
  spares?: 'keep' | 'cut';
  /** What the device has to do once the lead is proved, such as "each key in turn". */
  functionTest?: readonly string[];
}

/** A design that names what it does not have. */
export class BadDesign extends Error {}

/** A contact with its pin. */
export interface PlacedPin extends PinPlace {
  pin: Pin;
}

/** Contacts that are one piece of metal, and what leads on from them through parts. */
export interface AdapterNet {
  name: string;
  pins: PlacedPin[];
}

/** Two nets with parts between them. */
export interface Coupling {
  from: PlacedPin;
  to: PlacedPin;
  parts: readonly InlinePart[];
}

/** Whether two places are one contact. */
export const samePlace = (one: PinPlace, other: PinPlace): boolean =>
  one.end === other.end && one.contact === other.contact;

/** Whether a join goes to a contact. */
export const joinTouches = ({ from, to }: Join, place: PinPlace): boolean =>
  samePlace(from, place) || samePlace(to, place);

export const placeWords = ({ end, contact }: PinPlace): string => `${end} ${contact}`;

/**
 * The pin at a place.
 *
 * @throws BadDesign for an end or a contact that is not there
 */
export function pinAt({ ends }: Pick<AdapterDesign, 'ends'>, place: PinPlace): PlacedPin {
  const end = ends.find(({ id }) => id === place.end);
  if (!end)
    throw new BadDesign(`There is no end ${place.end}: the ends are ${ends.map(({ id }) => id).join(', ')}.`);
  const pin = end.pins.find(({ contact }) => contact === place.contact);
  if (!pin)
    throw new BadDesign(
      `${end.name} (${end.id}) has no contact ${place.contact}: it has ${end.pins.map(({ contact }) => contact).join(', ')}.`,
    );
  return { ...place, pin };
}

/**
 * What the joins make one, every joined contact in exactly one net, and the parts between nets. A
 * net is named by its ground, its supply, or its first signal.
 *
 * @throws BadDesign
 */
export function netsOf(design: Pick<AdapterDesign, 'ends' | 'joins'>): {
  nets: AdapterNet[];
  couplings: Coupling[];
} {
  const groups: PlacedPin[][] = [];
  const groupOf = (place: PinPlace): PlacedPin[] => {
    const found = groups.find((group) =>
      group.some(({ end, contact }) => end === place.end && contact === place.contact),
    );
    if (found) return found;
    const fresh = [pinAt(design, place)];
    groups.push(fresh);
    return fresh;
  };
  const couplings: Coupling[] = [];
  for (const { from, to, parts } of design.joins) {
    const [one, other] = [groupOf(from), groupOf(to)];
    if (parts.length > 0) {
      couplings.push({ from: pinAt(design, from), to: pinAt(design, to), parts });
      continue;
    }
    if (one === other) continue;
    one.push(...other);
    groups.splice(groups.indexOf(other), 1);
  }
  return { nets: groups.map((pins) => ({ name: nameOf(pins), pins })), couplings };
}

function nameOf(pins: readonly PlacedPin[]): string {
  const kinds: readonly PinKind[] = ['ground', 'supply-out', 'supply-in', 'shield'];
  const named = kinds.flatMap((kind) => pins.filter(({ pin }) => pin.kind === kind))[0] ?? pins[0];
  return named?.pin.signal ?? '';
}

/** A pin's levels, as measured where they were; null where it has none or names a family that is not known. */
export function familyOf({ levels, figures, measured }: Pin): LevelFamily | null {
  const family: LevelFamily | null = figures
    ? { ...figures, id: 'own', name: 'its own levels', source: 'sheet' }
    : (LEVEL_FAMILIES.find(({ id }) => id === levels) ?? null);
  return measured ? familyFromLevels(measured, family) : family;
}

/** Signals that a device sends under the name that the other receives by. */
const CROSSED: readonly (readonly [string, string])[] = [
  ['TXD', 'RXD'],
  ['TX', 'RX'],
  ['RTS', 'CTS'],
  ['DTR', 'DSR'],
  ['TX+', 'RX+'],
  ['TX-', 'RX-'],
];
const plainName = (signal: string): string => signal.trim().toUpperCase().replaceAll(/[\s_]/g, '');
const crossedName = (signal: string): string | null => {
  const plain = plainName(signal);
  const found = CROSSED.find((two) => two.includes(plain));
  return found ? ((found[0] === plain ? found[1] : found[0]) ?? null) : null;
};

/** A join that is suggested, to be confirmed by a person. */
export interface SuggestedJoin {
  join: Join;
  because: 'same signal' | 'crossed: each sends what the other receives' | 'ground' | 'supply';
}

const drives = ({ kind }: Pin): boolean => kind === 'output' || kind === 'open-collector' || kind === 'both';
const hears = ({ kind }: Pin): boolean => kind === 'input' || kind === 'both';

/**
 * Joins that two ends' signals speak for: what one drives and the other hears under the same name,
 * or crossed where both ends are devices of one kind; ground to ground; a supply to a load that
 * accepts it. Nothing is joined twice, and nothing that fights.
 */
export function suggestJoins(one: AdapterEnd, other: AdapterEnd): SuggestedJoin[] {
  const taken = new Set<Pin>();
  const out: SuggestedJoin[] = [];
  const join = (a: Pin, b: Pin, because: SuggestedJoin['because']): void => {
    if (taken.has(a) || taken.has(b)) return;
    taken.add(a).add(b);
    out.push({
      join: {
        from: { end: one.id, contact: a.contact },
        to: { end: other.id, contact: b.contact },
        parts: [],
      },
      because,
    });
  };
  const each = (fits: (a: Pin, b: Pin) => boolean, because: SuggestedJoin['because']): void => {
    for (const a of one.pins) for (const b of other.pins) if (fits(a, b)) join(a, b, because);
  };
  const ways = (a: Pin, b: Pin): boolean => (drives(a) && hears(b)) || (hears(a) && drives(b));
  const same = (a: Pin, b: Pin): boolean => plainName(a.signal) === plainName(b.signal);
  each((a, b) => a.kind === 'ground' && b.kind === 'ground', 'ground');
  each((a, b) => same(a, b) && ways(a, b), 'same signal');
  each(
    (a, b) => ways(a, b) && crossedName(a.signal) === plainName(b.signal),
    'crossed: each sends what the other receives',
  );
  each(
    (a, b) => same(a, b) && a.kind === b.kind && (a.kind === 'video' || a.kind === 'audio'),
    'same signal',
  );
  const feeds = (source: Pin, load: Pin): boolean =>
    source.kind === 'supply-out' &&
    load.kind === 'supply-in' &&
    source.volts !== null &&
    load.volts !== null &&
    source.volts[0] >= load.volts[0] &&
    source.volts[1] <= load.volts[1];
  each((a, b) => feeds(a, b) || feeds(b, a), 'supply');
  return out;
}

/** Joins that the signals of any two ends of a design speak for. */
export const suggestAllJoins = ({ ends }: Pick<AdapterDesign, 'ends'>): SuggestedJoin[] =>
  ends.flatMap((one, n) => ends.slice(n + 1).flatMap((other) => suggestJoins(one, other)));

/** Of those, the ones whose contacts are both joined to nothing yet. */
export function openSuggestions(design: AdapterDesign): SuggestedJoin[] {
  const joined = new Set(design.joins.flatMap(({ from, to }) => [placeWords(from), placeWords(to)]));
  return suggestAllJoins(design).filter(
    ({ join: { from, to } }) => !joined.has(placeWords(from)) && !joined.has(placeWords(to)),
  );
}
