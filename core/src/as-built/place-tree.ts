import type { LinkStage } from '../links/stage.js';
import { countingOrder } from '../report/names.js';

/** A link as far as places know of it. */
export interface PlacedLink {
  id: string;
  stage: LinkStage;
  near: { hub: string; panel: string; port: string };
  far: { room: string; outlet: string };
}

/** A place of a building, what lies in it, and the links that end in it or below. */
export interface PlaceNode {
  /** The names from the site down, apart by a sign that no name has: tells places of one name apart. */
  path: string;
  name: string;
  what: 'hub' | 'panel' | 'place' | 'outlet';
  links: string[];
  /** How many of them stand where. */
  stages: Partial<Record<LinkStage, number>>;
  children: PlaceNode[];
}

/** What parts a room's name into building, floor and room: `Annex / 2nd floor / Laboratory`. */
const PART = /\s+\/\s+/;
const APART = '\u0001';

/** The places that a room's name goes through, the outermost first. */
export const placeParts = (room: string): string[] => {
  const parts = room.split(PART).filter((part) => part !== '');
  return parts.length > 0 ? parts : [room];
};

/**
 * The places of a site as a tree, over all its jobs: hubs with their panels, then building by floor by room by outlet as far as
 * rooms are named so. Two jobs that name a place alike mean one place. Names come in the order in which people count.
 */
export function placeTree(links: readonly PlacedLink[]): PlaceNode[] {
  const root: PlaceNode[] = [];
  const put = (link: PlacedLink, steps: readonly { name: string; what: PlaceNode['what'] }[]): void => {
    let [level, path] = [root, ''];
    for (const { name, what } of steps) {
      path = `${path}${APART}${what}:${name.toLowerCase()}`;
      let node = level.find((one) => one.path === path);
      if (!node) {
        node = { path, name, what, links: [], stages: {}, children: [] };
        level.push(node);
      }
      node.links.push(link.id);
      node.stages[link.stage] = (node.stages[link.stage] ?? 0) + 1;
      level = node.children;
    }
  };
  for (const link of links) {
    put(link, [
      { name: link.near.hub, what: 'hub' },
      { name: link.near.panel, what: 'panel' },
    ]);
    put(link, [
      ...placeParts(link.far.room).map((name) => ({ name, what: 'place' as const })),
      { name: link.far.outlet, what: 'outlet' as const },
    ]);
  }
  return inOrder(root);
}

const RANK: Readonly<Record<PlaceNode['what'], number>> = { hub: 0, panel: 1, place: 2, outlet: 3 };

const inOrder = (nodes: PlaceNode[]): PlaceNode[] =>
  nodes
    .sort((a, b) => RANK[a.what] - RANK[b.what] || countingOrder(a.name, b.name))
    .map((node) => ({ ...node, children: inOrder(node.children) }));

/** The place with a path; null where there is none. */
export function placeAt(nodes: readonly PlaceNode[], path: string): PlaceNode | null {
  for (const node of nodes) {
    if (node.path === path) return node;
    if (path.startsWith(`${node.path}${APART}`)) return placeAt(node.children, path);
  }
  return null;
}

/** The names on the way to a place, the outermost first. */
export function placeWay(nodes: readonly PlaceNode[], path: string): string[] {
  for (const node of nodes)
    if (node.path === path || path.startsWith(`${node.path}${APART}`))
      return [node.name, ...placeWay(node.children, path)];
  return [];
}
