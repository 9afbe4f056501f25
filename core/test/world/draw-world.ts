import { seededRandom, type LinkExpectation } from '../../src/index.js';
import { expectation } from '../links.js';
import type { Chance } from './world-instruments.js';
import type { End, Wire, WorldLink } from './world-link.js';

/** A kind of link as the world knows it, and the plan that the judge is given. */
export interface Kind {
  name: string;
  plan: { cable: string; near: string; far: string };
  four: boolean;
  screened: boolean;
  ohmPerM: number;
  weight: number;
}

export const KINDS: readonly Kind[] = [
  {
    name: 'four-pair jack to plug',
    plan: { cable: 'cat6-u', near: 'jack-punched', far: 'plug-closed' },
    four: true,
    screened: false,
    ohmPerM: 0.0668,
    weight: 40,
  },
  {
    name: 'four-pair jack to jack',
    plan: { cable: 'cat5e-u', near: 'jack-punched', far: 'jack-toolless' },
    four: true,
    screened: false,
    ohmPerM: 0.0842,
    weight: 25,
  },
  {
    name: 'screened',
    plan: { cable: 'cat6-f-outdoor', near: 'jack-punched-screened', far: 'plug-outdoor' },
    four: true,
    screened: true,
    ohmPerM: 0.0668,
    weight: 15,
  },
  {
    name: 'coax',
    plan: { cable: 'rg6', near: 'coax-f', far: 'coax-f' },
    four: false,
    screened: false,
    ohmPerM: 0.021,
    weight: 10,
  },
  {
    name: 'telephone',
    plan: { cable: 'cat5e-u', near: 'phone-socket', far: 'phone-socket' },
    four: false,
    screened: false,
    ohmPerM: 0.0842,
    weight: 10,
  },
];

const PAIRS: readonly (readonly [Wire, Wire])[] = [
  ['WH-BU', 'BU'],
  ['WH-OG', 'OG'],
  ['WH-GN', 'GN'],
  ['WH-BN', 'BN'],
];
const ORDERS = {
  T568B: ['WH-OG', 'OG', 'WH-GN', 'BU', 'WH-BU', 'GN', 'WH-BN', 'BN'],
  T568A: ['WH-GN', 'GN', 'WH-OG', 'BU', 'WH-BU', 'OG', 'WH-BN', 'BN'],
} as const;

export interface Drawn {
  kind: Kind;
  scheme: 'T568A' | 'T568B';
  expected: LinkExpectation;
  link: WorldLink;
  /** What was done to it, for the reader of a failure. */
  story: string[];
}

const pick = <T>(list: readonly T[], chance: Chance): T => list[Math.floor(chance() * list.length)] as T;
const weighted = <T extends { weight: number }>(list: readonly T[], chance: Chance): T => {
  let left = chance() * list.reduce((sum, x) => sum + x.weight, 0);
  return list.find((x) => (left -= x.weight) < 0) ?? (list[list.length - 1] as T);
};
const gauss = (chance: Chance): number =>
  Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(6.283185307 * chance());

/** A link in order, of a kind and a planned length. */
export function soundLink(kind: Kind, scheme: 'T568A' | 'T568B', lengthM: number, plannedM: number): Drawn {
  const order = ORDERS[scheme];
  const coax = kind.name === 'coax';
  const contacts = kind.four
    ? ['1', '2', '3', '4', '5', '6', '7', '8', ...(kind.screened ? ['S'] : [])]
    : coax
      ? ['C', 'S']
      : ['a', 'b'];
  const end = (): Record<string, Wire | null> =>
    kind.four
      ? {
          ...Object.fromEntries(order.map((w, i) => [String(i + 1), w])),
          ...(kind.screened ? { S: 'SCREEN' } : {}),
        }
      : coax
        ? { C: 'CENTRE', S: 'SHELL' }
        : { a: 'WH-BU', b: 'BU' };
  const wires = coax ? ['CENTRE', 'SHELL'] : [...PAIRS.flat(), ...(kind.screened ? ['SCREEN'] : [])];
  const ohmPerM = Object.fromEntries(
    wires.map((w) => [w, w === 'SHELL' || w === 'SCREEN' ? 0.02 : kind.ohmPerM]),
  );
  return {
    kind,
    scheme,
    expected: expectation({ ...kind.plan, lengthM: plannedM, scheme }),
    story: [],
    link: {
      contacts,
      twisted: coax ? [['CENTRE', 'SHELL']] : PAIRS,
      wires,
      contactPairs: kind.four
        ? [
            ['1', '2'],
            ['3', '6'],
            ['4', '5'],
            ['7', '8'],
          ]
        : [coax ? ['C', 'S'] : ['a', 'b']],
      meant: { near: end(), far: end() },
      ohmPerM,
      lengthM,
      plannedM,
      laid: { near: end(), far: end() },
      joints: [],
      bridges: [],
      breaks: [],
      touching: [],
      splices: [],
      wetAtM: [],
      equipment: [],
      elsewhere: false,
    },
  };
}

interface Mishap {
  name: string;
  weight: number;
  only?: 'four' | 'screened' | 'coax';
  /** Of its weight, what is left at a jack, whose slots say by colour what goes where. */
  atJack?: number;
  does: (d: Drawn, end: End, chance: Chance) => void;
}

const relay = (d: Drawn, end: End, from: (contacts: string[]) => (string | null)[]): void => {
  const contacts = d.link.contacts.filter(
    (c) => d.link.meant[end][c] !== 'SCREEN' && d.link.meant[end][c] != null,
  );
  const before = contacts.map((c) => d.link.laid[end][c] ?? null);
  const source = from(contacts);
  source.forEach(
    (c, i) =>
      (d.link.laid[end][contacts[i] as string] = c === null ? null : (before[contacts.indexOf(c)] ?? null)),
  );
};
const exchange = (d: Drawn, end: End, a: string, b: string): void =>
  relay(d, end, (all) => all.map((c) => (c === a ? b : c === b ? a : c)));
const bothOr = (share: number, chance: Chance, end: End, run: (e: End) => void): void => {
  if (chance() < share) (['near', 'far'] as const).forEach(run);
  else run(end);
};
const somewhere = (d: Drawn, chance: Chance): number =>
  Math.round((0.03 + 0.94 * chance()) * d.link.lengthM * 10) / 10;
const live = (d: Drawn): Wire[] => d.link.wires.filter((w) => Object.values(d.link.meant.near).includes(w));

/** What hands, tools and buildings do here, by its own count of how often. */
const MISHAPS: readonly Mishap[] = [
  {
    name: 'two wires of a pair exchanged',
    weight: 14,
    does: (d, e, r) => {
      const [a, b] = pick(d.link.contactPairs, r);
      if (d.kind.name !== 'coax') exchange(d, e, a, b);
      else d.link.joints.push({ end: e, contact: 'C', ohm: Infinity });
    },
  },
  {
    name: 'neighbours exchanged',
    weight: 8,
    only: 'four',
    does: (d, e, r) => {
      const i = 1 + Math.floor(7 * r());
      exchange(d, e, String(i), String(i + 1));
    },
  },
  {
    name: 'any two exchanged',
    weight: 2.5,
    only: 'four',
    does: (d, e, r) => {
      const a = 1 + Math.floor(8 * r());
      exchange(d, e, String(a), String(1 + ((a + Math.floor(7 * r())) % 8)));
    },
  },
  {
    name: 'other scheme',
    weight: 9,
    only: 'four',
    does: (d, e) => relay(d, e, () => ['3', '6', '1', '4', '5', '2', '7', '8']),
  },
  {
    name: 'pair by pair',
    weight: 4,
    only: 'four',
    atJack: 0.5,
    does: (d, e, r) => bothOr(0.8, r, e, (x) => relay(d, x, () => ['1', '2', '3', '6', '5', '4', '7', '8'])),
  },
  {
    name: 'mirrored',
    weight: 3,
    only: 'four',
    atJack: 0.15,
    does: (d, e) => relay(d, e, (c) => [...c].reverse()),
  },
  {
    name: 'shifted',
    weight: 2,
    only: 'four',
    atJack: 0.15,
    does: (d, e, r) =>
      r() < 0.5 ? relay(d, e, (c) => [null, ...c.slice(0, -1)]) : relay(d, e, (c) => [...c.slice(1), null]),
  },
  {
    name: 'pairs exchanged',
    weight: 4,
    only: 'four',
    does: (d, e, r) =>
      bothOr(0.1, r, e, (x) => {
        const [p, q] = [...d.link.contactPairs].sort(() => r() - 0.5);
        if (p && q) {
          exchange(d, x, p[0], q[0]);
          exchange(d, x, p[1], q[1]);
        }
      }),
  },
  {
    name: 'laid anyhow',
    weight: 1.2,
    only: 'four',
    does: (d, e, r) =>
      relay(d, e, (c) =>
        [...c]
          .map((x) => [r(), x] as const)
          .sort((x, y) => x[0] - y[0])
          .map(([, x]) => x),
      ),
  },
  {
    name: 'not seated',
    weight: 18,
    does: (d, e, r) => {
      const c = pick(d.link.contacts, r);
      const beside = String(Number(c) + 1);
      const more = d.kind.four && r() < 0.15 && d.link.contacts.includes(beside) ? [beside] : [];
      // Short of its contact, or cut off with the jacket: then nobody sees it there either.
      const gone = r() < 0.35;
      for (const x of [c, ...more])
        if (gone) d.link.laid[e][x] = null;
        else d.link.joints.push({ end: e, contact: x, ohm: Infinity });
    },
  },
  {
    name: 'contacts touch',
    weight: 5,
    does: (d, e, r) => {
      const all = d.link.contacts;
      const i = Math.floor(r() * (all.length - 1));
      d.link.bridges.push({
        end: e,
        contacts: [all[i] as string, all[i + 1] as string],
        ohm: 0.02 + 0.2 * r(),
      });
    },
  },
  {
    name: 'any contacts touch',
    weight: 1.5,
    only: 'four',
    does: (d, e, r) =>
      d.link.bridges.push({
        end: e,
        contacts: [...d.link.contacts]
          .sort(() => r() - 0.5)
          .slice(0, r() < 0.75 ? 2 : 3)
          .sort(),
        ohm: 0.02 + 0.3 * r(),
      }),
  },
  {
    name: 'drain astray',
    weight: 2.5,
    only: 'screened',
    does: (d, e, r) =>
      d.link.bridges.push({ end: e, contacts: [String(1 + Math.floor(8 * r())), 'S'], ohm: 0.1 }),
  },
  {
    name: 'screen not bonded',
    weight: 10,
    only: 'screened',
    does: (d, e) => {
      d.link.laid[e]['S'] = null;
    },
  },
  {
    name: 'poor joint',
    weight: 6,
    does: (d, e, r) =>
      d.link.joints.push({ end: e, contact: pick(d.link.contacts, r), ohm: Math.exp(1.5 + 6 * r()) }),
  },
  {
    name: 'loose joint',
    weight: 6,
    does: (d, e, r) =>
      d.link.joints.push({
        end: e,
        contact: pick(d.link.contacts, r),
        ohm: 0.05,
        openShare: 0.1 + 0.5 * r(),
      }),
  },
  { name: 'equipment left on', weight: 1.5, only: 'four', does: (d, e) => d.link.equipment.push(e) },
  {
    name: 'conductor broken',
    weight: 5,
    does: (d, _e, r) => {
      const w = pick(live(d), r);
      const pair = PAIRS.find((p) => p.includes(w));
      d.link.breaks.push({
        wires: pair && r() < 0.15 ? [...pair] : [w],
        atM: somewhere(d, r),
        ohm: Infinity,
      });
    },
  },
  {
    name: 'cut through',
    weight: 1.5,
    does: (d, _e, r) => d.link.breaks.push({ wires: [...d.link.wires], atM: somewhere(d, r), ohm: Infinity }),
  },
  {
    name: 'stapled',
    weight: 3,
    does: (d, _e, r) => {
      const w = live(d);
      const p = pick(d.link.contactPairs, r);
      const two =
        r() < 0.6 ? p.map((c) => d.link.meant.near[c] as string) : [...w].sort(() => r() - 0.5).slice(0, 2);
      d.link.touching.push({ wires: two, atM: somewhere(d, r), ohm: 0.05 + 2 * r() * r() });
    },
  },
  {
    name: 'crushed',
    weight: 1.5,
    only: 'four',
    does: (d, _e, r) => {
      const n = 2 + Math.floor(3 * r());
      d.link.touching.push({
        wires: [...PAIRS]
          .sort(() => r() - 0.5)
          .slice(0, n)
          .flat(),
        atM: somewhere(d, r),
        ohm: 0.05 + r(),
      });
    },
  },
  { name: 'wet', weight: 4, does: (d, _e, r) => d.link.wetAtM.push(somewhere(d, r)) },
  {
    name: 'conductor nicked',
    weight: 1.2,
    does: (d, _e, r) =>
      d.link.breaks.push({ wires: [pick(live(d), r)], atM: somewhere(d, r), ohm: Math.exp(1.5 + 6 * r()) }),
  },
  {
    name: 'conductor opens and closes',
    weight: 0.8,
    does: (d, _e, r) =>
      d.link.breaks.push({
        wires: [pick(live(d), r)],
        atM: somewhere(d, r),
        ohm: 0.05,
        openShare: 0.1 + 0.5 * r(),
      }),
  },
  {
    name: 'spliced wrong',
    weight: 2,
    only: 'four',
    does: (d, _e, r) => {
      const p = pick(PAIRS, r);
      const q =
        r() < 0.7
          ? p
          : ([
              p[0],
              pick(
                PAIRS.filter((x) => x !== p),
                r,
              )[0],
            ] as const);
      d.link.splices.push({ wires: [q[0], q[1]], atM: somewhere(d, r) });
    },
  },
  {
    name: 'remote elsewhere',
    weight: 4,
    does: (d) => {
      d.link.elsewhere = true;
    },
  },
];

/** One mishap, at the end given or at either. */
export function mishap(
  d: Drawn,
  chance: Chance,
  end: End = chance() < 0.5 ? 'near' : 'far',
  atEnds = false,
): void {
  const cable = [
    'conductor broken',
    'cut through',
    'stapled',
    'crushed',
    'wet',
    'conductor nicked',
    'conductor opens and closes',
    'spliced wrong',
    'remote elsewhere',
  ];
  const isJack = d.kind.plan[end].startsWith('jack');
  const can = MISHAPS.filter(
    ({ only, name }) =>
      (only === undefined || (only === 'four' && d.kind.four) || (only === 'screened' && d.kind.screened)) &&
      !(atEnds && cable.includes(name)),
  ).map((one) => ({ ...one, weight: one.weight * (isJack ? (one.atJack ?? 1) : 1) }));
  const one = weighted(can, chance);
  one.does(d, end, chance);
  d.story.push(`${one.name} (${end})`);
}

/** A link of the world as a crew might meet it: in order more often than not, planned roughly to length. */
export function drawWorld(seed: number, wrongShare = 0.55): Drawn {
  const chance = seededRandom(seed);
  const kind = weighted(KINDS, chance);
  const lengthM = Math.round((10 + 70 * chance()) * 10) / 10;
  const off = chance() < 0.05 ? 0.5 + 1.3 * chance() : 1 + 0.025 * gauss(chance);
  const plannedM = Math.max(5, Math.round(lengthM * off * 10) / 10);
  const drawn = soundLink(kind, chance() < 0.5 ? 'T568B' : 'T568A', lengthM, plannedM);
  const count = chance() >= wrongShare ? 0 : chance() < 0.72 ? 1 : chance() < 0.75 ? 2 : 3;
  for (let i = 0; i < count; i++) mishap(drawn, chance);
  return drawn;
}

/** The links of a span of seeds that are of some kind, each with its seed. */
export function* worldsOf(
  from: number,
  to: number,
  wrongShare: number,
  ofKind: (drawn: Drawn) => boolean,
): Generator<Drawn & { seed: number }> {
  for (let seed = from; seed < to; seed++) {
    const drawn = drawWorld(seed, wrongShare);
    if (ofKind(drawn)) yield { ...drawn, seed };
  }
}
