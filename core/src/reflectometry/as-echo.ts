import type { EchoEvent } from '../continuity/readings.js';
import type { EventKind } from './events.js';

/** What a reflectometer's reading, as links are judged by it, calls each kind of event. */
const ECHO_KINDS: Readonly<Partial<Record<EventKind, EchoEvent['kind']>>> = {
  open: 'open',
  short: 'short',
  'wet-or-shunt': 'low',
  'low-section': 'low',
  'high-section': 'high',
  'series-resistance': 'high',
};

/** A located event as an observation that a link can be judged by, to the centimetre; null where it is no fault. */
export function asEcho({ kind, distanceM }: { kind: EventKind; distanceM: number }): EchoEvent | null {
  const echo = ECHO_KINDS[kind];
  return echo ? { kind: echo, distanceM: Math.max(0, Math.round(distanceM * 100) / 100) } : null;
}
