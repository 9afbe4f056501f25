import { conductorPaint } from '../../cabling/conductor-paint.js';
import type { LinkExpectation } from '../../continuity/expectation.js';
import { closeMap, type MapReading } from '../../continuity/readings.js';
import { drawing, element, line, PAPER, words } from '../../drawing/svg.js';

const ROW_MM = 4.6;
const TOP_MM = 7;
const WIDTH_MM = 92;
const LEFT = 24;
const RIGHT = WIDTH_MM - 24;

/** A conductor's insulation, bands and all. */
function swatch(conductor: string | null, x: number, y: number): string {
  if (conductor === null) return '';
  const { base, band } = conductorPaint(conductor);
  const bands = band
    ? [0.18, 0.62].map((at) =>
        element('rect', { x: x + at * 7, y: y - 1.2, width: 1.6, height: 2.4, fill: band }),
      )
    : [];
  return [
    element('rect', { x, y: y - 1.2, width: 7, height: 2.4, fill: base }),
    ...bands,
    element('rect', {
      x,
      y: y - 1.2,
      width: 7,
      height: 2.4,
      fill: 'none',
      stroke: PAPER.second,
      'stroke-width': 0.15,
    }),
  ].join('');
}

/**
 * A map as it was read: near contacts at the left, far ones at the right, each with the conductor that is meant to lie
 * there. What arrives as intended is thin, what does not is heavy and dashed; what arrives nowhere ends in a bar.
 */
export function wireMapPicture(
  expected: LinkExpectation,
  reading: MapReading,
): { svg: string; widthMm: number; heightMm: number } {
  const map = closeMap(reading);
  const nears = Object.keys(expected.near.wiring).filter((c) => expected.near.wiring[c] !== null);
  const fars = Object.keys(expected.far.wiring).filter((c) => expected.far.wiring[c] !== null);
  const rows = Math.max(nears.length, fars.length);
  const y = (at: number): number => TOP_MM + at * ROW_MM;
  const meant = (near: string): string | undefined =>
    fars.find((far) => expected.far.wiring[far] === expected.near.wiring[near]);
  const inner = [
    words('near', { x: LEFT - 11, y: 3, fill: PAPER.second, 'font-size': 2.4 }),
    words('far', { x: RIGHT + 4, y: 3, fill: PAPER.second, 'font-size': 2.4 }),
    ...nears.map(
      (contact, at) =>
        swatch(expected.near.wiring[contact] ?? null, LEFT - 8, y(at)) +
        words(contact, { x: LEFT - 10, y: y(at) + 0.9, 'text-anchor': 'end', 'font-weight': 'bold' }),
    ),
    ...fars.map(
      (contact, at) =>
        swatch(expected.far.wiring[contact] ?? null, RIGHT + 1, y(at)) +
        words(contact, { x: RIGHT + 10, y: y(at) + 0.9, 'font-weight': 'bold' }),
    ),
    ...nears.flatMap((contact, at) => {
      const arrivals = (map.arrivals[contact] ?? []).filter((far) => fars.includes(far));
      if (arrivals.length === 0)
        return [
          line(LEFT, y(at), LEFT + 9, y(at), { stroke: PAPER.wrong, 'stroke-width': 0.6 }),
          line(LEFT + 9, y(at) - 1.4, LEFT + 9, y(at) + 1.4, { stroke: PAPER.wrong, 'stroke-width': 0.6 }),
        ];
      return arrivals.map((far) =>
        line(LEFT, y(at), RIGHT, y(fars.indexOf(far)), {
          ...(far === meant(contact)
            ? { 'stroke-width': 0.3 }
            : { stroke: PAPER.wrong, 'stroke-width': 0.6, 'stroke-dasharray': '1.8 1' }),
        }),
      );
    }),
  ];
  const heightMm = y(rows - 1) + 4;
  return {
    svg: drawing(WIDTH_MM, heightMm, 'Wire map as it was read', inner.join('')),
    widthMm: WIDTH_MM,
    heightMm,
  };
}
