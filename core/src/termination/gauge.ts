import type { StripPlan } from './strip-plan.js';

/** A straight line of the gauge, millimetres on the paper, from the upper left. */
export interface GaugeLine {
  fromMm: readonly [number, number];
  toMm: readonly [number, number];
  heavy: boolean;
}

export interface GaugeText {
  atMm: readonly [number, number];
  text: string;
}

/** A drawing at true scale, to lay a cable on. */
export interface Gauge {
  widthMm: number;
  heightMm: number;
  lines: readonly GaugeLine[];
  texts: readonly GaugeText[];
}

/** Two bars to check the printer with: 50 mm and 2 in. */
export const PROOF_MM = 50;
export const PROOF_IN_MM = 50.8;
const TICK_MM = 3;

/** Longest cut that a page takes at true scale. */
const PAGE_MM = 170;

/**
 * The strip plan at 1:1, as far as the page takes it; a longer cut is told in words. The cable's end lies at the left stop; each cut is a line across where
 * the blade goes. Below it the two proof bars.
 */
export function trueScaleGauge(given: StripPlan, figure: (mm: number) => string): Gauge {
  const long = given.cuts.filter((cut) => cut.fromEndMm > PAGE_MM);
  const cuts = given.cuts.filter((cut) => cut.fromEndMm <= PAGE_MM);
  const trimMm = long.length === 0 ? given.trimMm : null;
  const longest = Math.max(0, ...cuts.map((cut) => cut.fromEndMm));
  const lines: GaugeLine[] = [];
  const texts: GaugeText[] = [];
  const line = (x1: number, y1: number, x2: number, y2: number, heavy = false): void => {
    lines.push({ fromMm: [x1, y1], toMm: [x2, y2], heavy });
  };
  const widthMm = Math.max(longest, PROOF_IN_MM) + 20;
  // The stop, and the edge along which the cable is laid.
  line(0, 0, 0, 16, true);
  line(0, 16, widthMm, 16);
  for (const { layer, fromEndMm } of cuts) line(fromEndMm, 4, fromEndMm, 20, layer === 'jacket');
  cuts.forEach(({ layer, fromEndMm }, row) => {
    const y = 24 + row * 6;
    line(0, y, fromEndMm, y);
    line(0, y - 1.5, 0, y + 1.5);
    line(fromEndMm, y - 1.5, fromEndMm, y + 1.5);
    texts.push({ atMm: [fromEndMm + 2, y - 1.6], text: `${layer} ${figure(fromEndMm)}` });
  });
  let y = 26 + cuts.length * 6;
  for (const { layer, fromEndMm } of long) {
    texts.push({
      atMm: [0, y - 1.6],
      text: `${layer} ${figure(fromEndMm)}: longer than the page, measure it`,
    });
    y += 6;
  }
  if (trimMm !== null) {
    const at = given.jacketMm - trimMm;
    line(at, 4, at, 20);
    line(at, y, given.jacketMm, y);
    line(at, y - 1.5, at, y + 1.5);
    line(given.jacketMm, y - 1.5, given.jacketMm, y + 1.5);
    texts.push({ atMm: [given.jacketMm + 2, y - 1.6], text: `cut ${figure(trimMm)} from the jacket` });
    y += 6;
  }
  const bar = (lengthMm: number, words: string): void => {
    line(0, y, lengthMm, y, true);
    line(0, y - TICK_MM / 2, 0, y + TICK_MM / 2, true);
    line(lengthMm, y - TICK_MM / 2, lengthMm, y + TICK_MM / 2, true);
    texts.push({ atMm: [lengthMm + 2, y - 1.6], text: words });
    y += 7;
  };
  bar(PROOF_MM, 'this bar is 50 mm: measure it before you trust the gauge');
  bar(PROOF_IN_MM, 'this bar is 2 in');
  return { widthMm, heightMm: y, lines, texts };
}
