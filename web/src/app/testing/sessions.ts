import type { CrewMember, OwnCrew, SessionState } from '@near-spoke/contracts';
import { FIRST_CREW } from '@near-spoke/contracts/first-crew';

/** Somebody signed in, in the crew that every installation begins with; in more of them where they are given. */
export function signedInAs(
  crew: CrewMember,
  token = 't',
  more: readonly OwnCrew[] = [],
): Extract<SessionState, { state: 'signed-in' }> {
  const own = { id: FIRST_CREW, name: 'Our crew', role: crew.role, version: 1 };
  return { state: 'signed-in', crew, token, inCrew: FIRST_CREW, crews: [own, ...more] };
}
