import type { Random } from '../quantities/random.js';
import { frameOf, type Frame } from './frame.js';
import type { InstrumentClass } from './instruments.js';
import type { LinkState } from './link-state.js';
import type { Reading } from './readings.js';
import { SCREEN_CONTACT } from '../cabling/schemes.js';
import { endToScheme, type LinkEnd, type TrueLink } from './true-link.js';
import { capacitanceObserver } from './observers/capacitance.js';
import { colourObserver } from './observers/colours.js';
import { echoObserver } from './observers/echoes.js';
import { powerObserver } from './observers/fed-pairs.js';
import { lampObserver } from './observers/lamps.js';
import { mapObserver } from './observers/map.js';
import { lookAt, type Likelihood, type Observer } from './observers/observer.js';
import { toneObserver } from './observers/tones.js';
import { touchObserver } from './observers/touches.js';
import { voltageObserver } from './observers/volts.js';
import { wiggleObserver } from './observers/wiggle.js';

export const OBSERVERS: { readonly [C in InstrumentClass]: Observer<Extract<Reading, { instrument: C }>> } = {
  'lamp-pairs': lampObserver('lamp-pairs') as Observer<never>,
  'lamps-one-return': lampObserver('lamps-one-return') as Observer<never>,
  'stepping-lamps': mapObserver('stepping-lamps') as Observer<never>,
  'coded-mapper': mapObserver('coded-mapper') as Observer<never>,
  'coded-mapper-crosstalk': mapObserver('coded-mapper-crosstalk') as Observer<never>,
  beeper: touchObserver('beeper') as Observer<never>,
  ohmmeter: touchObserver('ohmmeter') as Observer<never>,
  'pair-reflectometer': echoObserver,
  'tone-probe': toneObserver,
  'dc-voltage': voltageObserver,
  'power-tester': powerObserver,
  'capacitance-meter': capacitanceObserver,
  wiggle: wiggleObserver,
  eye: colourObserver,
};

const observerOf = (instrument: InstrumentClass): Observer<Reading> =>
  OBSERVERS[instrument] as unknown as Observer<Reading>;

/** What an observation needs beside the link and the class. */
export interface Observing {
  /** The end where the instrument stands: for eye, reflectometer, tone, volts and wiggling. */
  end?: LinkEnd;
  /** Touches, tones or volts to be taken, or a map taken with the screen earthed at both ends. */
  plan?: Reading;
  /** The link as intended, where the link in hand may have no contact pairs of its own left. */
  frame?: Frame;
  /** Chance for errors and loose joints; without it the observer never errs. */
  random?: Random;
}

/**
 * What an instrument of a class reads on a link (domain: section 4), with its threshold. Free of error
 * unless chance is given; then errors fall at the rates of INSTRUMENTS.
 */
export function observe(
  link: TrueLink,
  instrument: InstrumentClass,
  { end = 'near', plan, frame = usualFrame(link), random }: Observing = {},
): Reading {
  return observerOf(instrument).read(lookAt(frame, link), { end, plan }, random ?? null);
}

/** The frame of a link whose plan is not at hand: eight contacts pair as Ethernet pairs them. */
function usualFrame(link: TrueLink): Frame {
  if (!('8' in link.near) || '9' in link.near) return frameOf(link);
  const straight = (end: LinkEnd): TrueLink['near'] => endToScheme('T568B', SCREEN_CONTACT in link[end]);
  return frameOf({ ...link, near: straight('near'), far: straight('far') });
}

/** How likely a reading is, link by link; made once per reading. */
export function likelihoodOf(frame: Frame, reading: Reading, group?: number): Likelihood {
  return observerOf(reading.instrument).likelihood(frame, reading, group);
}

/** Whether a reading's rows each speak of one group of contacts alone. */
export const isGrouped = (frame: Frame, reading: Reading): boolean =>
  observerOf(reading.instrument).grouped(frame, reading);

/** Logarithm of a reading's likelihood on a link, over what its loose joints may have done meanwhile. */
export const logLikelihood = (likelihood: Likelihood, state: LinkState): number =>
  state.loose === 0 ? likelihood.of(state, 0) : overLoose(state, (bits) => likelihood.of(state, bits));

/** No less than `logLikelihood`, worked out quickly. */
export const logAtMost = (likelihood: Likelihood, state: LinkState): number =>
  overLoose(state, (bits) => (likelihood.most ?? likelihood.of).call(likelihood, state, bits));

function overLoose(state: LinkState, of: (openLoose: number) => number): number {
  if (state.loose === 0) return of(0);
  const terms: number[] = [];
  for (let bits = 0; bits < 1 << state.loose; bits++) {
    let weight = 0;
    for (let i = 0; i < state.loose; i++)
      weight += Math.log((bits >> i) & 1 ? state.openShare : 1 - state.openShare);
    terms.push(weight + of(bits));
  }
  const top = Math.max(...terms);
  return top + Math.log(terms.reduce((sum, term) => sum + Math.exp(term - top), 0));
}
