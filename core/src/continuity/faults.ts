import { SCREEN, pairOf, type ConductorId } from '../cabling/conductors.js';
import {
  conductorAt,
  CONTACT_PAIRS,
  EIGHT_CONTACTS,
  SCREEN_CONTACT,
  type ContactId,
  type SchemeId,
} from '../cabling/schemes.js';
import type { FaultKind } from './instruments.js';
import type { LinkExpectation } from './expectation.js';
import type { LinkEnd, TrueLink } from './true-link.js';

/** Something a hand did at an end, or that happened along the cable. */
export interface PhysicalFault {
  kind: FaultKind;
  end: LinkEnd | 'cable';
  contacts: readonly ContactId[];
  pairs: readonly number[];
  /** From the near end; null when the place is not known. */
  distanceM: number | null;
  words: string;
  /** Relative frequency before any reading, from practice; the crew's own record may replace it. */
  prior: number;
  apply(link: TrueLink): TrueLink;
}

/** How often each slip is met, relative to one exchanged pair. Typical, to be replaced by a crew's own count. */
const PRIOR = {
  reversedPair: 1,
  neighbourSwap: 0.5,
  distantSwap: 0.05,
  otherScheme: 2,
  transposedPairs: 0.3,
  mirror: 0.5,
  shift: 0.2,
  pairByPair: 0.4,
  unseated: 0.8,
  screenNotClipped: 1,
  bridgedNeighbours: 0.2,
  brokenConductor: 0.2,
  brokenScreen: 0.05,
  cableCut: 0.1,
  stapledPair: 0.1,
  stapledOthers: 0.01,
  wetCable: 0.1,
} as const;

/** A plug's wires can slip going in; a jack's lie under a label. */
const HAND_FACTOR = { plug: 1.3, jack: 1, other: 1 } as const;

const PAIR_BY_PAIR: readonly ConductorId[] = ['WH-OG', 'OG', 'WH-GN', 'GN', 'WH-BU', 'BU', 'WH-BN', 'BN'];

type EndWiring = TrueLink['near'];

function rewire(link: TrueLink, end: LinkEnd, change: (wiring: EndWiring) => EndWiring): TrueLink {
  return { ...link, [end]: change(link[end]) };
}

function exchange(wiring: EndWiring, a: ContactId, b: ContactId): EndWiring {
  return { ...wiring, [a]: wiring[b] ?? null, [b]: wiring[a] ?? null };
}

function reorder(wiring: EndWiring, order: readonly (ConductorId | null)[]): EndWiring {
  const next: Record<ContactId, ConductorId | null> = { ...wiring };
  EIGHT_CONTACTS.forEach((contact, index) => (next[contact] = order[index] ?? null));
  return next;
}

const orderOf = (wiring: EndWiring): (ConductorId | null)[] => EIGHT_CONTACTS.map((c) => wiring[c] ?? null);

function unseat(link: TrueLink, end: LinkEnd, contact: ContactId): TrueLink {
  return { ...link, unseated: [...link.unseated, { end, contact }] };
}

type Draft = Omit<PhysicalFault, 'prior' | 'end' | 'distanceM'> & { prior: number };

function faultsAtEnd(expected: LinkExpectation, end: LinkEnd): PhysicalFault[] {
  const { scheme, connector } = expected[end];
  const factor = HAND_FACTOR[connector];
  const where = `${end === 'near' ? 'Near' : 'Far'} ${connector === 'other' ? 'end' : connector}`;
  const drafts =
    expected.family !== 'balanced'
      ? twoContactDrafts(expected.family, end, where)
      : [...orderDrafts(scheme, end, where), ...contactDrafts(expected, end, where)];
  return drafts.map((draft) => ({ ...draft, end, distanceM: null, prior: draft.prior * factor }));
}

/** A coax end (centre and shell) or a telephone line's end (a and b legs). */
function twoContactDrafts(family: 'coax' | 'line', end: LinkEnd, where: string): Draft[] {
  const [first, second] = family === 'coax' ? (['C', SCREEN_CONTACT] as const) : (['a', 'b'] as const);
  const [firstName, secondName] = family === 'coax' ? ['centre', 'shell'] : ['a leg', 'b leg'];
  const touching = family === 'coax' ? 'a strand of the screen touches the centre' : 'the two legs touch';
  const open = (contact: ContactId, name: string | undefined): Draft => ({
    kind: 'open',
    contacts: [contact],
    pairs: [],
    words: `${where}: ${name} not making contact`,
    prior: PRIOR.unseated,
    apply: (link) => unseat(link, end, contact),
  });
  const drafts: Draft[] = [
    open(first, firstName),
    open(second, secondName),
    {
      kind: 'short',
      contacts: [first, second],
      pairs: [],
      words: `${where}: ${touching}`,
      prior: PRIOR.bridgedNeighbours * 5,
      apply: (link) => ({ ...link, bridges: [...link.bridges, { end, contacts: [first, second] }] }),
    },
  ];
  if (family === 'line') {
    drafts.push({
      kind: 'reversed',
      contacts: [first, second],
      pairs: [1],
      words: `${where}: a and b legs exchanged`,
      prior: PRIOR.reversedPair,
      apply: (link) => rewire(link, end, (w) => exchange(w, first, second)),
    });
  }
  return drafts;
}

function orderDrafts(scheme: SchemeId, end: LinkEnd, where: string): Draft[] {
  const drafts: Draft[] = [];
  const pairAt = (contact: ContactId): number => pairOf(conductorAt(scheme, contact) as ConductorId);
  const pairsOn = (contacts: readonly ContactId[]): number[] => [...new Set(contacts.map(pairAt))];
  const add = (
    kind: FaultKind,
    contacts: readonly ContactId[],
    words: string,
    prior: number,
    change: (w: EndWiring) => EndWiring,
  ): void => {
    drafts.push({
      kind,
      contacts,
      pairs: pairsOn(contacts),
      words: `${where}: ${words}`,
      prior,
      apply: (link) => rewire(link, end, change),
    });
  };
  const isPair = (a: ContactId, b: ContactId): boolean => CONTACT_PAIRS.some(([x, y]) => x === a && y === b);

  for (const a of EIGHT_CONTACTS) {
    for (const b of EIGHT_CONTACTS) {
      if (Number(a) >= Number(b)) continue;
      const swap = (w: EndWiring): EndWiring => exchange(w, a, b);
      const wires = `${conductorAt(scheme, a)} and ${conductorAt(scheme, b)}`;
      if (isPair(a, b))
        add('reversed', [a, b], `${wires} exchanged on ${a} and ${b}`, PRIOR.reversedPair, swap);
      else {
        const prior = Number(b) - Number(a) === 1 ? PRIOR.neighbourSwap : PRIOR.distantSwap;
        add('swap', [a, b], `${wires} exchanged on ${a} and ${b}`, prior, swap);
      }
    }
  }
  CONTACT_PAIRS.forEach((p, i) => {
    for (const q of CONTACT_PAIRS.slice(i + 1)) {
      const swap = (w: EndWiring): EndWiring => exchange(exchange(w, p[0], q[0]), p[1], q[1]);
      if (p[0] === '1' && q[0] === '3') {
        const other = scheme === 'T568A' ? 'T568B' : 'T568A';
        add('mixed-scheme', [...p, ...q], `wired as ${other}`, PRIOR.otherScheme, swap);
      } else {
        add(
          'transposed',
          [...p, ...q],
          `pairs ${p.join('-')} and ${q.join('-')} exchanged`,
          PRIOR.transposedPairs,
          swap,
        );
      }
    }
  });
  add('mirror', EIGHT_CONTACTS, 'whole order mirrored, held the wrong way up', PRIOR.mirror, (w) =>
    reorder(w, orderOf(w).reverse()),
  );
  add('shifted', EIGHT_CONTACTS, 'order one contact too high, contact 1 empty', PRIOR.shift, (w) =>
    reorder(w, [null, ...orderOf(w).slice(0, 7)]),
  );
  add('shifted', EIGHT_CONTACTS, 'order one contact too low, contact 8 empty', PRIOR.shift, (w) =>
    reorder(w, [...orderOf(w).slice(1), null]),
  );
  add('split', EIGHT_CONTACTS, 'laid pair by pair: 1-2, 3-4, 5-6, 7-8', PRIOR.pairByPair, (w) =>
    reorder(w, PAIR_BY_PAIR),
  );
  return drafts;
}

function contactDrafts(expected: LinkExpectation, end: LinkEnd, where: string): Draft[] {
  const { scheme } = expected[end];
  const drafts: Draft[] = EIGHT_CONTACTS.map((contact) => ({
    kind: 'open',
    contacts: [contact],
    pairs: [pairOf(conductorAt(scheme, contact) as ConductorId)],
    words: `${where}: ${conductorAt(scheme, contact)} not seated on contact ${contact}`,
    prior: PRIOR.unseated,
    apply: (link) => unseat(link, end, contact),
  }));
  EIGHT_CONTACTS.slice(1).forEach((contact, index) => {
    const contacts: readonly [ContactId, ContactId] = [EIGHT_CONTACTS[index] as ContactId, contact];
    drafts.push({
      kind: 'short',
      contacts,
      pairs: [],
      words: `${where}: contacts ${contacts[0]} and ${contacts[1]} touch`,
      prior: PRIOR.bridgedNeighbours,
      apply: (link) => ({ ...link, bridges: [...link.bridges, { end, contacts }] }),
    });
  });
  if (expected.screened) {
    drafts.push({
      kind: 'screen-open',
      contacts: [SCREEN_CONTACT],
      pairs: [],
      words: `${where}: screen not bonded, drain not under the clip`,
      prior: PRIOR.screenNotClipped,
      apply: (link) => rewire(link, end, (w) => ({ ...w, [SCREEN_CONTACT]: null })),
    });
  }
  return drafts;
}

/** Faults along the cable. Where a reflectometer gave distances, each is tried; otherwise the place stays open. */
function faultsAlongCable(link: TrueLink, distancesM: readonly number[]): PhysicalFault[] {
  const places: (number | null)[] = distancesM.length > 0 ? [...distancesM] : [null];
  const faults: PhysicalFault[] = [];
  const near = (conductor: ConductorId): ContactId[] =>
    Object.keys(link.near).filter((c) => link.near[c] === conductor);
  for (const place of places) {
    const atM = place ?? link.lengthM / 2;
    const at = place === null ? 'somewhere along the cable' : `${place.toFixed(1)} m from the near end`;
    const add = (
      kind: FaultKind,
      wires: readonly ConductorId[],
      words: string,
      prior: number,
      apply: PhysicalFault['apply'],
    ): void => {
      const pairs = [
        ...new Set(
          link.conductors.filter((w) => wires.includes(w.id) && w.pair !== null).map((w) => w.pair as number),
        ),
      ];
      faults.push({
        kind,
        end: 'cable',
        contacts: wires.flatMap(near),
        pairs,
        distanceM: place,
        words: `Cable: ${words} ${at}`,
        prior: prior / places.length,
        apply,
      });
    };
    const cut =
      (wires: readonly ConductorId[]) =>
      (l: TrueLink): TrueLink => ({
        ...l,
        breaks: [...l.breaks, ...wires.map((conductor) => ({ conductor, atM }))],
      });
    for (const { id } of link.conductors) {
      add(
        id === SCREEN ? 'screen-open' : 'open',
        [id],
        `${id === SCREEN ? 'screen' : id} broken`,
        id === SCREEN ? PRIOR.brokenScreen : PRIOR.brokenConductor,
        cut([id]),
      );
    }
    add(
      'open',
      link.conductors.map((w) => w.id),
      'cut through',
      PRIOR.cableCut,
      cut(link.conductors.map((w) => w.id)),
    );
    link.conductors.forEach((a, i) => {
      for (const b of link.conductors.slice(i + 1)) {
        const prior = a.pair === b.pair ? PRIOR.stapledPair : PRIOR.stapledOthers;
        add('short', [a.id, b.id], `${a.id} and ${b.id} pierced together`, prior, (l) => ({
          ...l,
          joins: [...l.joins, { conductors: [a.id, b.id], atM }],
        }));
      }
    });
    add('disturbed', [], 'wet or crushed', PRIOR.wetCable, (l) => ({
      ...l,
      disturbances: [...l.disturbances, { atM, lengthM: 1, impedance: 'low' }],
    }));
  }
  return faults;
}

/** Every single physical fault considered for a link, with its prior weight. */
export function singleFaults(
  expected: LinkExpectation,
  intended: TrueLink,
  distancesM: readonly number[],
): PhysicalFault[] {
  const ends = [...faultsAtEnd(expected, 'near'), ...faultsAtEnd(expected, 'far')];
  return [...ends, ...faultsAlongCable(intended, distancesM)];
}

/**
 * How much likelier one hand repeats its slip at the other end than makes two slips by chance: a
 * wrong idea of the order is carried along, a wire that misses its slot is not.
 */
const CARRIED_ALONG: Partial<Record<FaultKind, number>> = {
  split: 1,
  transposed: 0.2,
  mirror: 0.1,
  reversed: 0.1,
  swap: 0.1,
};

/** Slips made the same way at both ends by one hand: the map looks right, the pairs may not be. */
export function sameSlipBothEnds(
  singles: readonly PhysicalFault[],
): { faults: [PhysicalFault, PhysicalFault]; prior: number }[] {
  const what = (fault: PhysicalFault): string => fault.words.slice(fault.words.indexOf(':'));
  return singles.flatMap((near) => {
    const carried = CARRIED_ALONG[near.kind];
    if (near.end !== 'near' || carried === undefined) return [];
    const far = singles.find((f) => f.end === 'far' && what(f) === what(near));
    return far ? [{ faults: [near, far], prior: near.prior * carried }] : [];
  });
}

/** Several wires out of place at one end, in an order no simple slip makes. */
const SCRAMBLED_PRIOR = 0.02;

/**
 * The one wiring of an end that would give a map if the other end is as intended. It covers any
 * order at all, so that no permutation is left without an explanation.
 */
export function scrambledEnd(
  intended: TrueLink,
  arrivals: Readonly<Record<ContactId, readonly ContactId[]>>,
  end: LinkEnd,
): PhysicalFault {
  const wiring: Record<ContactId, ConductorId | null> = Object.fromEntries(
    Object.keys(intended[end]).map((c) => [c, null]),
  );
  for (const [near, reached] of Object.entries(arrivals)) {
    const far = reached[0];
    if (reached.length !== 1 || far === undefined) continue;
    if (end === 'far') wiring[far] = intended.near[near] ?? null;
    else wiring[near] = intended.far[far] ?? null;
  }
  const wrong = Object.keys(wiring).filter((c) => wiring[c] !== intended[end][c]);
  return {
    kind: 'scrambled',
    end,
    contacts: wrong,
    pairs: [],
    distanceM: null,
    prior: SCRAMBLED_PRIOR,
    words: `${end === 'near' ? 'Near' : 'Far'} end: ${wrong.map((c) => `${wiring[c] ?? 'nothing'} on ${c}`).join(', ')}`,
    apply: (link) => ({ ...link, [end]: wiring }),
  };
}
