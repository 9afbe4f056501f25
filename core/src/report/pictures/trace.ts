import { EVENT_WORDS } from '../../reflectometry/event-words.js';
import type { ReportTrace } from '../report-data.js';
import { drawing, element, fitted, line, n, PAPER, words } from '../../drawing/svg.js';

const WIDTH_MM = 178;
const HEIGHT_MM = 58;
/** Room for figures beside and below the field. */
const FIELD = { left: 12, right: 176, top: 9, bottom: 48 };
/** Steps of a scale. */
const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000];

/** A trace over metres from where it was taken, with what explains it (dashed) and what was found, each at its place. */
export function tracePicture(
  { from, to, seen, model, events, main }: ReportTrace,
  title: string,
  { lengthM, inUnits, unit }: { lengthM: number; inUnits: (m: number) => number; unit: string },
): { svg: string; widthMm: number; heightMm: number } {
  const all = [...seen, ...model, 0];
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const span = Math.max(most - least, 0.1);
  const x = (placeM: number): number =>
    FIELD.left + ((placeM - from) / (to - from)) * (FIELD.right - FIELD.left);
  const y = (share: number): number => FIELD.bottom - ((share - least) / span) * (FIELD.bottom - FIELD.top);
  const path = (values: readonly number[]): string =>
    values
      .map(
        (value, at) =>
          `${at === 0 ? 'M' : 'L'}${n(x(from + ((to - from) * at) / (values.length - 1)))} ${n(y(value))}`,
      )
      .join('');
  const curve = (values: readonly number[], more: Record<string, string | number>): string =>
    values.length > 1 ? element('path', { d: path(values), fill: 'none', ...more }) : '';
  const step = STEPS.find((one) => inUnits(to - from) / one <= 9) ?? 5000;
  const perUnit = inUnits(1);
  const marks: string[] = [];
  for (let at = 0; at / perUnit <= to; at += step)
    marks.push(
      line(x(at / perUnit), FIELD.bottom, x(at / perUnit), FIELD.bottom + 1.4),
      words(String(at), {
        x: x(at / perUnit),
        y: FIELD.bottom + 4.6,
        'text-anchor': 'middle',
        fill: PAPER.second,
      }),
    );
  const shown = events.filter(
    ({ kind, distanceM }) => kind !== 'ghost' && distanceM >= from && distanceM <= to,
  );
  const inner = [
    line(FIELD.left, FIELD.bottom, FIELD.right, FIELD.bottom),
    line(FIELD.left, y(0), FIELD.right, y(0), { stroke: PAPER.rule }),
    ...marks,
    words(unit, { x: FIELD.right, y: FIELD.bottom + 8, 'text-anchor': 'end', fill: PAPER.second }),
    words('plan ends', { x: x(lengthM) + 0.8, y: FIELD.bottom - 1, fill: PAPER.second, 'font-size': 2.2 }),
    line(x(lengthM), FIELD.top, x(lengthM), FIELD.bottom, {
      stroke: PAPER.second,
      'stroke-dasharray': '0.6 0.9',
    }),
    curve(seen, { stroke: PAPER.ink, 'stroke-width': 0.45 }),
    curve(model, { stroke: PAPER.accent, 'stroke-width': 0.45, 'stroke-dasharray': '2 1.2' }),
    ...shown.map((event, at) => {
      const isMain = events[main ?? -1] === event;
      const right = x(event.distanceM) > FIELD.right - 52;
      const colour = isMain ? PAPER.wrong : PAPER.second;
      return [
        line(x(event.distanceM), FIELD.top - 1, x(event.distanceM), FIELD.bottom, {
          stroke: colour,
          'stroke-width': isMain ? 0.4 : 0.2,
        }),
        words(fitted(`${EVENT_WORDS[event.kind]}, ${inUnits(event.distanceM).toFixed(1)} ${unit}`, 64, 2.6), {
          x: x(event.distanceM) + (right ? -0.8 : 0.8),
          y: 2.6 + (at % 3) * 2.9,
          'text-anchor': right ? 'end' : 'start',
          fill: colour,
        }),
      ].join('');
    }),
    line(FIELD.left, HEIGHT_MM - 3, FIELD.left + 7, HEIGHT_MM - 3, { 'stroke-width': 0.45 }),
    words('as taken', { x: FIELD.left + 8.5, y: HEIGHT_MM - 2.2 }),
    line(FIELD.left + 28, HEIGHT_MM - 3, FIELD.left + 35, HEIGHT_MM - 3, {
      stroke: PAPER.accent,
      'stroke-width': 0.45,
      'stroke-dasharray': '2 1.2',
    }),
    words('what explains it', { x: FIELD.left + 36.5, y: HEIGHT_MM - 2.2 }),
  ];
  return { svg: drawing(WIDTH_MM, HEIGHT_MM, title, inner.join('')), widthMm: WIDTH_MM, heightMm: HEIGHT_MM };
}
