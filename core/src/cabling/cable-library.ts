import type { CableType } from './cable-types.js';
import { COAX_CABLES } from './library/coax.js';
import { PAIR_CABLES } from './library/pairs.js';
import { SIGNAL_CABLES } from './library/signal.js';

/** The generic cables that ship with the application. A crew's own sheets are laid over them. */
export const CABLE_TYPES: readonly CableType[] = [...PAIR_CABLES, ...COAX_CABLES, ...SIGNAL_CABLES];
