import { branchLines, routeTree, type BranchLine, type RouteBranch } from '../../links/route-tree.js';
import type { RouteStretch } from '../../links/plan-check.js';
import { formatCableLength, type UnitSystem } from '../../quantities/length.js';
import { drawing, element, fitted, line, PAPER, words } from './svg.js';

const ROW_MM = 9;
const HUB_MM = 16;
/** Room to the right of the longest way, for what ends there. */
const ENDS_MM = 62;

interface Placed extends BranchLine {
  fromM: number;
  parent: number;
}

function placed(branches: readonly RouteBranch[]): Placed[] {
  const lines = branchLines(branches);
  const last: number[] = [];
  const all: Placed[] = [];
  lines.forEach((each, at) => {
    const parent = each.depth === 0 ? -1 : (last[each.depth - 1] ?? -1);
    last[each.depth] = at;
    const before = all[parent];
    all.push({ ...each, parent, fromM: before ? before.fromM + before.lengthM : 0 });
  });
  return all;
}

/** The ways of a job's links as a tree from its hub, lengths to one scale, with what runs in each stretch and what ends there. */
export function routesPicture(
  links: readonly { label: string; route: readonly RouteStretch[] }[],
  { hub, units, widthMm }: { hub: string; units: UnitSystem; widthMm: number },
): { svg: string; widthMm: number; heightMm: number } | null {
  const branches = placed(routeTree(links));
  if (branches.length === 0) return null;
  const longestM = Math.max(...branches.map(({ fromM, lengthM }) => fromM + lengthM));
  const scale = (widthMm - HUB_MM - ENDS_MM) / longestM;
  const x = (m: number): number => HUB_MM + m * scale;
  const y = (at: number): number => 6 + at * ROW_MM;
  const heightMm = branches.length * ROW_MM + 4;
  const inner = branches.map((each, at) => {
    const here = y(at);
    const from = each.parent < 0 ? y(0) : y(each.parent);
    const thick = Math.min(2.2, 0.35 + 0.12 * each.links.length);
    const ends = each.end.length === 0 ? '' : each.end.join(', ');
    return [
      line(x(each.fromM), from, x(each.fromM), here, { stroke: PAPER.second, 'stroke-width': 0.3 }),
      line(x(each.fromM), here, x(each.fromM + each.lengthM), here, {
        stroke: PAPER.accent,
        'stroke-width': thick,
      }),
      words(
        `${each.name}, ${formatCableLength(each.lengthM, units)}${each.links.length > 1 ? `, ${each.links.length} cables` : ''}`,
        { x: x(each.fromM) + 1, y: here - 1.6, 'font-size': 2.5 },
      ),
      ends &&
        words(fitted(ends, widthMm - x(each.fromM + each.lengthM) - 2, 2.3, 0.55), {
          x: x(each.fromM + each.lengthM) + 1.2,
          y: here + 0.9,
          'font-size': 2.3,
          fill: PAPER.second,
        }),
    ].join('');
  });
  const hubSign =
    element('rect', { x: 0.4, y: y(0) - 3, width: HUB_MM - 2, height: 6, rx: 1, fill: PAPER.ink }) +
    words(fitted(hub, HUB_MM - 3, 2.8), {
      x: HUB_MM / 2 - 0.6,
      y: y(0) + 1,
      fill: PAPER.sheet,
      'font-size': 2.8,
      'text-anchor': 'middle',
    }) +
    line(HUB_MM - 1.6, y(0), HUB_MM, y(0), { stroke: PAPER.second });
  return {
    svg: drawing(widthMm, heightMm, `Routes from ${hub}`, hubSign + inner.join('')),
    widthMm,
    heightMm,
  };
}
