import type { WorldFile } from '@near-spoke/contracts';
import {
  expectTold,
  intendedLink,
  linkAsTold,
  type ConductorId,
  type ContactId,
  type LinkEnd,
  type TrueLink,
} from '@near-spoke/core';

export type WorldLink = WorldFile['links'][string];
type Fault = WorldLink['faults'][number];
export type Work = LinkEnd | 'mended' | 'replaced' | 'outlet' | 'unplug';

/** The physical links that the stand-in stands at. Pure: each change gives a new world. */
export type World = WorldFile;

/** What a simulated link physically is, and what it was meant to be. */
export function trueLink(link: WorldLink): { link: TrueLink; intended: TrueLink } {
  const expected = expectTold(link);
  const asTold = linkAsTold(expected, link.faults);
  return { link: link.bare.reduce(bareEnd, asTold), intended: intendedLink(expected) };
}

const nothing = (end: Readonly<Record<ContactId, ConductorId | null>>): Record<ContactId, null> =>
  Object.fromEntries(Object.keys(end).map((contact) => [contact, null]));

const bareEnd = (link: TrueLink, end: LinkEnd): TrueLink => ({ ...link, [end]: nothing(link[end]) });

const atEnd = (fault: Fault, end: LinkEnd): boolean => 'end' in fault && fault.end === end;
/** Where the cable is mended, what hands did at the ends stays. */
const atAnEnd = (fault: Fault): boolean => 'end' in fault && fault.end !== undefined;

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
    case 'outlet':
      return { ...link, faults: link.faults.filter((f) => f.kind !== 'other-outlet') };
    case 'unplug':
      return { ...link, faults: link.faults.filter((f) => f.kind !== 'plugged-in') };
    case 'mended':
      return { ...link, faults: link.faults.filter(atAnEnd) };
    case 'replaced':
      return { ...link, faults: [], bare: ['near', 'far'] };
  }
}
