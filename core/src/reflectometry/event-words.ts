import type { EventKind } from './events.js';

/** What an event of a trace is called. */
export const EVENT_WORDS: Readonly<Record<EventKind, string>> = {
  open: 'open',
  short: 'short',
  'series-resistance': 'resistance in the way',
  'wet-or-shunt': 'wet, or a path across',
  'low-section': 'wet or crushed stretch',
  'high-section': 'split or pulled apart',
  joint: 'joint',
  stub: 'branch',
  'matched-end': 'matched end',
  'loaded-end': 'end with something on it',
  ghost: 'ghost',
};
