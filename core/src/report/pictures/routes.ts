import { branchLines, routeTree, type BranchLine, type RouteBranch } from '../../links/route-tree.js';
import type { RouteStretch } from '../../cabling/route-stretch.js';
import { formatCableLength, type UnitSystem } from '../../quantities/length.js';
import { drawing, element, fitted, line, PAPER, words } from '../../drawing/svg.js';

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

/** So many stretches stand in one drawing: about a page of them. */
const IN_ONE = 24;

/**
 * The ways of a job's links as a tree from its hub, lengths to one scale, with what runs in each stretch and what ends there; a
 * large tree in several drawings, each going on where the one before ended.
 */
export function routesPictures(
  links: readonly { label: string; route: readonly RouteStretch[] }[],
  { hub, units, widthMm }: { hub: string; units: UnitSystem; widthMm: number },
): { svg: string; widthMm: number; heightMm: number }[] {
  const branches = placed(routeTree(links));
  const longestM = Math.max(1, ...branches.map(({ fromM, lengthM }) => fromM + lengthM));
  const scale = (widthMm - HUB_MM - ENDS_MM) / longestM;
  const x = (m: number): number => HUB_MM + m * scale;
  return Array.from({ length: Math.ceil(branches.length / IN_ONE) }, (_, sheet) => {
    const begins = sheet * IN_ONE;
    const here = branches.slice(begins, begins + IN_ONE);
    // What lies on a drawing before comes in from its upper edge.
    const y = (at: number): number => (at < begins ? 0 : FIRST_MM + (at - begins) * ROW_MM);
    const heightMm = here.length * ROW_MM + 4;
    // The trunk goes on to whatever begins at the hub on a later drawing.
    const trunk = branches.reduce((last, { parent }, at) => (parent < 0 ? at : last), 0);
    const inner = here.map((each, n) => {
      const at = begins + n;
      const ends = each.end.join(', ');
      const below = branches.reduce((last, { parent }, k) => (parent === at ? k : last), at);
      return [
        below >= begins + IN_ONE
          ? line(x(each.fromM + each.lengthM), y(at), x(each.fromM + each.lengthM), heightMm, THIN)
          : '',
        line(x(each.fromM), y(each.parent < 0 ? 0 : each.parent), x(each.fromM), y(at), THIN),
        line(x(each.fromM), y(at), x(each.fromM + each.lengthM), y(at), {
          stroke: PAPER.accent,
          'stroke-width': Math.min(2.2, 0.35 + 0.12 * each.links.length),
        }),
        words(
          `${each.name}, ${formatCableLength(each.lengthM, units)}${each.links.length > 1 ? `, ${each.links.length} cables` : ''}`,
          { x: x(each.fromM) + 1, y: y(at) - 1.6, 'font-size': 2.5 },
        ),
        ends &&
          words(fitted(ends, widthMm - x(each.fromM + each.lengthM) - 2, 2.3, 0.55), {
            x: x(each.fromM + each.lengthM) + 1.2,
            y: y(at) + 0.9,
            'font-size': 2.3,
            fill: PAPER.second,
          }),
      ].join('');
    });
    const through = [
      ...(trunk >= begins + IN_ONE ? [line(HUB_MM, y(begins), HUB_MM, heightMm, THIN)] : []),
      // Branches that begin before this drawing and end after it pass through.
      ...branches.slice(0, begins).flatMap((each, at) => {
        const below = branches.reduce((last, { parent }, k) => (parent === at ? k : last), -1);
        return below >= begins + IN_ONE
          ? [line(x(each.fromM + each.lengthM), 0, x(each.fromM + each.lengthM), heightMm, THIN)]
          : [];
      }),
    ];
    const title = `Routes from ${hub}`;
    const inside = through.join('') + (sheet === 0 ? hubSign(hub) : '') + inner.join('');
    return { svg: drawing(widthMm, heightMm, title, inside), widthMm, heightMm };
  });
}

const FIRST_MM = 6;
const THIN = { stroke: PAPER.second, 'stroke-width': 0.3 };

const hubSign = (hub: string): string =>
  element('rect', { x: 0.4, y: FIRST_MM - 3, width: HUB_MM - 2, height: 6, rx: 1, fill: PAPER.ink }) +
  words(fitted(hub, HUB_MM - 3, 2.8), {
    x: HUB_MM / 2 - 0.6,
    y: FIRST_MM + 1,
    fill: PAPER.sheet,
    'font-size': 2.8,
    'text-anchor': 'middle',
  }) +
  line(HUB_MM - 1.6, FIRST_MM, HUB_MM, FIRST_MM, THIN);
