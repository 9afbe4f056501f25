import type { Effect } from '../faults.js';
import type { FaultKind } from '../instruments.js';

/** One way a slip can happen, before the slip's rate is shared out among its ways. */
export interface Way {
  kind: FaultKind;
  /** Contacts of the end by their places in the frame; along the cable conductors by theirs. */
  contacts: readonly number[];
  /** Which way it is, where the contacts do not say it. */
  variant?: string;
  effects: readonly Effect[];
  /** Share among the ways of its slip; 1 if left out. */
  weight?: number;
}
