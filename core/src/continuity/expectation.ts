import { conductorsOf, type CableType } from '../cabling/cable-types.js';
import { expectedMap, type WiringLayoutId } from '../cabling/layouts.js';
import type { ContactId, SchemeId } from '../cabling/schemes.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import { COAX_END, endToScheme, LINE_END, type LinkEnd, type TrueLink } from './true-link.js';

/** What one end of a link is meant to be. */
export interface EndExpectation {
  scheme: SchemeId;
  connector: 'plug' | 'jack' | 'other';
  /** Minutes to redo this end. */
  redoMinutes: number;
}

/** What a link is meant to be: the yardstick for every reading. */
export interface LinkExpectation {
  /** `line` is a two-wire telephone line over pair 1 of a four-pair cable. */
  family: 'balanced' | 'coax' | 'line';
  lengthM: number;
  screened: boolean;
  near: EndExpectation;
  far: EndExpectation;
}

/** The expectation that follows from a link's plan. */
export function expectLink(plan: {
  cable: Pick<CableType, 'family' | 'screened'>;
  lengthM: number;
  scheme: SchemeId;
  near: Pick<ConnectorType, 'kind' | 'minutes' | 'contacts'>;
  far: Pick<ConnectorType, 'kind' | 'minutes' | 'contacts'>;
}): LinkExpectation {
  const end = (connector: Pick<ConnectorType, 'kind' | 'minutes' | 'contacts'>): EndExpectation => ({
    scheme: plan.scheme,
    connector: connector.kind,
    redoMinutes: connector.minutes,
  });
  const toLine = [plan.near, plan.far].some((connector) => connector.contacts.includes('a'));
  const family = plan.cable.family === 'coax' ? 'coax' : toLine ? 'line' : 'balanced';
  return {
    family,
    lengthM: plan.lengthM,
    screened: plan.cable.screened && family === 'balanced',
    near: end(plan.near),
    far: end(plan.far),
  };
}

/** The link as it would be with every hand's work right and the cable whole. */
export function intendedLink(expected: LinkExpectation): TrueLink {
  const { family, screened, lengthM } = expected;
  const end = (side: LinkEnd): TrueLink['near'] =>
    family === 'balanced'
      ? endToScheme(expected[side].scheme, screened)
      : family === 'coax'
        ? { ...COAX_END }
        : { ...LINE_END };
  return {
    lengthM,
    conductors: conductorsOf({
      family: family === 'coax' ? 'coax' : 'balanced',
      pairs: 4,
      conductors: 8,
      screened,
    }),
    near: end('near'),
    far: end('far'),
    breaks: [],
    unseated: [],
    joins: [],
    bridges: [],
    disturbances: [],
  };
}

/** Near contact -> far contact for a link wired as intended. */
export function intendedMap(expected: LinkExpectation): Record<ContactId, ContactId> {
  if (expected.family === 'coax') return { C: 'C', S: 'S' };
  if (expected.family === 'line') return { a: 'a', b: 'b' };
  const layout: WiringLayoutId = expected.near.scheme === expected.far.scheme ? 'straight' : 'crossover';
  return expectedMap(layout, expected.screened);
}
