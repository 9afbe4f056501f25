import type { WorldFile } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  expectLink,
  intendedLink,
  SCREEN_CONTACT,
  EIGHT_CONTACTS,
  type ConductorId,
  type ContactId,
  type LinkEnd,
  type TrueLink,
} from '@near-spoke/core';

export type WorldLink = WorldFile['links'][string];
type Fault = WorldLink['faults'][number];
export type Work = LinkEnd | 'mended' | 'replaced';

/** The physical links that the stand-in stands at. Pure: each change gives a new world. */
export type World = WorldFile;

/** What a simulated link physically is. */
export function trueLink(link: WorldLink): TrueLink {
  const cable = CABLE_TYPES.find((type) => type.id === link.cable);
  const connector = (id: string) => CONNECTOR_TYPES.find((type) => type.id === id);
  const [near, far] = [connector(link.near), connector(link.far)];
  if (!cable || !near || !far)
    throw new RangeError(
      `The link's cable (${link.cable}) or a connector (${link.near}, ${link.far}) is not known.`,
    );
  const intended = intendedLink(expectLink({ cable, lengthM: link.lengthM, scheme: link.scheme, near, far }));
  const whole = link.bare.reduce(bareEnd, intended);
  return link.faults.reduce(applyFault, whole);
}

const nothing = (end: Readonly<Record<ContactId, ConductorId | null>>): Record<ContactId, null> =>
  Object.fromEntries(Object.keys(end).map((contact) => [contact, null]));

const bareEnd = (link: TrueLink, end: LinkEnd): TrueLink => ({ ...link, [end]: nothing(link[end]) });

function applyFault(link: TrueLink, fault: Fault): TrueLink {
  switch (fault.kind) {
    case 'wired': {
      const wiring = { ...link[fault.end] };
      EIGHT_CONTACTS.forEach((contact, index) => (wiring[contact] = fault.order[index] ?? null));
      return { ...link, [fault.end]: wiring };
    }
    case 'broken':
      return { ...link, breaks: [...link.breaks, { conductor: fault.conductor, atM: fault.atM }] };
    case 'joined':
      return { ...link, joins: [...link.joins, { conductors: fault.conductors, atM: fault.atM }] };
    case 'screen-loose':
      return { ...link, [fault.end]: { ...link[fault.end], [SCREEN_CONTACT]: null } };
    case 'wet':
      return {
        ...link,
        disturbances: [...link.disturbances, { atM: fault.atM, lengthM: fault.lengthM, impedance: 'low' }],
      };
  }
}

const atEnd = (fault: Fault, end: LinkEnd): boolean => 'end' in fault && fault.end === end;

/** The world after a hand has done some work properly. A link it did not know begins with both ends bare. */
export function afterWork(
  world: World,
  linkId: string,
  work: Work,
  plan: Omit<WorldLink, 'faults' | 'bare'>,
): World {
  const known = world.links[linkId];
  const before: WorldLink = known ? { ...known, ...plan } : { ...plan, faults: [], bare: ['near', 'far'] };
  return { ...world, links: { ...world.links, [linkId]: worked(before, work) } };
}

function worked(link: WorldLink, work: Work): WorldLink {
  switch (work) {
    case 'near':
    case 'far':
      return {
        ...link,
        bare: link.bare.filter((end) => end !== work),
        faults: link.faults.filter((f) => !atEnd(f, work)),
      };
    case 'mended':
      return { ...link, faults: link.faults.filter((f) => 'end' in f) };
    case 'replaced':
      return { ...link, faults: [], bare: ['near', 'far'] };
  }
}
