import type { Link } from '@near-spoke/contracts';
import type { LinkEnd } from '@near-spoke/core';

/** Ends of a job that are made alike: the same side, connector and cable, none of them done yet. */
export interface LikeEnds {
  key: string;
  side: LinkEnd;
  connectorId: string;
  cableId: string;
  links: readonly Link[];
}

/** The open ends of a job in groups that one hand makes one after another, the largest first. */
export function likeEnds(links: readonly Link[]): LikeEnds[] {
  const groups = new Map<string, { side: LinkEnd; connectorId: string; cableId: string; links: Link[] }>();
  for (const link of links) {
    for (const side of ['near', 'far'] as const) {
      if (link[side].done) continue;
      const { connectorId } = link[side];
      const key = `${side} ${connectorId} ${link.cableTypeId}`;
      const group = groups.get(key) ?? { side, connectorId, cableId: link.cableTypeId, links: [] };
      group.links.push(link);
      groups.set(key, group);
    }
  }
  return [...groups]
    .map(([key, group]) => ({ key, ...group }))
    .sort((a, b) => b.links.length - a.links.length || a.key.localeCompare(b.key));
}
