import { conductorPaint } from '../cabling/conductor-paint.js';
import type { Scene, SceneRole, SceneShape } from './scene.js';
import { element, escapeXml, n, PAPER } from './svg.js';

const EDGE = '#7d868b';
const PAINT: Readonly<Record<SceneRole, Readonly<Record<string, string | number>>>> = {
  body: { fill: '#f5f4ef', stroke: PAPER.ink, 'stroke-width': 2 },
  'hidden-body': { fill: '#f5f4ef', stroke: PAPER.second, 'stroke-width': 2, 'stroke-dasharray': '7 5' },
  'socket-body': { fill: PAPER.rule, stroke: PAPER.ink, 'stroke-width': 2 },
  latch: { fill: PAPER.rule, stroke: PAPER.second },
  metal: { fill: '#c9a44c', stroke: '#5d4a17' },
  jacket: { fill: '#30383c', stroke: PAPER.second },
  slot: { fill: PAPER.sheet, stroke: PAPER.ink, 'stroke-width': 1.4 },
};
/** Where the two bands of a sample begin, and how wide they are, as shares of it. */
export const BANDS = { at: [0.15, 0.62], wide: 0.2 } as const;
/** How far a wire's outline goes beyond it, both sides together. */
export const WIRE_EDGE = 1.4;
/** Lengths of band and of base along a banded wire, times its width. */
export const WIRE_BANDS = [1.2, 1.7] as const;

/** A scene as an SVG in ink on paper, so wide. */
export function sceneSvg(scene: Scene, width: number): { svg: string; width: number; height: number } {
  const height = (width * scene.height) / scene.width;
  const inner = scene.shapes.map((shape) => painted(shape, scene.turnDeg)).join('');
  return {
    svg: element(
      'svg',
      {
        xmlns: 'http://www.w3.org/2000/svg',
        width,
        height,
        viewBox: [scene.x, scene.y, scene.width, scene.height].map(n).join(' '),
        role: 'img',
        'aria-label': scene.words,
      },
      scene.turnDeg === 0 ? inner : element('g', { transform: `rotate(${n(scene.turnDeg)})` }, inner),
    ),
    width,
    height,
  };
}

function painted(shape: SceneShape, turnDeg: number): string {
  switch (shape.is) {
    case 'outline':
      return element('path', { d: shape.d, ...PAINT[shape.as] });
    case 'box': {
      const { x, y, width, height, round } = shape;
      return element('rect', { x, y, width, height, rx: round, ...PAINT[shape.as] });
    }
    case 'wire':
      return wire(shape);
    case 'sample':
      return sample(shape.conductor, shape.x, shape.y, shape.width, shape.height);
    case 'contact': {
      const { x, y, width, height, contact, contactY, code, sample: of } = shape;
      return element(
        'g',
        { transform: upright(x, y, turnDeg) },
        [
          element('rect', { x: -width / 2, y: -height / 2, width, height, rx: 5, ...PAINT.slot }),
          text(contact, 0, contactY, { size: 16, bold: true }),
          of ? sample(of.conductor, -of.width / 2, of.y, of.width, of.height) : '',
          code
            ? text(code.words, 0, code.y, { size: 11.5, fill: code.empty ? PAPER.second : PAPER.ink })
            : '',
        ].join(''),
      );
    }
    case 'words': {
      const jacket = shape.as === 'on-jacket';
      return element(
        'g',
        { transform: upright(shape.x, shape.y, turnDeg) },
        text(shape.words, 0, 0, {
          size: jacket ? 14 : 16,
          fill: jacket ? PAPER.sheet : PAPER.ink,
          anchor: shape.anchor,
          bold: !jacket,
        }),
      );
    }
  }
}

/** At a place, and not turned with the rest. */
export const upright = (x: number, y: number, turnDeg: number): string =>
  `translate(${n(x)} ${n(y)})${turnDeg === 0 ? '' : ` rotate(${n(-turnDeg)})`}`;

function text(
  words: string,
  x: number,
  y: number,
  {
    size,
    fill = PAPER.ink,
    anchor = 'middle',
    bold = false,
  }: { size: number; fill?: string; anchor?: string; bold?: boolean },
): string {
  return element(
    'text',
    { x, y, 'font-size': size, 'text-anchor': anchor, fill, 'font-weight': bold ? 'bold' : undefined },
    escapeXml(words),
  );
}

function wire({ d, conductor, width }: Extract<SceneShape, { is: 'wire' }>): string {
  const { base, band } = conductorPaint(conductor);
  const line = (stroke: string, wide: number, dash?: string): string =>
    element('path', { d, fill: 'none', stroke, 'stroke-width': wide, 'stroke-dasharray': dash });
  const dash = WIRE_BANDS.map((times) => n(times * width)).join(' ');
  return line(EDGE, width + WIRE_EDGE) + line(base, width) + (band ? line(band, width, dash) : '');
}

function sample(conductor: string, x: number, y: number, width: number, height: number): string {
  const { base, band } = conductorPaint(conductor);
  const bands = band
    ? BANDS.at.map((at) =>
        element('rect', { x: x + at * width, y, width: BANDS.wide * width, height, fill: band }),
      )
    : [];
  return [
    element('rect', { x, y, width, height, fill: base }),
    ...bands,
    element('rect', { x, y, width, height, fill: 'none', stroke: EDGE }),
  ].join('');
}
