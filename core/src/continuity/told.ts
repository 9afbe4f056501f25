import { CABLE_TYPES } from '../cabling/cable-library.js';
import type { Conductor } from '../cabling/conductors.js';
import { SCREEN, type ConductorId } from '../cabling/conductors.js';
import { SCREEN_CONTACT, type ContactId, type SchemeId } from '../cabling/schemes.js';
import { CONNECTOR_TYPES } from '../connectors/connector-library.js';
import { expectLead, expectLink, intendedLink, type EndWiring, type LinkExpectation } from './expectation.js';
import type { JointPlace, LinkEnd, TrueLink } from './true-link.js';

/** A link as a file tells it: by ids of the kit, or as a lead with its own wiring. */
export type ToldLink = { label?: string | undefined } & (
  | { cable: string; scheme: SchemeId; lengthM: number; near: string; far: string }
  | { conductors: readonly Omit<Conductor, 'leg'>[]; lengthM: number; near: EndWiring; far: EndWiring }
);

interface ToldJoint {
  end?: LinkEnd | undefined;
  contact?: ContactId | undefined;
  conductor?: ConductorId | undefined;
  atM?: number | undefined;
}

/** One thing that is wrong with a link, as a file tells it. */
export type ToldFault =
  | { kind: 'wired'; end: LinkEnd; order: readonly (ConductorId | null)[] }
  | { kind: 'broken'; conductor: ConductorId; atM: number }
  | { kind: 'joined'; conductors: readonly [ConductorId, ConductorId]; atM: number }
  | { kind: 'screen-loose'; end: LinkEnd }
  | { kind: 'wet'; atM: number; lengthM: number }
  | { kind: 'unseated'; end: LinkEnd; contact: ContactId }
  | { kind: 'bridged'; end: LinkEnd; contacts: readonly [ContactId, ContactId] }
  | ({ kind: 'poor'; ohm: number } & ToldJoint)
  | ({ kind: 'loose'; openShare: number } & ToldJoint)
  | { kind: 'spliced'; conductors: readonly [ConductorId, ConductorId]; atM: number }
  | { kind: 'plugged-in'; end: LinkEnd }
  | { kind: 'other-outlet' };

/** Something told that cannot be: what and where. */
export class ToldWrong extends RangeError {
  constructor(
    readonly path: readonly (string | number)[],
    message: string,
  ) {
    super(message);
  }
}

/**
 * What a told link is meant to be.
 * @throws ToldWrong for a cable, connector, contact or conductor that is not there
 */
export function expectTold(link: ToldLink): LinkExpectation {
  if ('conductors' in link) return expectToldLead(link);
  const cable = CABLE_TYPES.find((type) => type.id === link.cable);
  if (!cable)
    throw new ToldWrong(
      ['cable'],
      `there is no cable ${link.cable}. Known: ${CABLE_TYPES.map((c) => c.id).join(', ')}.`,
    );
  const connector = (end: LinkEnd): (typeof CONNECTOR_TYPES)[number] => {
    const found = CONNECTOR_TYPES.find((type) => type.id === link[end]);
    if (found) return found;
    const known = CONNECTOR_TYPES.map((c) => c.id).join(', ');
    throw new ToldWrong([end], `there is no connector ${link[end]}. Known: ${known}.`);
  };
  const { lengthM, scheme, label } = link;
  const [near, far] = [connector('near'), connector('far')];
  const expected = expectLink({ cable, lengthM, scheme, near, far, label });
  const ids = new Set(expected.conductors.map((w) => w.id));
  for (const end of ['near', 'far'] as const) {
    const stray = Object.values(expected[end].wiring).find((id) => id !== null && !ids.has(id));
    if (stray)
      throw new ToldWrong(
        [end],
        `a ${link[end]} does not go on ${link.cable}: it has no ${stray} conductor.`,
      );
  }
  return expected;
}

function expectToldLead(link: Extract<ToldLink, { conductors: unknown }>): LinkExpectation {
  const ids = link.conductors.map((w) => w.id);
  const twice = ids.find((id, i) => ids.indexOf(id) !== i);
  if (twice)
    throw new ToldWrong(
      ['conductors'],
      `${twice} comes twice. Number colours that return: ${twice}, ${twice}.2.`,
    );
  for (const end of ['near', 'far'] as const) {
    for (const [contact, conductor] of Object.entries(link[end])) {
      if (conductor !== null && !ids.includes(conductor))
        throw new ToldWrong(
          [end, contact],
          `this lead has no ${conductor} conductor. It has ${ids.join(', ')}.`,
        );
    }
    if (Object.keys(link[end]).length === 0) throw new ToldWrong([end], 'name at least one contact.');
  }
  const conductors = link.conductors.map((w): Conductor => ({ ...w, leg: null }));
  const { label } = link;
  return { ...expectLead({ ...link, conductors }), ...(label === undefined ? {} : { label }) };
}

/**
 * The link a told plan and told faults make.
 * @throws ToldWrong for a fault at a contact or conductor the link does not have
 */
export function linkAsTold(expected: LinkExpectation, faults: readonly ToldFault[]): TrueLink {
  return faults.reduce((link, fault, i) => {
    checkFault(link, fault, ['faults', i]);
    return applyFault(link, fault);
  }, intendedLink(expected));
}

function checkFault(link: TrueLink, fault: ToldFault, path: readonly (string | number)[]): void {
  const ids = link.conductors.map((w) => w.id);
  const conductor = (id: ConductorId | null): void => {
    if (id !== null && !ids.includes(id))
      throw new ToldWrong(path, `this cable has no ${id} conductor. It has ${ids.join(', ')}.`);
  };
  const contact = (end: LinkEnd, name: ContactId): void => {
    if (!(name in link[end]))
      throw new ToldWrong(
        path,
        `the ${end} end has no contact ${name}. It has ${Object.keys(link[end]).join(', ')}.`,
      );
  };
  if ('atM' in fault && fault.atM !== undefined && fault.atM > link.lengthM)
    throw new ToldWrong(path, `${fault.atM} m is beyond the link's ${link.lengthM} m.`);
  if ('conductors' in fault) fault.conductors.forEach(conductor);
  if (fault.kind === 'broken') conductor(fault.conductor);
  if (fault.kind === 'unseated') contact(fault.end, fault.contact);
  if (fault.kind === 'bridged') fault.contacts.forEach((name) => contact(fault.end, name));
  if (fault.kind === 'screen-loose') contact(fault.end, SCREEN_CONTACT);
  if (fault.kind === 'wired') {
    fault.order.forEach(conductor);
    const wired = Object.keys(link[fault.end]).filter((name) => link[fault.end][name] !== SCREEN);
    if (fault.order.length !== wired.length)
      throw new ToldWrong(
        path,
        `order names ${fault.order.length} conductors for the ${wired.length} contacts of the ${fault.end} end.`,
      );
  }
  if (fault.kind === 'poor' || fault.kind === 'loose') {
    const atContact = fault.end !== undefined && fault.contact !== undefined;
    const inCable = fault.conductor !== undefined && fault.atM !== undefined;
    if (atContact === inCable) throw new ToldWrong(path, 'say where: end and contact, or conductor and atM.');
    if (fault.end !== undefined && fault.contact !== undefined) contact(fault.end, fault.contact);
    if (fault.conductor !== undefined) conductor(fault.conductor);
  }
}

const jointOf = ({ end, contact, conductor, atM }: ToldJoint): JointPlace =>
  end !== undefined && contact !== undefined
    ? { end, contact }
    : { conductor: conductor as ConductorId, atM: atM as number };

function applyFault(link: TrueLink, fault: ToldFault): TrueLink {
  switch (fault.kind) {
    case 'wired': {
      const wiring: Record<ContactId, ConductorId | null> = { ...link[fault.end] };
      const contacts = Object.keys(wiring).filter((contact) => wiring[contact] !== SCREEN);
      contacts.forEach((contact, index) => (wiring[contact] = fault.order[index] ?? null));
      return { ...link, [fault.end]: wiring };
    }
    case 'broken':
      return { ...link, breaks: [...link.breaks, { conductor: fault.conductor, atM: fault.atM }] };
    case 'joined':
      return { ...link, joins: [...link.joins, { conductors: fault.conductors, atM: fault.atM }] };
    case 'screen-loose':
      return { ...link, [fault.end]: { ...link[fault.end], [SCREEN_CONTACT]: null } };
    case 'wet': {
      const { atM, lengthM } = fault;
      return { ...link, disturbances: [...link.disturbances, { atM, lengthM, impedance: 'low' }] };
    }
    case 'unseated':
      return { ...link, unseated: [...link.unseated, { end: fault.end, contact: fault.contact }] };
    case 'bridged':
      return { ...link, bridges: [...link.bridges, { end: fault.end, contacts: fault.contacts }] };
    case 'poor':
      return { ...link, poor: [...link.poor, { place: jointOf(fault), ohm: fault.ohm }] };
    case 'loose':
      return { ...link, loose: [...link.loose, { place: jointOf(fault), openShare: fault.openShare }] };
    case 'spliced':
      return { ...link, splices: [...link.splices, { conductors: fault.conductors, atM: fault.atM }] };
    case 'plugged-in':
      return { ...link, equipment: [...link.equipment, fault.end] };
    case 'other-outlet':
      return { ...link, farPresent: false };
  }
}
