import { ohmPerMOf } from '../cabling/conductor-ohms.js';
import { faradPerM } from '../metering/capacitance.js';
import { conductorsOf, type CableType } from '../cabling/cable-types.js';
import { SCREEN, type Conductor, type ConductorId } from '../cabling/conductors.js';
import { SCREEN_CONTACT, type ContactId, type SchemeId } from '../cabling/schemes.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import { assign } from '../connectors/assignment.js';
import { COAX_END, endToScheme, LINE_END, NOTHING_WRONG, type TrueLink } from './true-link.js';

/** Which conductor lies on which contact; null for a contact that stays empty. */
export type EndWiring = Readonly<Record<ContactId, ConductorId | null>>;

/** What one end of a link is meant to be. */
export interface EndExpectation {
  scheme: SchemeId;
  connector: 'plug' | 'jack' | 'other';
  /** The order can be seen in front of the plug before it is crimped. */
  passThrough: boolean;
  /** Minutes to redo this end. */
  redoMinutes: number;
  /** In the connector's numbering order, the screen last. */
  wiring: EndWiring;
}

/** What a link is meant to be: the yardstick for every reading. */
export interface LinkExpectation {
  /**
   * `balanced` is four pairs on eight contacts by a scheme, `line` a two-wire telephone line on
   * pair 1, `multipair` telephone pairs in counting order, `lead` anything joined contact to
   * contact: ribbon, multicore, an adapter.
   */
  family: 'balanced' | 'coax' | 'line' | 'multipair' | 'lead';
  lengthM: number;
  screened: boolean;
  conductors: readonly Conductor[];
  /** Ohms per metre of each conductor, one way; typical copper where it is not said. */
  ohmPerM?: Readonly<Record<ConductorId, number>> | undefined;
  /** Farads per metre of a pair; a typical twisted pair's where it is not said. */
  faradPerM?: number | undefined;
  /** What its panel port and outlet are called: what a coded remote that hangs there is called by. */
  label?: string | undefined;
  near: EndExpectation;
  far: EndExpectation;
}

type Connector = Pick<ConnectorType, 'kind' | 'minutes' | 'contacts'> & Partial<ConnectorType>;

/** The expectation that follows from a link's plan. */
export function expectLink(plan: {
  cable: Pick<CableType, 'family' | 'screened'> & Partial<CableType>;
  lengthM: number;
  scheme: SchemeId;
  near: Connector;
  far: Connector;
  label?: string | undefined;
}): LinkExpectation {
  const family = familyOf(plan);
  const screened = plan.cable.screened && family !== 'coax' && family !== 'line';
  const { pairs = 4, conductors = 8 } = plan.cable;
  const end = (connector: Connector): EndExpectation => ({
    scheme: plan.scheme,
    connector: connector.kind,
    passThrough: connector.recipe === 'plug-pass-through',
    redoMinutes: connector.minutes,
    wiring: wiringOf(family, plan, connector, screened),
  });
  return {
    family,
    lengthM: plan.lengthM,
    screened,
    conductors: conductorsOf({ family: plan.cable.family, pairs, conductors, screened }),
    ohmPerM: ohmPerMOf({ ...plan.cable, pairs, conductors, screened }),
    ...faradsOf(plan.cable),
    ...(plan.label === undefined ? {} : { label: plan.label }),
    near: end(plan.near),
    far: end(plan.far),
  };
}

/** What a catalogue's impedance and velocity say of the capacitance, where it has both. */
const faradsOf = ({ velocityFactor, impedanceOhm }: Partial<CableType>): { faradPerM?: number } =>
  velocityFactor && impedanceOhm ? { faradPerM: faradPerM({ velocityFactor, impedanceOhm }) } : {};

function familyOf(plan: Parameters<typeof expectLink>[0]): LinkExpectation['family'] {
  if (plan.cable.family === 'coax') return 'coax';
  const ends = [plan.near, plan.far];
  if (ends.some((connector) => connector.contacts.includes('a'))) return 'line';
  if (plan.cable.family !== 'balanced') return 'lead';
  const eight = ends.every(({ contacts }) => contacts.includes('8') && !contacts.includes('9'));
  return eight && (plan.cable.pairs ?? 4) === 4 ? 'balanced' : 'multipair';
}

function wiringOf(
  family: LinkExpectation['family'],
  plan: Parameters<typeof expectLink>[0],
  connector: Connector,
  screened: boolean,
): EndWiring {
  if (family === 'coax') return COAX_END;
  if (family === 'line') return LINE_END;
  if (family === 'balanced') return endToScheme(plan.scheme, screened);
  const { cable } = plan;
  const lines = assign(cable as CableType, connector as ConnectorType, {
    scheme: plan.scheme,
    ringingWire: false,
  });
  const wiring: Record<ContactId, ConductorId | null> = {};
  for (const contact of connector.contacts) wiring[contact] = null;
  const inCable = new Set(conductorsOf(cable as CableType).map((w) => w.id));
  for (const { contact, conductor } of lines) if (inCable.has(conductor)) wiring[contact] = conductor;
  if (screened) wiring[SCREEN_CONTACT] = SCREEN;
  return wiring;
}

/** A lead joined contact to contact in an order of its own, as an adapter's design gives it. */
export function expectLead(lead: {
  lengthM: number;
  conductors: readonly Conductor[];
  near: EndWiring;
  far: EndWiring;
  redoMinutes?: number;
}): LinkExpectation {
  const end = (wiring: EndWiring): EndExpectation => ({
    scheme: 'T568B',
    connector: 'other',
    passThrough: false,
    redoMinutes: lead.redoMinutes ?? 2 * Object.keys(wiring).length,
    wiring,
  });
  return {
    family: 'lead',
    lengthM: lead.lengthM,
    screened: lead.conductors.some((w) => w.id === SCREEN),
    conductors: lead.conductors,
    near: end(lead.near),
    far: end(lead.far),
  };
}

/** The link as it would be with every hand's work right and the cable whole. */
export function intendedLink(expected: LinkExpectation): TrueLink {
  const { lengthM, conductors, ohmPerM, faradPerM: farads } = expected;
  return {
    ...NOTHING_WRONG,
    lengthM,
    ohmPerM,
    ...(farads === undefined ? {} : { faradPerM: farads }),
    conductors,
    near: { ...expected.near.wiring },
    far: { ...expected.far.wiring },
  };
}

/** Near contact -> far contact for a link wired as intended; a contact that leads nowhere is left out. */
export function intendedMap(expected: LinkExpectation): Record<ContactId, ContactId> {
  const farOf = new Map<ConductorId, ContactId>();
  for (const [contact, conductor] of Object.entries(expected.far.wiring)) {
    if (conductor !== null && !farOf.has(conductor)) farOf.set(conductor, contact);
  }
  const map: Record<ContactId, ContactId> = {};
  for (const [contact, conductor] of Object.entries(expected.near.wiring)) {
    const far = conductor === null ? undefined : farOf.get(conductor);
    if (far !== undefined) map[contact] = far;
  }
  return map;
}

/**
 * The contacts of one end that belong together, in numbering order: those that share a twisted
 * pair, or, where nothing is paired, neighbours.
 */
export function contactPairsAt(
  link: Pick<TrueLink, 'conductors'>,
  wiring: EndWiring,
): readonly (readonly [ContactId, ContactId])[] {
  const pairOf = new Map(link.conductors.map((w) => [w.id, w.pair]));
  const wired = Object.entries(wiring).flatMap(([contact, id]) =>
    id === null || id === SCREEN || !pairOf.has(id) ? [] : [{ contact, pair: pairOf.get(id) ?? null }],
  );
  if (wired.every((w) => w.pair === null))
    return wired.flatMap(({ contact }, i) => {
      const next = wired[i + 1];
      return i % 2 === 0 && next ? [[contact, next.contact] as const] : [];
    });
  return wired.flatMap(({ contact, pair }, i) => {
    const mate = pair === null ? undefined : wired.slice(i + 1).find((w) => w.pair === pair);
    return mate ? [[contact, mate.contact] as const] : [];
  });
}
