import { pathInWords, type PlannedLead, type PlannedLink } from '@near-spoke/contracts';
import { expectTold, ToldWrong, type LinkExpectation } from '@near-spoke/core';
import { BadInput } from './outcome.js';

/** What a file's link is meant to be, or BadInput saying where it is wrong. */
export function expectationOf(link: PlannedLink | PlannedLead): LinkExpectation {
  return orBadInput('link', () => expectTold(link));
}

/** Runs something that may find a told link impossible. */
export function orBadInput<T>(root: string | null, make: () => T): T {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof ToldWrong)) throw error;
    throw new BadInput(`${pathInWords([...(root === null ? [] : [root]), ...error.path])}: ${error.message}`);
  }
}

/** A link in one line. */
export function linkInWords(link: PlannedLink | PlannedLead): string {
  const name = link.label ?? ('conductors' in link ? 'Lead' : 'Link');
  return 'conductors' in link
    ? `${name}: ${link.conductors.length} conductors, ${link.lengthM} m`
    : `${name}: ${link.cable}, ${link.lengthM} m, ${link.scheme}`;
}
