import type { EchoEvent, Reading, Touch } from '../../src/index.js';
import {
  islandsOf,
  netlistOf,
  ohmsBetween,
  wrongOnlyAt,
  type End,
  type Netlist,
  type WorldLink,
} from './world-link.js';

export type Chance = () => number;
export type WorldInstrument =
  | 'lamp-pairs'
  | 'stepping-lamps'
  | 'coded-mapper'
  | 'coded-mapper-crosstalk'
  | 'beeper'
  | 'ohmmeter'
  | 'pair-reflectometer'
  | 'wiggle'
  | 'eye';

/** How a reading is taken: from where, with what touches, and whether instrument and hand may err. */
export interface Taking {
  end?: End;
  touches?: readonly Touch[];
  /** Null for an instrument that never errs, loose joints then being as `looseOpen` says. */
  chance: Chance | null;
  looseOpen?: boolean;
}

const LIGHT_OHM = 400;
const BEEP_OHM = 35;
const gauss = (chance: Chance): number =>
  Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());

/** A probe that does not bite, or rests on its neighbour; and how often it does so once more. */
const TIP = { slips: 0.0125, strays: 0.0014, again: 0.07 };

/** What an instrument shows on a link of the world. */
export function take(link: WorldLink, instrument: WorldInstrument, taking: Taking): Reading {
  const { chance, looseOpen = false } = taking;
  const net = netlistOf(link, (share) => (chance ? chance() < share : looseOpen));
  const errs = (rate: number): boolean => chance !== null && chance() < rate;
  switch (instrument) {
    case 'lamp-pairs': {
      const bridged = {
        nodes: net.nodes,
        resistors: [
          ...net.resistors,
          ...link.contactPairs.map(([a, b]) => ({ a: `far:${a}`, b: `far:${b}`, ohm: 0.01 })),
        ],
      };
      const island = islandsOf(bridged, LIGHT_OHM);
      return {
        instrument,
        lamps: Object.fromEntries(
          link.contactPairs.map(([a, b]) => [
            `${a}-${b}`,
            (island.get(`near:${a}`) === island.get(`near:${b}`)) !== errs(0.002),
          ]),
        ),
      };
    }
    case 'stepping-lamps':
    case 'coded-mapper':
    case 'coded-mapper-crosstalk': {
      const island = islandsOf(net, LIGHT_OHM);
      const arrivals: Record<string, string[]> = {};
      for (const n of link.contacts) {
        const lit = link.contacts.filter((f) => island.get(`far:${f}`) === island.get(`near:${n}`));
        const dark = instrument === 'stepping-lamps' && lit.length > 1 ? 0.15 : 0.0008;
        arrivals[n] = lit.filter(() => !errs(dark));
      }
      const seen = new Set<number>();
      const joins = link.contacts.flatMap((n) => {
        const of = island.get(`near:${n}`) as number;
        const group = link.contacts.filter((m) => island.get(`near:${m}`) === of);
        if (seen.has(of) || group.length < 2) return [];
        seen.add(of);
        return [group];
      });
      return {
        instrument,
        arrivals,
        joins: instrument === 'stepping-lamps' ? [] : joins,
        splits: instrument === 'coded-mapper-crosstalk' ? splitsOf(link, arrivals, joins, errs) : null,
      };
    }
    case 'beeper':
    case 'ohmmeter': {
      const asked: readonly Touch[] =
        taking.touches ??
        link.contacts.map((c) => ({
          from: { end: 'near' as const, contacts: [c] },
          to: { end: 'far' as const, contacts: [c] },
          closed: false,
        }));
      const meant = netlistOf(wrongOnlyAt(link, []), () => false);
      return {
        instrument,
        touches: asked.map(({ from, to, joined }): Touch => {
          const clips = (joined ?? []).flatMap((g) =>
            g.contacts
              .slice(1)
              .map((c) => ({ a: `${g.end}:${g.contacts[0]}`, b: `${g.end}:${c}`, ohm: 0.01 })),
          );
          const names = (g: Touch['from']): string[] => g.contacts.map((c) => `${g.end}:${c}`);
          const ohmOn = ({ nodes, resistors }: Netlist): number =>
            ohmsBetween({ nodes, resistors: [...resistors, ...clips] }, names(from), names(to));
          const ohm = ohmOn(net);
          const is = ohm < (instrument === 'beeper' ? BEEP_OHM : 1e6);
          let slipped = errs(is ? TIP.slips : TIP.strays);
          // A person who hears what he did not expect puts the probe there again.
          if (slipped && is === ohmOn(meant) < 1e6) slipped = errs(TIP.again);
          const closed = is !== slipped;
          const kept = { from, to, ...(joined ? { joined } : {}), closed };
          if (instrument === 'beeper') return kept;
          if (!closed) return { ...kept, ohm: null };
          const shown = slipped ? 3 : chance ? ohm * (1 + 0.01 * gauss(chance)) + 0.08 * gauss(chance) : ohm;
          return { ...kept, ohm: Math.max(0, Math.round(shown * 100) / 100) };
        }),
      };
    }
    case 'wiggle': {
      const end = taking.end ?? 'far';
      const moved = link.joints.filter((j) => j.end === end && j.openShare !== undefined);
      return { instrument, end, flickers: moved.filter(() => !errs(0.12)).map((j) => j.contact) };
    }
    case 'eye': {
      const end = taking.end ?? 'far';
      const looks = link.contacts.map((c) => {
        const lies = link.laid[end][c] ?? null;
        // Deep in the shell, or under a smear: nobody can say what is there, nor whether anything is.
        if (errs(0.02)) return { c, seen: null, empty: false };
        if (lies === null || !errs(0.003)) return { c, seen: lies, empty: lies === null };
        const taken = link.wires[Math.floor((chance?.() ?? 0) * link.wires.length)] ?? null;
        return { c, seen: taken, empty: taken === null };
      });
      // Some write down that nothing is there as they write down that they saw nothing.
      const told = errs(0.2) ? [] : looks.filter(({ empty }) => empty).map(({ c }) => c);
      return {
        instrument,
        end,
        colours: Object.fromEntries(looks.map(({ c, seen }) => [c, seen])),
        ...(told.length > 0 ? { empty: told } : {}),
      };
    }
    case 'pair-reflectometer':
      return echoes(link, taking);
  }
}

/** Split: two wires of different twists carry one pair of contacts, and the map is right there. */
function splitsOf(
  link: WorldLink,
  arrivals: Readonly<Record<string, string[]>>,
  joins: readonly string[][],
  errs: (rate: number) => boolean,
): string[] {
  return link.contactPairs
    .filter(([a, b]) => {
      const straight = [a, b].every((c) => arrivals[c]?.join() === c && !joins.some((g) => g.includes(c)));
      if (!straight || link.twisted.length < 2) return false;
      const [v, w] = [link.laid.near[a], link.laid.near[b]];
      const one = link.twisted.some((pair) => pair.includes(v ?? '') && pair.includes(w ?? ''));
      return !one !== errs(0.004);
    })
    .map(([a, b]) => `${a}-${b}`);
}

function echoes(link: WorldLink, { end = 'near', chance, looseOpen = false }: Taking): Reading {
  const scale = chance ? 1 + 0.02 * gauss(chance) : 1;
  const there = (atM: number): number => (end === 'near' ? atM : link.lengthM - atM);
  const loose = new Map<object, boolean>();
  const isOpen = (thing: { ohm: number; openShare?: number }): boolean => {
    if (thing.openShare === undefined) return thing.ohm > 1e5;
    if (!loose.has(thing)) loose.set(thing, chance ? chance() < thing.openShare : looseOpen);
    return loose.get(thing) === true;
  };
  const pairs: Record<string, EchoEvent[]> = {};
  for (const [a, b] of link.contactPairs) {
    const laid = [a, b].map((c) => link.laid[end][c] ?? null);
    const off = [a, b].some((c) => link.joints.some((j) => j.end === end && j.contact === c && isOpen(j)));
    const events: EchoEvent[] = [];
    if (link.bridges.some((g) => g.end === end && g.contacts.includes(a) && g.contacts.includes(b)))
      events.push({ kind: 'short', distanceM: 0 });
    else if (laid.includes(null) || off) events.push({ kind: 'open', distanceM: 0 });
    else {
      const walked = walk(link, laid as [string, string], end, there, isOpen);
      const twist = link.twisted.some((pair) => pair.includes(laid[0] ?? '') && pair.includes(laid[1] ?? ''));
      if (!twist && link.twisted.length > 1) events.push({ kind: 'high', distanceM: 0 });
      events.push(...walked);
    }
    pairs[`${a}-${b}`] = events
      .filter((e) => !(chance && chance() < (e.kind === 'low' || e.kind === 'high' ? 0.08 : 0.003)))
      .map((e) => ({
        kind: e.kind,
        distanceM:
          Math.round(
            10 *
              Math.max(0, e.distanceM * scale + (chance ? (0.2 + 0.005 * e.distanceM) * gauss(chance) : 0)),
          ) / 10,
      }))
      .sort((x, y) => x.distanceM - y.distanceM);
  }
  return { instrument: 'pair-reflectometer', from: end, pairs };
}

/** Follows the two wires outwards to what stops the pulse, soft echoes met on the way. */
function walk(
  link: WorldLink,
  laid: [string, string],
  end: End,
  there: (atM: number) => number,
  isOpen: (thing: { ohm: number; openShare?: number }) => boolean,
): EchoEvent[] {
  const met: EchoEvent[] = [];
  const on = [...laid];
  const things = [
    ...link.breaks.map((b) => ({ atM: b.atM, what: b })),
    ...link.touching.map((t) => ({ atM: t.atM, what: t })),
    ...link.splices.map((s) => ({ atM: s.atM, what: s })),
    ...link.wetAtM.map((atM) => ({ atM, what: null })),
  ].sort((x, y) => there(x.atM) - there(y.atM));
  for (const { atM, what } of things) {
    const distanceM = there(atM);
    if (what === null) met.push({ kind: 'low', distanceM });
    else if ('openShare' in what || ('ohm' in what && link.breaks.includes(what as never))) {
      if (on.some((w) => what.wires.includes(w)) && isOpen(what as { ohm: number }))
        return [...met, { kind: 'open', distanceM }];
    } else if (link.touching.includes(what as never)) {
      if (on.every((w) => what.wires.includes(w))) return [...met, { kind: 'short', distanceM }];
    } else
      on.forEach((w, i) => {
        const wires = what.wires as readonly string[];
        if (wires.includes(w)) on[i] = wires.find((v) => v !== w) as string;
      });
  }
  const other: End = end === 'near' ? 'far' : 'near';
  const contactOf = (w: string): string | undefined =>
    link.contacts.find((c) => link.laid[other][c] === w) ?? undefined;
  const ends = on.map(contactOf);
  const shorted = link.bridges.some(
    (g) => g.end === other && ends.every((c) => c !== undefined && g.contacts.includes(c)),
  );
  const transformer =
    link.equipment.includes(other) &&
    link.contactPairs.some((pair) => ends.every((c) => c !== undefined && pair.includes(c)));
  const kind = shorted || transformer ? 'short' : 'open';
  return [...met, { kind, distanceM: link.lengthM }];
}
