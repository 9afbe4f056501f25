import type { LinkStage } from '../../links/stage.js';
import { element, PAPER } from '../../drawing/svg.js';

/** A stage by its shape, as on every screen: centred on a point, `r` in millimetres. */
export function stageSign(stage: LinkStage, x: number, y: number, r: number): string {
  const at = (dx: number, dy: number): string => `${(x + dx * r).toFixed(3)} ${(y + dy * r).toFixed(3)}`;
  const tick = (stroke: string): string =>
    element('path', {
      d: `M${at(-0.5, 0.03)} L${at(-0.13, 0.4)} L${at(0.53, -0.43)}`,
      fill: 'none',
      stroke,
      'stroke-width': r * 0.29,
    });
  const ring = (more: Readonly<Record<string, string | number>>): string =>
    element('circle', {
      cx: x,
      cy: y,
      r: r * 0.88,
      fill: PAPER.sheet,
      stroke: PAPER.ink,
      'stroke-width': r * 0.25,
      ...more,
    });
  switch (stage) {
    case 'handed-over':
      return (
        element('rect', {
          x: x - r,
          y: y - r,
          width: 2 * r,
          height: 2 * r,
          rx: r * 0.3,
          fill: PAPER.accent,
        }) + tick(PAPER.sheet)
      );
    case 'proved':
      return element('circle', { cx: x, cy: y, r, fill: PAPER.ink }) + tick(PAPER.sheet);
    case 'failed':
      return (
        element('path', { d: `M${at(0, -1.1)} L${at(1.1, 0.9)} L${at(-1.1, 0.9)} Z`, fill: PAPER.wrong }) +
        element('path', {
          d: `M${at(0, -0.45)} L${at(0, 0.3)} M${at(0, 0.52)} L${at(0, 0.68)}`,
          stroke: PAPER.sheet,
          'stroke-width': r * 0.26,
        })
      );
    case 'both-ends':
      return ring({}) + element('circle', { cx: x, cy: y, r: r * 0.33, fill: PAPER.ink });
    case 'one-end':
      return (
        ring({}) +
        element('path', {
          d: `M${at(0, -0.88)} A${(0.88 * r).toFixed(3)} ${(0.88 * r).toFixed(3)} 0 0 0 ${at(0, 0.88)} Z`,
          fill: PAPER.ink,
        })
      );
    case 'planned':
      return ring({
        stroke: PAPER.second,
        'stroke-dasharray': `${(r * 0.38).toFixed(3)} ${(r * 0.3).toFixed(3)}`,
      });
  }
}
