import type { ContactId } from '../cabling/schemes.js';
import { layoutFor } from '../connectors/own-layout.js';
import type { AdapterEnd } from './design.js';
import type { ApartPlan } from './far-apart.js';
import { mirroredReading } from './from-face.js';
import {
  pointKey,
  wouldBeep,
  type Net,
  type ProbePoint,
  type ProofTouch,
  type RealJoins,
} from './proof-list.js';

/** A touch that was made, and what was heard. */
export interface HeardTouch {
  touch: ProofTouch;
  beeped: boolean;
}

/**
 * A measured map as touches: every near contact against every far one, a beep where the map has
 * them joined. Nothing else is said to have been touched.
 */
export function heardOfMap(
  nets: readonly Net[],
  near: string,
  far: string,
  map: ReadonlyMap<ContactId, readonly ContactId[]>,
): HeardTouch[] {
  const points = nets.flatMap((net, n) => net.points.map((point) => ({ point, n })));
  const at = (end: string): typeof points => points.filter(({ point }) => point.end === end);
  return at(near).flatMap((one) =>
    at(far).map((other): HeardTouch => ({
      touch: {
        one: [one.point],
        other: [other.point],
        should: one.n === other.n ? 'beep' : 'stay silent',
        why: one.n === other.n ? 'path' : 'isolation',
        nets: [nets[one.n]?.name ?? '', nets[other.n]?.name ?? ''],
      },
      beeped: map.get(one.point.contact)?.includes(other.point.contact) ?? false,
    })),
  );
}

/** One mistake that explains all that was heard. */
export interface Suspect {
  kind: 'mirrored face' | 'ribbon one off' | 'connector turned over' | 'open' | 'short' | 'exchanged';
  words: string;
  /** Contacts to be done again, as "A 3". */
  contacts: string[];
  /** The lead as it would be. */
  real: RealJoins;
}

/** The lead as it is meant: each net a lump of its own. */
export const soundLead = (nets: readonly Net[]): Map<string, number> =>
  new Map(nets.flatMap(({ points }, n) => points.map((point) => [pointKey(point), n] as const)));

/**
 * Every single mistake that explains all that was heard: one face mirrored, a ribbon one conductor
 * off or turned over, one wire open, two nets shorted, two contacts exchanged. Whole mistakes come
 * first. Empty where nothing heard is wrong, and where no one mistake explains it.
 */
export function suspectsOf(
  nets: readonly Net[],
  heard: readonly HeardTouch[],
  ends: readonly AdapterEnd[] = [],
): Suspect[] {
  if (heard.every(({ touch, beeped }) => beeped === (touch.should === 'beep'))) return [];
  const explains = ({ real }: Suspect): boolean =>
    heard.every(({ touch, beeped }) => wouldBeep(touch, real) === beeped);
  const suspects = wholeMistakes(nets, ends).filter(explains);
  for (const fault of singleFaults(nets)) if (explains(fault)) suspects.push(fault);
  return suspects;
}

function wholeMistakes(nets: readonly Net[], ends: readonly AdapterEnd[]): Suspect[] {
  const sound = soundLead(nets);
  return ends.flatMap((end): Suspect[] => {
    const layout = layoutFor(end.layout ?? null);
    if (!layout) return [];
    const { ribbon } = layout;
    const contacts = end.pins.map(({ contact }) => `${end.id} ${contact}`);
    const as = (kind: Suspect['kind'], words: string, taken: ReadonlyMap<ContactId, ContactId>): Suspect => ({
      kind,
      words,
      contacts,
      real: misplaced(sound, end, taken),
    });
    const shifted = (by: number): Map<ContactId, ContactId> =>
      new Map(
        (ribbon ?? []).flatMap((contact, n) => {
          const next = n + by < 0 ? undefined : ribbon?.[n + by];
          return next === undefined ? [] : [[contact, next] as const];
        }),
      );
    return [
      // A plug along its axis has no other face.
      ...(layout.shell?.shape === 'stick'
        ? []
        : [
            as(
              'mirrored face',
              `${end.name} (${end.id}) is wired as its mirror image: its pinout was read from the other face.`,
              mirroredReading(layout),
            ),
          ]),
      ...(ribbon
        ? [
            ...[1, -1].map((by) =>
              as(
                'ribbon one off',
                `The ribbon lies one conductor off in ${end.name} (${end.id}).`,
                shifted(by),
              ),
            ),
            as(
              'connector turned over',
              `${end.name} (${end.id}) is pressed on turned over: its first contact lies at the ribbon’s other edge.`,
              new Map(ribbon.map((contact, n) => [contact, ribbon.at(-1 - n) ?? contact])),
            ),
          ]
        : []),
    ].filter(({ real }) => contacts.some((contact) => real.get(contact) !== sound.get(contact)));
  });
}

/** The lead when what was meant for each contact of an end lies on another; what falls off is open. */
function misplaced(
  sound: ReadonlyMap<string, number>,
  { id, pins }: AdapterEnd,
  taken: ReadonlyMap<ContactId, ContactId>,
): Map<string, number> {
  const real = new Map(sound);
  pins.forEach(({ contact }, n) => real.set(`${id} ${contact}`, -1 - n));
  for (const { contact } of pins) {
    const place = `${id} ${taken.get(contact)}`;
    const lump = sound.get(`${id} ${contact}`);
    if (real.has(place) && lump !== undefined) real.set(place, lump);
  }
  return real;
}

/** Exchanges, then opens, then shorts; one after the other, since of a large lead there are many. */
function* singleFaults(nets: readonly Net[]): Generator<Suspect> {
  const sound = soundLead(nets);
  const points = nets.flatMap((net, n) => net.points.map((point) => ({ point, net, n })));
  const said = ({ end, contact }: ProbePoint): string => `${end} ${contact}`;
  for (const [i, { point, n }] of points.entries())
    for (const other of points.slice(i + 1))
      if (other.n !== n && other.point.end === point.end)
        yield {
          kind: 'exchanged',
          words: `${said(point)} and ${said(other.point)} are exchanged.`,
          contacts: [said(point), said(other.point)],
          real: new Map(sound).set(pointKey(point), other.n).set(pointKey(other.point), n),
        };
  for (const { point, net } of points)
    if (net.points.length > 1)
      yield {
        kind: 'open',
        words: `${net.name} is open at ${said(point)}.`,
        contacts: [said(point)],
        real: new Map(sound).set(pointKey(point), -1),
      };
  for (const [n, one] of nets.entries())
    for (const [m, other] of nets.slice(n + 1).entries())
      yield {
        kind: 'short',
        words: `${one.name} and ${other.name} touch.`,
        contacts: [...one.points, ...other.points].map(said),
        real: new Map([...sound].map(([key, lump]) => [key, lump === n + 1 + m ? n : lump])),
      };
}

/**
 * The touch of two single contacts that parts the suspects most evenly, to be made next; null where
 * none parts them.
 * @param apart which ends are in reach, where not all are: then over joins, or over a known conductor
 */
export function nextTouch(
  suspects: readonly Suspect[],
  nets: readonly Net[],
  apart: Pick<ApartPlan, 'here' | 'by'> | null = null,
): ProofTouch | null {
  let best: { touch: Candidate; worst: number } | null = null;
  for (const touch of candidates(suspects, nets, apart)) {
    const beeps = suspects.filter(({ real }) => wouldBeep(touch, real)).length;
    const worst = Math.max(beeps, suspects.length - beeps);
    if (worst < suspects.length && (!best || worst < best.worst)) best = { worst, touch };
  }
  if (!best) return null;
  const { touch } = best;
  const beeps = wouldBeep(touch, soundLead(nets));
  const concerned = [...touch.one, ...touch.other, ...(touch.joined ?? [])].map(pointKey);
  return {
    ...touch,
    should: beeps ? 'beep' : 'stay silent',
    why: beeps ? 'path' : 'isolation',
    nets: nets
      .filter(({ points }) => points.some((point) => concerned.includes(pointKey(point))))
      .map(({ name }) => name),
  };
}

type Candidate = Pick<ProofTouch, 'one' | 'other' | 'joined'>;

/** Touches of two contacts that can be made: all, or what is in reach, the other site's contacts joined by two. */
function* candidates(
  suspects: readonly Suspect[],
  nets: readonly Net[],
  apart: Pick<ApartPlan, 'here' | 'by'> | null,
): Generator<Candidate> {
  const points = nets.flatMap((net) => net.points);
  const isHere = ({ end }: ProbePoint): boolean => !apart || apart.here.includes(end);
  const pairs = (some: readonly ProbePoint[]): Candidate[] =>
    some.flatMap((one, i) => some.slice(i + 1).map((other) => ({ one: [one], other: [other] })));
  if (apart?.by !== 'joins') {
    for (const touch of pairs(points)) if (touch.one.some(isHere) || touch.other.some(isHere)) yield touch;
    return;
  }
  const here = points.filter(isHere);
  yield* pairs(here);
  // What no suspect speaks of tells nothing, but as the way back: one conductor that none speaks of is enough.
  const named = new Set(suspects.flatMap(({ contacts }) => contacts));
  const concerned = nets.filter((net) => net.points.some((point) => named.has(pointKey(point))));
  const other = nets.find(
    (net) => !concerned.includes(net) && net.points.some(isHere) && !net.points.every(isHere),
  );
  const told = [...concerned, ...(other ? [other] : [])].flatMap((net) => net.points);
  for (const { one, other: to } of pairs(told.filter(isHere)))
    for (const joined of pairs(told.filter((point) => !isHere(point))))
      yield { one, other: to, joined: [...joined.one, ...joined.other] };
}
