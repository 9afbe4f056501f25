import type { RouteStretch } from '../cabling/route-stretch.js';

/** A stretch as a branch: what runs in it, and where it goes on. */
export interface RouteBranch {
  name: string;
  /** The longest piece of it that a link has here, metres. */
  lengthM: number;
  /** Labels of the links that run through it. */
  links: string[];
  /** Labels of those that end in it. */
  end: string[];
  branches: RouteBranch[];
}

/**
 * The routes of a job as a tree from its hub: links share a branch as long as the names of their stretches agree. Branches come
 * in the order in which they are first met.
 */
export function routeTree(
  links: readonly { label: string; route: readonly RouteStretch[] }[],
): RouteBranch[] {
  const root: RouteBranch[] = [];
  for (const { label, route } of links) {
    let level = root;
    route.forEach(({ name, lengthM }, at) => {
      let branch = level.find((one) => one.name === name);
      if (!branch) {
        branch = { name, lengthM: 0, links: [], end: [], branches: [] };
        level.push(branch);
      }
      branch.lengthM = Math.max(branch.lengthM, lengthM);
      branch.links.push(label);
      if (at === route.length - 1) branch.end.push(label);
      level = branch.branches;
    });
  }
  return root;
}

/** A branch of the tree as a line of a list, with how deep it lies. */
export interface BranchLine extends Omit<RouteBranch, 'branches'> {
  depth: number;
}

/** The tree from its hub outwards, line by line. */
export const branchLines = (branches: readonly RouteBranch[], depth = 0): BranchLine[] =>
  branches.flatMap(({ branches: further, ...branch }) => [
    { ...branch, depth },
    ...branchLines(further, depth + 1),
  ]);
