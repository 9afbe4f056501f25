import { netsOf, type AdapterDesign } from './design.js';
import { placedStage, stageNames, type StageNames, type StagePart } from './level-stage.js';

/** A level stage as it is drawn: strokes as SVG paths, filled dots where wires meet, and words. */
export interface StageDrawing {
  width: number;
  height: number;
  strokes: readonly string[];
  dots: readonly (readonly [x: number, y: number])[];
  texts: readonly { x: number; y: number; anchor: 'start' | 'middle' | 'end'; words: string }[];
  /** The same in words, for whoever does not see it. */
  words: string;
}

/** About the width of a letter. */
const LETTER_PX = 7;

class Pen {
  readonly strokes: string[] = [];
  readonly dots: [number, number][] = [];
  readonly texts: { x: number; y: number; anchor: 'start' | 'middle' | 'end'; words: string }[] = [];

  wire(...points: readonly (readonly [number, number])[]): void {
    this.strokes.push(points.map(([x, y], n) => `${n === 0 ? 'M' : 'L'}${x} ${y}`).join(''));
  }
  dot(x: number, y: number): void {
    this.dots.push([x, y]);
  }
  say(x: number, y: number, words: string, anchor: 'start' | 'middle' | 'end' = 'middle'): void {
    this.texts.push({ x, y, anchor, words });
  }
  /** A resistor along a wire, its name beside it. */
  resistor(from: readonly [number, number], to: readonly [number, number], name: string): void {
    const [[x1, y1], [x2, y2]] = [from, to];
    const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
    if (y1 === y2) {
      this.wire(from, [mx - 15, my]);
      this.strokes.push(`M${mx - 15} ${my - 6}h30v12h-30z`);
      this.wire([mx + 15, my], to);
      this.say(mx, my - 10, name);
    } else {
      this.wire(from, [mx, my - 15]);
      this.strokes.push(`M${mx - 6} ${my - 15}h12v30h-12z`);
      this.wire([mx, my + 15], to);
      this.say(mx + 11, my + 4, name, 'start');
    }
  }
  /** An NPN transistor: base at the left of (x, y), collector above, emitter with its arrow below. */
  npn(x: number, y: number, name: string): void {
    this.strokes.push(`M${x + 22} ${y}a18 18 0 1 1 -36 0a18 18 0 1 1 36 0`);
    this.wire([x - 4, y - 10], [x - 4, y + 10]);
    this.wire([x - 24, y], [x - 4, y]);
    this.wire([x - 4, y - 5], [x + 10, y - 14], [x + 10, y - 30]);
    this.wire([x - 4, y + 5], [x + 10, y + 14], [x + 10, y + 30]);
    this.strokes.push(`M${x + 10} ${y + 14}l-7 -1l4 -6z`);
    this.say(x + 26, y + 5, name, 'start');
  }
  rail(y: number, from: number, to: number, name: string): void {
    this.wire([from, y], [to, y]);
    this.say(to + 6, y + 4, name, 'start');
  }
}

const valueOf = (parts: readonly StagePart[], id: string): string => {
  const { ohm = 0 } = parts.find((part) => part.id === id) ?? {};
  return `${id} ${ohm >= 1000 ? `${ohm / 1000}k` : `${ohm} Ω`}`;
};

const twoTransistors = (parts: readonly StagePart[], names: StageNames): Pen => {
  const pen = new Pen();
  pen.rail(24, 130, 300, names['supply of the receiver']);
  pen.rail(196, 130, 300, names.ground);
  pen.say(8, 160, names.in, 'start');
  pen.resistor([8, 140], [96, 140], valueOf(parts, 'R1'));
  pen.npn(120, 140, 'T1');
  pen.wire([130, 170], [130, 196]);
  pen.resistor([130, 24], [130, 96], valueOf(parts, 'R2'));
  pen.wire([130, 96], [130, 110]);
  pen.dot(130, 96);
  pen.resistor([130, 96], [226, 96], valueOf(parts, 'R3'));
  pen.npn(250, 96, 'T2');
  pen.wire([260, 126], [260, 196]);
  pen.resistor([260, 24], [260, 62], valueOf(parts, 'R4'));
  pen.dot(260, 64);
  pen.wire([260, 62], [260, 66]);
  pen.wire([260, 64], [330, 64]);
  pen.say(334, 68, names.out, 'start');
  return pen;
};

const fet = (parts: readonly StagePart[], names: StageNames): Pen => {
  const pen = new Pen();
  const gate = parts.find(({ id }) => id === 'T1')?.contacts['G'];
  const lowLeft = gate === 'supply of the sender';
  const [low, high] = lowLeft
    ? [names['supply of the sender'], names['supply of the receiver']]
    : [names['supply of the receiver'], names['supply of the sender']];
  const [left, right] = lowLeft ? [names.in, names.out] : [names.out, names.in];
  pen.say(70, 16, low);
  pen.say(300, 16, high);
  pen.resistor([70, 22], [70, 130], valueOf(parts, 'R1'));
  pen.resistor([300, 22], [300, 130], valueOf(parts, 'R2'));
  pen.dot(70, 130);
  pen.dot(300, 130);
  pen.wire([20, 130], [160, 130]);
  pen.wire([210, 130], [350, 130]);
  // Source left, drain right, gate above, on the lower supply; the arrow of an N channel points to the channel.
  pen.strokes.push('M160 118V142M210 118V142M160 112H210M172 104H198');
  pen.wire([185, 104], [185, 38], [70, 38]);
  pen.dot(70, 38);
  pen.say(185, 176, 'T1, N channel');
  pen.say(152, 124, 'S', 'end');
  pen.say(218, 124, 'D', 'start');
  pen.say(203, 98, 'G', 'start');
  pen.say(20, 150, left, 'start');
  pen.say(350, 150, right, 'end');
  return pen;
};

const divider = (parts: readonly StagePart[], names: StageNames): Pen => {
  const pen = new Pen();
  pen.say(8, 76, names.in, 'start');
  pen.resistor([8, 56], [150, 56], valueOf(parts, 'R1'));
  pen.wire([150, 56], [260, 56]);
  pen.dot(150, 56);
  pen.say(264, 60, names.out, 'start');
  pen.resistor([150, 56], [150, 150], valueOf(parts, 'R2'));
  pen.rail(150, 110, 190, names.ground);
  return pen;
};

const chip = (parts: readonly StagePart[], names: StageNames): Pen => {
  const pen = new Pen();
  const fed =
    parts[0]?.contacts['supply'] === 'supply of the sender'
      ? 'supply of the sender'
      : 'supply of the receiver';
  pen.strokes.push('M120 50h140v80h-140z');
  pen.say(190, 86, parts[0]?.what ?? '');
  pen.say(190, 106, 'C1 to C4 by its sheet');
  pen.wire([30, 90], [120, 90]);
  pen.wire([260, 90], [330, 90]);
  pen.say(30, 80, names.in, 'start');
  pen.say(334, 94, names.out, 'start');
  pen.wire([190, 50], [190, 26]);
  pen.say(190, 18, names[fed]);
  pen.wire([190, 130], [190, 154]);
  pen.say(190, 170, names.ground);
  return pen;
};

/** Draws a level stage by what it is made of; null where there is none. */
export function drawStage(parts: readonly StagePart[], names: StageNames): StageDrawing | null {
  const [first] = parts;
  if (!first) return null;
  const has = (kind: StagePart['kind']): boolean => parts.some((part) => part.kind === kind);
  const draw = has('NPN') ? twoTransistors : has('FET') ? fet : has('chip') ? chip : divider;
  const pen = draw(parts, names);
  const edge = Math.max(
    ...pen.texts.map(
      ({ x, words, anchor }) => x + { start: 1, middle: 0.5, end: 0 }[anchor] * LETTER_PX * words.length,
    ),
  );
  return {
    width: Math.max(360, edge + 8),
    height: 210,
    strokes: pen.strokes,
    dots: pen.dots,
    texts: pen.texts,
    words: `Level stage from ${names.in} to ${names.out}: ${parts.map(({ id, what }) => `${id} ${what}`).join(', ')}.`,
  };
}

/** The level stages of a lead, drawn, by the number of the coupling that each lies in. */
export function stagesDrawn(design: AdapterDesign): { coupling: number; drawing: StageDrawing }[] {
  const { nets, couplings } = netsOf(design);
  return couplings.flatMap((coupling, n) => {
    const stage = placedStage(design, nets, coupling);
    const drawing = stage && drawStage(stage.parts, stageNames(design, stage));
    return drawing ? [{ coupling: n, drawing }] : [];
  });
}

/** A drawn stage as SVG, for paper. */
export function stageSvg({ width, height, strokes, dots, texts }: StageDrawing, ink: string): string {
  const escaped = (words: string): string => words.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  return `<svg viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${[
    ...strokes.map((d) => `<path d="${d}" fill="none" stroke="${ink}" stroke-width="1.4"/>`),
    ...dots.map(([x, y]) => `<circle cx="${x}" cy="${y}" r="3" fill="${ink}"/>`),
    ...texts.map(
      ({ x, y, anchor, words }) =>
        `<text x="${x}" y="${y}" text-anchor="${anchor}" font-size="12" fill="${ink}">${escaped(words)}</text>`,
    ),
  ].join('')}</svg>`;
}
