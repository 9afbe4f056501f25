import { NORMAL_95 } from '../chance/normal.js';
import type { EchoEvent } from './readings.js';
import type { EventKind } from '../reflectometry/events.js';

/** What a reflectometer's reading, as links are judged by it, calls each kind of event. */
const ECHO_KINDS: Readonly<Partial<Record<EventKind, EchoEvent['kind']>>> = {
  open: 'open',
  short: 'short',
  'wet-or-shunt': 'low',
  'low-section': 'low',
  'high-section': 'high',
  'series-resistance': 'high',
};

/** An event of a trace, with how well its place and its kind are known. */
interface Located {
  kind: EventKind;
  distanceM: number;
  u95M?: number;
  probability?: number;
}

/**
 * A located event as an observation that a link can be judged by, to the centimetre, with its own
 * uncertainty and belief; null where it is no fault.
 */
export function asEcho({ kind, distanceM, u95M, probability }: Located): EchoEvent | null {
  const echo = ECHO_KINDS[kind];
  if (!echo) return null;
  return {
    kind: echo,
    distanceM: Math.max(0, Math.round(distanceM * 100) / 100),
    ...(u95M === undefined ? {} : { uM: Math.round((100 * u95M) / NORMAL_95) / 100 }),
    ...(probability === undefined ? {} : { probability: Math.round(probability * 1000) / 1000 }),
  };
}
