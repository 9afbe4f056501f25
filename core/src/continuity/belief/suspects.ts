import type { LinkExpectation } from '../expectation.js';
import { inflict, type PhysicalFault } from '../faults.js';
import type { Frame } from '../frame.js';
import { LinkState } from '../link-state.js';
import { CARRIED_ALONG, type Practice } from '../practice.js';
import { choose, otherLengths, placesToTry, seenTogether, wildOrder, wiringsThatGive } from '../proposals.js';
import { carriedSlips, faultsAlongCable, faultsAtEnd } from '../slips/catalogue.js';
import { isMapReading } from '../readings.js';
import { LINK_PARTS, type Era, type LinkPart } from '../timeline.js';
import type { LinkEnd } from '../true-link.js';

/** Something that may have happened, to one or two parts of the link in one of their makes, and its rate. */
export interface Happening {
  parts: readonly { fault: PhysicalFault; slot: string }[];
  rate: number;
  /** Groups of contacts concerned, a bit each; things that share none do not touch each other. */
  reach: number;
}

/** A part of the link in one of its makes: `near0`, `cable1`. */
export const slotOf = (part: LinkPart, make: number): string => `${part}${make}`;
export const slotsOf = ({ make }: Era): Set<string> =>
  new Set(LINK_PARTS.map((part) => slotOf(part, make[part])));

/** How much seldomer an outlet or a plug is wrong once somebody has made sure of it. */
const CHECKED = 0.02;

/** What has to be made anew, or made sure of, for a fault to be gone. */
export const partOf = ({ kind, end }: PhysicalFault): LinkPart =>
  kind === 'equipment' ? 'unplug' : kind === 'not-connected' ? 'outlet' : end;

/**
 * Everything that may have happened, once for each make of each part that a reading speaks of: the
 * catalogue, and of what it cannot list one by one (whole orders, contacts joined or open together,
 * places and lengths) what the readings themselves propose. What happens first comes first.
 */
export function happenings(
  expected: LinkExpectation,
  frame: Frame,
  base: LinkState,
  eras: readonly Era[],
  practice: Practice,
): Happening[] {
  const readings = eras.flatMap((era) => era.readings);
  const places = placesToTry(frame, readings);
  const at = {
    near: faultsAtEnd(expected, frame, 'near', practice),
    far: faultsAtEnd(expected, frame, 'far', practice),
  };
  const makes = Object.fromEntries(LINK_PARTS.map((part) => [part, new Set<number>()])) as Record<
    LinkPart,
    Set<number>
  >;
  for (const { make } of eras) for (const part of LINK_PARTS) makes[part].add(make[part]);
  const list: Happening[] = [];
  const add = (parts: Happening['parts'], rate: number): void => {
    if (rate > 0)
      list.push({ parts, rate, reach: parts.reduce((bits, p) => bits | reachOf(frame, base, p.fault), 0) });
  };
  const last = eras[eras.length - 1] as Era;
  for (const era of eras)
    for (const end of ['near', 'far'] as const)
      if (era === last || makes[end].size > 1)
        for (const fault of wildOrders(expected, frame, base, era, eras, end, practice))
          add([{ fault, slot: slotOf(end, era.make[end]) }], fault.rate);
  for (const [near, far] of carriedSlips(at.near, at.far)) {
    const carried = CARRIED_ALONG[near.slip] ?? 0;
    for (const n of makes.near)
      for (const f of makes.far)
        if (eras.some(({ make }) => make.near === n && make.far === f))
          add(
            [
              { fault: near, slot: slotOf('near', n) },
              { fault: far, slot: slotOf('far', f) },
            ],
            near.rate * carried,
          );
  }
  const together = seenTogether(expected, frame, readings, places, practice);
  const alone = [
    ...at.near,
    ...at.far,
    ...faultsAlongCable(expected, frame, places, practice),
    ...together,
    ...otherLengths(expected, frame, readings, practice),
  ];
  for (const fault of alone) {
    const part = partOf(fault);
    for (const make of makes[part]) {
      const checked = (part === 'outlet' || part === 'unplug') && make > 0;
      add([{ fault, slot: slotOf(part, make) }], fault.rate * (checked ? CHECKED : 1));
      const carried = CARRIED_ALONG[fault.slip];
      // A wrong idea of the order is made again by the same hand.
      if ((part === 'near' || part === 'far') && carried !== undefined && makes[part].has(make + 1))
        add(
          [
            { fault, slot: slotOf(part, make) },
            { fault, slot: slotOf(part, make + 1) },
          ],
          fault.rate * carried,
        );
    }
  }
  return list;
}

/** Of orders that no slip of the catalogue makes, the share where but a few wires go round among themselves. */
const FEW_GO_ROUND = 0.5;
/** Wires that are few. */
const FEW = [3, 4];

/**
 * Any order at all at one end: the one that would give a map, or the colours seen; and where it falls into
 * rounds of wires that changed places among themselves, each round on its own, for they may lie at two ends.
 */
function wildOrders(
  expected: LinkExpectation,
  frame: Frame,
  base: LinkState,
  era: Era,
  eras: readonly Era[],
  end: LinkEnd,
  practice: Practice,
): PhysicalFault[] {
  const at = frame.at[end];
  const meant = frame.contacts[end].map((_, c) => base.cells[at + c] as number);
  const whole = [base, ...restsOf(frame, base, era, eras, end)].flatMap((rest) =>
    era.readings.flatMap((reading) => wiringsThatGive(frame, rest, reading, end)),
  );
  const rounds = whole.flatMap((wiring) =>
    roundsOf(wiring, meant)
      .filter((round) => round.length > 2)
      .map((round) => meant.map((w, c) => (round.includes(c) ? (wiring[c] as number) : w))),
  );
  const unique = [...new Map([...whole, ...rounds].map((wiring) => [wiring.join(), wiring])).values()];
  const wires = meant.filter((w) => w >= 0).length;
  const rate = practice.rates['wild-order'];
  return unique
    .filter((wiring) => wiring.some((w, c) => w !== meant[c]))
    .map((wiring) => {
      const off = wiring.filter((w, c) => w !== meant[c]).length;
      const single = FEW.includes(off) && roundsOf(wiring, meant).some((round) => round.length === off);
      const few = single ? FEW_GO_ROUND / FEW.length / (choose(wires, off) * factorial(off - 1)) : 0;
      return wildOrder(
        expected,
        frame,
        base,
        end,
        wiring,
        rate * (few + (1 - FEW_GO_ROUND) / factorial(wires)),
      );
    });
}

/**
 * What may have been wrong elsewhere all along: the rest of the link as a map shows it that was taken while this end
 * was another make, and with the other end as eyes saw it.
 */
function restsOf(frame: Frame, base: LinkState, era: Era, eras: readonly Era[], end: LinkEnd): LinkState[] {
  const other = end === 'near' ? 'far' : 'near';
  const elsewhen = eras.filter(
    ({ make }) =>
      make[end] !== era.make[end] && make[other] === era.make[other] && make.cable === era.make.cable,
  );
  const looks = eras
    .filter(({ make }) => make[other] === era.make[other])
    .flatMap(({ readings }) => readings.filter(({ instrument }) => instrument === 'eye'));
  const maps = elsewhen.flatMap(({ readings }) => readings.filter(isMapReading));
  return [...maps, ...looks].flatMap((reading) =>
    wiringsThatGive(frame, base, reading, other).flatMap((wiring) => {
      if (wiring.every((w, c) => w === base.cells[frame.at[other] + c])) return [];
      const rest = new LinkState(frame).become(base);
      inflict(rest, { effects: [{ does: 'wire', end: other, wiring }] });
      return [rest];
    }),
  );
}

/** Contacts in sets that exchanged their wires among themselves; those in order are left out. */
function roundsOf(wiring: readonly number[], meant: readonly number[]): number[][] {
  const seen = new Set<number>();
  return wiring.flatMap((_, start) => {
    const round: number[] = [];
    for (let c = start; c >= 0 && !seen.has(c); c = meant.indexOf(wiring[c] as number)) {
      seen.add(c);
      round.push(c);
    }
    return round.length > 1 ? [round] : [];
  });
}

const factorial = (n: number): number => (n < 2 ? 1 : n * factorial(n - 1));

/** Groups of contacts a fault can show in, a bit each. */
function reachOf(frame: Frame, base: LinkState, fault: PhysicalFault): number {
  let bits = 0;
  const touch = (end: LinkEnd, contact: number): void => {
    bits |= 1 << (frame.group[end][contact] as number);
  };
  const touchWire = (conductor: number): void => {
    for (const end of ['near', 'far'] as const)
      frame.contacts[end].forEach((_, c) => base.cells[frame.at[end] + c] === conductor && touch(end, c));
  };
  for (const effect of fault.effects) {
    if (effect.does === 'reorder') effect.order.forEach((from, i) => from !== i && touch(effect.end, i));
    else if (effect.does === 'wire')
      effect.wiring.forEach((w, i) => w !== base.cells[frame.at[effect.end] + i] && touch(effect.end, i));
    else if (effect.does === 'seat') touch(effect.end, effect.contact);
    else if (effect.does === 'bridge') [effect.a, effect.b].forEach((c) => touch(effect.end, c));
    else if (effect.does === 'core') effect.conductors.forEach(touchWire);
    else if (effect.does === 'join' || effect.does === 'splice') [effect.a, effect.b].forEach(touchWire);
    else bits = 2 ** Math.min(frame.groups, 31) - 1;
  }
  return bits;
}
