import {
  familyOf,
  placeWords,
  type AdapterDesign,
  type AdapterEnd,
  type AdapterNet,
  type Coupling,
  type Pin,
  type PlacedPin,
} from './design.js';
import type { Divider, LevelChange, LevelFamily } from './levels.js';
import { chooseDivider, levelChangeFigures, proposeLevelChange } from './levels.js';

/** Where a contact of a stage's part is joined: what it lies between, ground, a supply, or a point inside. */
export type StageNode = 'in' | 'out' | 'ground' | 'supply of the sender' | 'supply of the receiver' | string;

/** One part of a level stage, with where each of its contacts goes. */
export interface StagePart {
  id: string;
  kind: 'resistor' | 'NPN' | 'FET' | 'chip' | 'capacitor';
  /** Of a resistor. */
  ohm?: number;
  /** "resistor 22 kilohm", "NPN transistor". */
  what: string;
  contacts: Readonly<Record<string, StageNode>>;
}

const kilohm = (ohm: number): string => (ohm >= 1000 ? `${ohm / 1000} kilohm` : `${ohm} ohm`);
const resistor = (id: string, ohm: number, one: StageNode, other: StageNode): StagePart => ({
  id,
  kind: 'resistor',
  ohm,
  what: `resistor ${kilohm(ohm)}`,
  contacts: { one, other },
});

const dividerParts = ({ seriesOhm, groundOhm }: Divider): StagePart[] => [
  resistor('R1', seriesOhm, 'in', 'out'),
  resistor('R2', groundOhm, 'out', 'ground'),
];

/**
 * What a level change is made of, part by part: what `proposeLevelChange` says in words, as something that can be
 * built and metered. Empty where the levels go together as they are.
 */
export function levelStage(
  driver: LevelFamily,
  receiver: LevelFamily,
  given: { bothWays?: boolean } = {},
): StagePart[] {
  const { by } = proposeLevelChange(driver, receiver, given);
  return PARTS[by](driver, receiver);
}

/** A level stage of a lead: its parts, the end where it is best put, and what is not to be had there. */
export interface PlacedStage {
  driver: PlacedPin;
  receiver: PlacedPin;
  parts: StagePart[];
  /** The end it lies at: the first, of the one that its join goes to and the other, that has what it needs. */
  end: string;
  missing: string[];
}

/** What stands at a stage's edges: the contacts that it lies between, and what feeds it. */
export interface StageNames {
  in: string;
  out: string;
  ground: string;
  'supply of the sender': string;
  'supply of the receiver': string;
}

/** The edges of a stage by the contacts of the lead that it is in. */
export function stageNames(
  { ends }: Pick<AdapterDesign, 'ends'>,
  { driver, receiver, end }: PlacedStage,
): StageNames {
  const contactAt = (endId: string, is: (pin: Pin) => boolean): string | undefined => {
    const pin = ends.find(({ id }) => id === endId)?.pins.find(is);
    return pin && `${endId} ${pin.contact} ${pin.signal}`;
  };
  const supplyOf = (endId: string): string => contactAt(endId, isSupply) ?? `the supply of ${endId}`;
  return {
    in: `${placeWords(driver)} ${driver.pin.signal}`,
    out: `${placeWords(receiver)} ${receiver.pin.signal}`,
    ground: contactAt(end, ({ kind }) => kind === 'ground') ?? 'ground',
    'supply of the sender': supplyOf(driver.end),
    'supply of the receiver': supplyOf(receiver.end),
  };
}

const isSupply = ({ kind }: Pin): boolean => kind === 'supply-in' || kind === 'supply-out';

/** What a coupling's level stage is made of and where it lies; null where there is none, or its levels are not known. */
export function placedStage(
  { ends }: Pick<AdapterDesign, 'ends'>,
  nets: readonly AdapterNet[],
  { from, to, parts }: Coupling,
): PlacedStage | null {
  if (!parts.some(({ kind }) => kind === 'level stage')) return null;
  const backwards = from.pin.kind === 'input' || to.pin.kind === 'output';
  const [driver, receiver] = backwards ? [to, from] : [from, to];
  const [gives, takes] = [familyOf(driver.pin), familyOf(receiver.pin)];
  if (!gives || !takes) return null;
  const bothWays = driver.pin.kind === 'both' && receiver.pin.kind === 'both';
  const made = levelStage(gives, takes, { bothWays });
  const wants = new Set(made.flatMap(({ contacts }) => Object.values(contacts)));
  const endOf = (id: string): AdapterEnd | undefined => ends.find((each) => each.id === id);
  /** Whether a kind of contact of one end is there at another: its own, or carried over by a join. */
  const has = (at: string, of: string, is: (pin: Pin) => boolean): boolean =>
    at === of
      ? (endOf(of)?.pins ?? []).some(is)
      : nets.some(
          ({ pins }) =>
            pins.some(({ end, pin }) => end === of && is(pin)) && pins.some(({ end }) => end === at),
        );
  const missingAt = (at: string): string[] => [
    ...(wants.has('supply of the sender') && !has(at, driver.end, isSupply)
      ? [`the supply of ${endOf(driver.end)?.name ?? driver.end}`]
      : []),
    ...(wants.has('supply of the receiver') && !has(at, receiver.end, isSupply)
      ? [`the supply of ${endOf(receiver.end)?.name ?? receiver.end}`]
      : []),
    ...(wants.has('ground') && !has(at, at, ({ kind }) => kind === 'ground') ? ['a ground'] : []),
  ];
  const places = [to.end, from.end].map((end) => ({ end, missing: missingAt(end) }));
  const best = places.find(({ missing }) => missing.length === 0) ?? places[0];
  return best ? { driver, receiver, parts: made, ...best } : null;
}

const PARTS: Readonly<
  Record<LevelChange['by'], (driver: LevelFamily, receiver: LevelFamily) => StagePart[]>
> = {
  nothing: () => [],
  divider: (driver, receiver) => {
    const divider = chooseDivider(driver, receiver);
    return divider ? dividerParts(divider) : [];
  },
  'two-transistor stage': (driver, receiver) => {
    const { baseOhm, pullUpOhm } = levelChangeFigures(driver, receiver);
    const supply = 'supply of the receiver';
    return [
      resistor('R1', baseOhm, 'in', 'base of T1'),
      {
        id: 'T1',
        kind: 'NPN',
        what: 'NPN transistor',
        contacts: { B: 'base of T1', C: 'collector of T1', E: 'ground' },
      },
      resistor('R2', pullUpOhm, supply, 'collector of T1'),
      resistor('R3', pullUpOhm, 'collector of T1', 'base of T2'),
      { id: 'T2', kind: 'NPN', what: 'NPN transistor', contacts: { B: 'base of T2', C: 'out', E: 'ground' } },
      resistor('R4', pullUpOhm, supply, 'out'),
    ];
  },
  'FET with two pull-ups': (driver, receiver) => {
    const { pullUpOhm, thresholdV } = levelChangeFigures(driver, receiver);
    const senderLow = driver.supplyV <= receiver.supplyV;
    const [low, high] = senderLow ? (['in', 'out'] as const) : (['out', 'in'] as const);
    const supplyOf = (side: 'in' | 'out'): StageNode =>
      side === 'in' ? 'supply of the sender' : 'supply of the receiver';
    return [
      {
        id: 'T1',
        kind: 'FET',
        what: `N-channel FET, threshold at most ${thresholdV.toFixed(1)} V`,
        contacts: { G: supplyOf(low), S: low, D: high },
      },
      resistor('R1', pullUpOhm, supplyOf(low), low),
      resistor('R2', pullUpOhm, supplyOf(high), high),
    ];
  },
  'RS-232 driver chip': (driver) => [
    {
      id: 'U1',
      kind: 'chip',
      what: `RS-232 chip, its ${driver.inverted ? 'receiver' : 'driver'}`,
      contacts: {
        input: 'in',
        output: 'out',
        supply: driver.inverted ? 'supply of the receiver' : 'supply of the sender',
        ground: 'ground',
      },
    },
    ...['C1', 'C2', 'C3', 'C4'].map((id): StagePart => ({
      id,
      kind: 'capacitor',
      what: 'capacitor of its charge pump, size and place by its sheet',
      contacts: {},
    })),
  ],
};
