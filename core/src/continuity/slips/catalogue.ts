import type { ConductorId } from '../../cabling/conductors.js';
import type { ContactId } from '../../cabling/schemes.js';
import type { LinkExpectation } from '../expectation.js';
import { fault, pairsOfConductors, type PhysicalFault } from '../faults.js';
import type { Frame } from '../frame.js';
import { kindOfLink, remember } from '../link-kind.js';
import { CARRIED_ALONG, handFactor, TYPICAL_PRACTICE, type Practice, type SlipKind } from '../practice.js';
import type { LinkEnd } from '../true-link.js';
import { cableWays } from './cable.js';
import { EndBench } from './end.js';
import { jointWays } from './joints.js';
import { orderWays } from './orders.js';
import type { Way } from './way.js';

/** Slips per contact happen oftener where there are more contacts; the typical figures are of eight. */
const PER_CONTACT: readonly SlipKind[] = [
  'missed-slot',
  'poor-joint',
  'loose-joint',
  'touching-neighbours',
  'touching-others',
  'reversed-pair',
  'neighbour-swap',
];

const shares = (ways: readonly Way[]): number => ways.reduce((sum, way) => sum + (way.weight ?? 1), 0);

/**
 * Everything that is considered to happen at one end of a link, with its rate. Order slips come
 * first, whole orders before single wires: a hand first lays the order, then wires go astray.
 */
export function faultsAtEnd(
  expected: LinkExpectation,
  frame: Frame,
  end: LinkEnd,
  practice: Practice = TYPICAL_PRACTICE,
): readonly PhysicalFault[] {
  const key = `${kindOfLink(expected)}/${end}/${JSON.stringify(practice.rates)}`;
  return remember(atEnds, KINDS_REMEMBERED, key, () => everythingAtEnd(expected, frame, end, practice));
}

/** What happens at an end hangs on neither length nor label, so links of a kind share it. */
const atEnds = new Map<string, readonly PhysicalFault[]>();
const KINDS_REMEMBERED = 60;

function everythingAtEnd(
  expected: LinkExpectation,
  frame: Frame,
  end: LinkEnd,
  practice: Practice,
): readonly PhysicalFault[] {
  const bench = new EndBench(expected, frame, end);
  const few = expected.family === 'coax' || expected.family === 'line';
  const ways = { ...orderWays(bench), ...jointWays(bench) };
  return (Object.entries(ways) as [SlipKind, Way[]][]).flatMap(([slip, list]) => {
    const contacts = PER_CONTACT.includes(slip) && !few ? bench.wired.length / 8 : 1;
    const rate = practice.rates[slip] * handFactor(expected[end], slip) * contacts;
    const total = shares(list);
    return list.map((way) => faultAtEnd(bench, slip, way, (rate * (way.weight ?? 1)) / total));
  });
}

/** One way of a slip at an end, as a fault of that rate. */
export function faultAtEnd(bench: EndBench, slip: SlipKind, way: Way, rate: number): PhysicalFault {
  const { expected, frame, end } = bench;
  const contacts = way.contacts.map((c) => frame.contacts[end][c] as ContactId);
  const conductors = contacts.map((c): ConductorId | null => expected[end].wiring[c] ?? null);
  const whole = way.kind === 'short' || way.kind === 'equipment';
  return fault(
    {
      kind: way.kind,
      slip,
      variant: way.variant ?? '',
      end,
      contacts,
      conductors,
      pairs: whole ? [] : pairsOfConductors(frame, conductors),
      distanceM: null,
      rate,
      effects: way.effects,
    },
    expected,
  );
}

/** A place along the cable to try, with the share of belief a fault's unknown place gives it. */
export interface CablePlace {
  atM: number | null;
  share: number;
}

/** Faults along the cable: each at every place that is named, or at a place nobody knows. */
export function faultsAlongCable(
  expected: LinkExpectation,
  frame: Frame,
  places: readonly CablePlace[],
  practice: Practice = TYPICAL_PRACTICE,
): PhysicalFault[] {
  const where = places.length > 0 ? places : [{ atM: null, share: 1 }];
  return where.flatMap(({ atM, share }, i) =>
    (Object.entries(cableWays(expected, frame, atM)) as [SlipKind, Way[]][]).flatMap(([slip, list]) => {
      const placeless = slip === 'other-outlet' || slip === 'wrong-splice';
      if (placeless && i > 0) return [];
      const rate = practice.rates[slip] * (placeless ? 1 : share);
      const total = shares(list);
      return list.map((way) =>
        faultAlongCable(
          expected,
          frame,
          slip,
          way,
          placeless ? null : atM,
          (rate * (way.weight ?? 1)) / total,
        ),
      );
    }),
  );
}

/** One way of a slip along the cable, as a fault of that rate. */
export function faultAlongCable(
  expected: LinkExpectation,
  frame: Frame,
  slip: SlipKind,
  way: Way,
  atM: number | null,
  rate: number,
): PhysicalFault {
  const conductors = way.contacts.map((w): ConductorId | null => frame.conductors[w] ?? null);
  return fault(
    {
      kind: way.kind,
      slip,
      variant: way.variant ?? '',
      end: 'cable',
      contacts: frame.contacts.near.filter((c) => {
        const conductor = expected.near.wiring[c];
        return conductor != null && conductors.includes(conductor);
      }),
      conductors,
      pairs: pairsOfConductors(frame, conductors),
      distanceM: atM,
      rate,
      effects: way.effects,
    },
    expected,
  );
}

/** The same slip at both ends by one hand, as one thing that happened. */
export function carriedSlips(
  near: readonly PhysicalFault[],
  far: readonly PhysicalFault[],
): [PhysicalFault, PhysicalFault][] {
  const atFar = new Map(far.map((one) => [one.twin, one]));
  return near.flatMap((one) => {
    const twin = CARRIED_ALONG[one.slip] === undefined ? undefined : atFar.get(one.twin);
    return twin ? [[one, twin] as [PhysicalFault, PhysicalFault]] : [];
  });
}
