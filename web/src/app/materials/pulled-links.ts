import type { Link, ReelRecord } from '@near-spoke/contracts';
import { entriesThatHold } from '@near-spoke/core';

/** What was cut off drums and boxes for links, by the lines that hold. */
export const drawsOf = (reels: readonly ReelRecord[]): { linkId: string; lengthM: number }[] =>
  reels.flatMap(({ entries }) =>
    entriesThatHold(entries).flatMap(({ what, linkId, lengthM }) =>
      what === 'drawn' && linkId !== null ? [{ linkId, lengthM }] : [],
    ),
  );

/** Links whose cable is in: something was made on them, or cut for them. */
export function pulledLinks(
  links: readonly Pick<Link, 'id' | 'stage'>[],
  reels: readonly ReelRecord[],
): ReadonlySet<string> {
  const cut = new Set(drawsOf(reels).map(({ linkId }) => linkId));
  return new Set(links.flatMap(({ id, stage }) => (stage !== 'planned' || cut.has(id) ? [id] : [])));
}
