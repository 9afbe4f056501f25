import { CONTACT_PAIRS, SCREEN_CONTACT, type ContactId } from '../cabling/schemes.js';
import { contactPairsAt, type LinkExpectation } from './expectation.js';
import type { FaultKind } from './instruments.js';
import { closeMap, type MapReading } from './readings.js';

/** One thing a reading shows that was not intended. */
export interface Finding {
  kind: FaultKind;
  /** Near contacts concerned. */
  contacts: ContactId[];
  words: string;
}

type ExpectedMap = Readonly<Record<ContactId, ContactId>>;

/** The near end's contacts as patterns of order are told by: their sequence, and which belong together. */
export interface NearFace {
  family: LinkExpectation['family'];
  sequence: readonly ContactId[];
  pairs: readonly (readonly [ContactId, ContactId])[];
}

/** How patterns of order are told by at the near end of a link. */
export function nearFace(link: LinkExpectation): NearFace {
  const known = faces.get(link) ?? faceOf(link);
  faces.set(link, known);
  return known;
}

const faces = new WeakMap<LinkExpectation, NearFace>();

function faceOf(link: LinkExpectation): NearFace {
  const { wiring } = link.near;
  const sequence = Object.keys(wiring).filter((c) => wiring[c] !== null && c !== SCREEN_CONTACT);
  const paired = link.family !== 'coax' && link.conductors.some((w) => w.pair !== null);
  return { family: link.family, sequence, pairs: paired ? contactPairsAt(link, wiring) : [] };
}

/** The face of contacts that are known by their map alone: eight are taken for four pairs. */
function usualFace(expected: ExpectedMap): NearFace {
  const sequence = Object.keys(expected).filter((c) => c !== SCREEN_CONTACT);
  const eight = sequence.length === 8 && '8' in expected;
  return { family: eight ? 'balanced' : 'lead', sequence, pairs: eight ? CONTACT_PAIRS : [] };
}

/**
 * Names what differs between a map and what was intended: opens and shorts first, then the
 * order of what is left, by what the connector's family can have. The screen is judged apart.
 */
export function compareMap(
  expected: ExpectedMap,
  reading: MapReading,
  face: NearFace = usualFace(expected),
): Finding[] {
  const map = closeMap(reading);
  const contacts = Object.keys(expected);
  const shorts = findShorts(map, contacts);
  const shorted = new Set(shorts.flatMap((finding) => finding.contacts));
  const opens = findOpens(face, map, contacts, shorted);
  const single = contacts.filter((c) => !shorted.has(c) && map.arrivals[c]?.length === 1);
  const order = findOrder(face, expected, map, single, contacts);
  const explained = new Set(order.some((f) => f.kind === 'shifted') ? order.flatMap((f) => f.contacts) : []);
  return [
    ...shorts,
    ...opens.filter((finding) => !finding.contacts.every((c) => explained.has(c))),
    ...order,
    ...findSplits(map),
  ];
}

function findShorts(map: MapReading, contacts: readonly ContactId[]): Finding[] {
  const byArrivals = new Map<string, ContactId[]>();
  for (const contact of contacts) {
    const group = map.joins.find((join) => join.includes(contact));
    const arrivals = map.arrivals[contact] ?? [];
    if (!group && arrivals.length < 2) continue;
    const key = group ? group.join() : arrivals.join();
    byArrivals.set(key, [...(byArrivals.get(key) ?? []), contact]);
  }
  return [...byArrivals.values()].map((group) => {
    const arrivals = map.arrivals[group[0] as ContactId] ?? [];
    const words =
      group.length > 1 ? `${list(group)} joined` : `${group[0]} arrives at ${list(arrivals)} together`;
    return { kind: 'short', contacts: group, words };
  });
}

function findOpens(
  { family }: NearFace,
  map: MapReading,
  contacts: readonly ContactId[],
  shorted: ReadonlySet<ContactId>,
): Finding[] {
  const open = contacts.filter((c) => !shorted.has(c) && (map.arrivals[c] ?? []).length === 0);
  const wires = open.filter((c) => c !== SCREEN_CONTACT || family === 'coax');
  const findings: Finding[] = [];
  if (wires.length === contacts.filter((c) => c !== SCREEN_CONTACT).length && wires.length > 1) {
    findings.push({
      kind: 'open',
      contacts: wires,
      words: 'nothing arrives: no remote, wrong outlet, or the cable is cut',
    });
  } else if (wires.length > 0) {
    findings.push({ kind: 'open', contacts: wires, words: `${list(wires)} open` });
  }
  if (open.includes(SCREEN_CONTACT) && !wires.includes(SCREEN_CONTACT)) {
    findings.push({ kind: 'screen-open', contacts: [SCREEN_CONTACT], words: 'screen open' });
  }
  return findings;
}

function findSplits(map: MapReading): Finding[] {
  if (!map.splits || map.splits.length === 0) return [];
  return [
    {
      kind: 'split',
      contacts: map.splits.flatMap((pair) => pair.split('-')),
      words: `${map.splits.length === 1 ? 'split pair' : 'split pairs'} on ${list(map.splits)}`,
    },
  ];
}

/** Names the order of contacts that arrive one to one: a whole-connector slip, or pair by pair. */
function findOrder(
  face: NearFace,
  expected: ExpectedMap,
  map: MapReading,
  single: readonly ContactId[],
  contacts: readonly ContactId[],
): Finding[] {
  const meant = new Map(contacts.map((near) => [expected[near] as ContactId, near]));
  /** Near contact -> the near contact whose intended place it arrives at. */
  const lands = new Map<ContactId, ContactId>();
  for (const near of single) {
    const target = meant.get(map.arrivals[near]?.[0] as ContactId);
    if (target !== undefined) lands.set(near, target);
  }
  const moved = [...lands].filter(([from, to]) => from !== to).map(([from]) => from);
  if (moved.length === 0) return [];
  const whole = wholeSlip(face, lands, moved);
  if (whole) return [whole];
  return pairwise(face, lands, moved);
}

/** The fewest contacts of which a whole order is said to be mirrored or shifted. */
const WHOLE = 4;

function wholeSlip(
  { family, sequence, pairs }: NearFace,
  lands: ReadonlyMap<ContactId, ContactId>,
  moved: readonly ContactId[],
): Finding | null {
  const n = sequence.length;
  const place = (contact: ContactId | undefined): number => sequence.indexOf(contact ?? '');
  const every = (rule: (place: number) => number): boolean =>
    moved.every((c) => place(lands.get(c)) === rule(place(c)));
  const [first, last] = [sequence[0], sequence[n - 1]];
  if (n >= WHOLE && moved.length >= n - 2 && every((i) => n - 1 - i)) {
    return { kind: 'mirror', contacts: [...moved], words: `order mirrored, ${first} arrives at ${last}` };
  }
  if (family === 'balanced' && moved.length === 4 && swapsFirstTwo(pairs, lands)) {
    return { kind: 'mixed-scheme', contacts: [...moved], words: 'one end is T568A, the other T568B' };
  }
  for (const step of [1, -1]) {
    if (n >= WHOLE && moved.length > n / 2 && every((i) => (i + step + n) % n)) {
      return {
        kind: 'shifted',
        // A shift also explains the contact that fell off the end and now goes nowhere.
        contacts: sequence.filter((c) => lands.get(c) !== c),
        words: `order shifted by one, ${moved[0]} arrives at ${lands.get(moved[0] as ContactId)}`,
      };
    }
  }
  return null;
}

/** What T568A and T568B differ by: the first two pairs exchanged, leg by leg. */
function swapsFirstTwo([p, q]: NearFace['pairs'], lands: ReadonlyMap<ContactId, ContactId>): boolean {
  return (
    p !== undefined &&
    q !== undefined &&
    [0, 1].every((i) => lands.get(p[i] as string) === q[i] && lands.get(q[i] as string) === p[i])
  );
}

function pairwise(
  { pairs }: NearFace,
  lands: ReadonlyMap<ContactId, ContactId>,
  moved: readonly ContactId[],
): Finding[] {
  const findings: Finding[] = [];
  const left = new Set(moved);
  const take = (...contacts: ContactId[]): void => contacts.forEach((c) => left.delete(c));
  for (const [a, b] of pairs) {
    if (left.has(a) && left.has(b) && lands.get(a) === b && lands.get(b) === a) {
      take(a, b);
      findings.push({ kind: 'reversed', contacts: [a, b], words: `${a} and ${b} exchanged` });
    }
  }
  for (const p of pairs) {
    for (const q of pairs) {
      if (p === q || !p.every((c) => left.has(c)) || !q.every((c) => left.has(c))) continue;
      const onto = (from: readonly ContactId[], to: readonly ContactId[]): boolean =>
        from.every((c) => to.includes(lands.get(c) ?? ''));
      if (!onto(p, q) || !onto(q, p)) continue;
      take(...p, ...q);
      findings.push({
        kind: 'transposed',
        contacts: [...p, ...q],
        words: `pairs ${p.join('-')} and ${q.join('-')} transposed`,
      });
    }
  }
  for (const contact of moved) {
    const other = lands.get(contact) as ContactId;
    if (!left.has(contact) || !left.has(other) || lands.get(other) !== contact) continue;
    take(contact, other);
    findings.push({ kind: 'swap', contacts: [contact, other], words: `${contact} and ${other} exchanged` });
  }
  if (left.size > 0) {
    const rest = [...left];
    const route = rest.map((c) => `${c} arrives at ${lands.get(c)}`).join(', ');
    findings.push({ kind: 'scrambled', contacts: rest, words: route });
  }
  return findings;
}

/** "1, 2 and 6". */
export function list(items: readonly string[]): string {
  const named = items.map((item) => (item === SCREEN_CONTACT ? 'screen' : item));
  if (named.length < 2) return named.join('');
  return `${named.slice(0, -1).join(', ')} and ${named[named.length - 1]}`;
}
