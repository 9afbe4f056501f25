import { CONTACT_PAIRS, type ContactId } from '../cabling/schemes.js';
import { galvanic, splitContactPairs } from './galvanic.js';
import type { ColourReading, EchoEvent, EchoReading, LampReading, MapReading, Reading } from './readings.js';
import type { InstrumentClass } from './instruments.js';
import { contactsOf, type LinkEnd, type TrueLink } from './true-link.js';

/** The contact pairs a link has: the four balanced pairs, or its only two contacts. */
export function contactPairsOf(link: Pick<TrueLink, 'near'>): readonly (readonly [ContactId, ContactId])[] {
  const [first, second, ...more] = Object.keys(link.near);
  return first && second && more.length === 0 ? [[first, second]] : CONTACT_PAIRS;
}

const pairName = (pair: readonly [ContactId, ContactId]): string => `${pair[0]}-${pair[1]}`;

/** Coded mapper, stepping lamps: the full map; splits only for the mapper that measures crosstalk. */
export function observeMap(link: TrueLink, instrument: MapReading['instrument']): MapReading {
  const metal = galvanic(link);
  const contacts = contactsOf(link);
  const arrivals: Record<ContactId, ContactId[]> = {};
  for (const near of contacts) {
    arrivals[near] = contacts.filter((far) => metal.reaches('near', near, 'far', far));
  }
  const joins: ContactId[][] = [];
  for (const contact of contacts) {
    if (joins.some((group) => group.includes(contact))) continue;
    const group = contacts.filter((other) => metal.reaches('near', contact, 'near', other));
    if (group.length > 1) joins.push(group);
  }
  const splits =
    instrument === 'coded-mapper-crosstalk' ? splitContactPairs(link, contactPairsOf(link)) : null;
  // Stepping lamps show a near-end join only through the lamps it lights at the far end.
  return { instrument, arrivals, joins: instrument === 'stepping-lamps' ? [] : joins, splits };
}

/** Lamp per pair: lit when the loop out on one contact, through the far bridge and back, conducts. */
export function observeLamps(link: TrueLink): LampReading {
  const pairs = contactPairsOf(link);
  const bridged: TrueLink = {
    ...link,
    bridges: [...link.bridges, ...pairs.map((contacts) => ({ end: 'far' as const, contacts }))],
  };
  const metal = galvanic(bridged);
  return {
    instrument: 'lamp-pairs',
    lamps: Object.fromEntries(pairs.map((p) => [pairName(p), metal.reaches('near', p[0], 'near', p[1])])),
  };
}

const ECHO_STEP_M = 0.1;
const toStep = (distanceM: number): number => Math.round(distanceM / ECHO_STEP_M) / 10;

/** Reflectometer per pair, far end left open: disturbances on the way, then the first end of the pair. */
export function observeEchoes(link: TrueLink, from: LinkEnd = 'near'): EchoReading {
  const here = link[from];
  const distance = (atM: number): number => (from === 'near' ? atM : link.lengthM - atM);
  const pairOf = new Map(link.conductors.map((w) => [w.id, w.pair]));
  const pairs: Record<string, EchoEvent[]> = {};
  for (const pair of contactPairsOf(link)) {
    const seated = (contact: ContactId): boolean =>
      !link.unseated.some((u) => u.end === from && u.contact === contact);
    const [a, b] = pair.map((contact) => (seated(contact) ? here[contact] : null));
    const bridgedHere = link.bridges.some((bridge) => bridge.end === from && sameTwo(bridge.contacts, pair));
    if (bridgedHere) {
      pairs[pairName(pair)] = [{ kind: 'short', distanceM: 0 }];
      continue;
    }
    if (a == null || b == null) {
      pairs[pairName(pair)] = [{ kind: 'open', distanceM: 0 }];
      continue;
    }
    const stops: EchoEvent[] = [{ kind: 'open', distanceM: link.lengthM }];
    for (const cut of link.breaks) {
      if (cut.conductor === a || cut.conductor === b)
        stops.push({ kind: 'open', distanceM: distance(cut.atM) });
    }
    for (const join of link.joins) {
      if (sameTwo(join.conductors, [a, b])) stops.push({ kind: 'short', distanceM: distance(join.atM) });
    }
    for (const bridge of link.bridges) {
      const there = bridge.end === from ? null : link[bridge.end];
      const wires = there && ([there[bridge.contacts[0]], there[bridge.contacts[1]]] as const);
      if (wires?.[0] != null && wires[1] != null && sameTwo([wires[0], wires[1]], [a, b])) {
        stops.push({ kind: 'short', distanceM: link.lengthM });
      }
    }
    // At one distance a short decides: it closes the pair before the end behind it can echo.
    stops.sort((x, y) => x.distanceM - y.distanceM || (x.kind === 'short' ? -1 : 1));
    const stop = stops[0] as EchoEvent;
    const onTheWay: EchoEvent[] = link.disturbances
      .map((d) => ({ kind: d.impedance, distanceM: distance(d.atM) }))
      .filter((event) => event.distanceM < stop.distanceM);
    if (pairOf.get(a) !== pairOf.get(b)) onTheWay.push({ kind: 'high', distanceM: 0 });
    pairs[pairName(pair)] = [...onTheWay, stop]
      .sort((x, y) => x.distanceM - y.distanceM)
      .map((event) => ({ ...event, distanceM: toStep(event.distanceM) }));
  }
  return { instrument: 'pair-reflectometer', from, pairs };
}

function sameTwo<T>(a: readonly [T, T], b: readonly [T, T]): boolean {
  return (a[0] === b[0] && a[1] === b[1]) || (a[0] === b[1] && a[1] === b[0]);
}

/** The colours a person sees on each contact of one end. */
export function observeColours(link: TrueLink, end: LinkEnd): ColourReading {
  return { instrument: 'eye', end, colours: { ...link[end] } };
}

/** What an instrument of a class would read on a link. `end` matters to the eye and the reflectometer. */
export function observe(link: TrueLink, instrument: InstrumentClass, end: LinkEnd = 'near'): Reading {
  switch (instrument) {
    case 'lamp-pairs':
      return observeLamps(link);
    case 'pair-reflectometer':
      return observeEchoes(link, end);
    case 'eye':
      return observeColours(link, end);
    default:
      return observeMap(link, instrument);
  }
}
