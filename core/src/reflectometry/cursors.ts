import { erfc, NORMAL_95 } from '../chance/normal.js';
import { echoDistanceM, lossDb, roundTripS, skinCoefficient, type LineFigures } from './line.js';
import { tapedDeviationM, type KnownPiece } from './velocity.js';

/** Two points of a screen, read by eye: from the launch to its echo. */
export interface CursorReading {
  /** Launch to echo, the lead's delay included. */
  timeS: number;
  /** From edge to edge, or from peak to peak. */
  points: 'edge' | 'peak';
  /** What one division of the screen was worth; null where nobody noted it. */
  perDivisionS: number | null;
  /** How long the echo's edge takes to rise, by eye; null where nobody noted it. */
  edgeS: number | null;
  /** Height of the echo as a share of the launch, negative where it goes the other way; null where not read. */
  echoShare: number | null;
}

/** A time read off a screen, freed of what makes it late. */
export interface CursorTime {
  /** When the front of the echo came, the lead's delay included. */
  frontS: number;
  deviationS: number;
  /** How much later than the front the chosen points are, by the line's loss; taken off in `frontS`. */
  lateS: number;
}

/** A screen is ten divisions wide. */
const DIVISIONS = 10;
/** A cursor sits on one of about so many places across a screen. */
const CURSOR_PLACES = 500;
/** A trace is read to about this share of its edge. */
const EDGE_READ = 1 / 5;
/** An edge that nobody timed is about so many divisions long. */
const EDGE_DIVISIONS = 0.5;
/** Where nobody noted the time per division: the echo stood about half way across. */
const ACROSS = 0.5;
/** Lateness is known from typical loss to about this share of itself, as a deviation. */
const LATE_DOUBT = 0.4;

/** Cursors that cannot be, in words: what is wrong and what to do. */
export class BadCursors extends Error {}

/**
 * What two cursors say about when the front of an echo came. Each cursor is good to
 * hypot(span / 500, edge / 5) / sqrt(3), and there are two. What the line's skin loss adds, by the points
 * that were taken, is reckoned for a line of `lengthM` and taken off.
 *
 * @throws BadCursors for a time that is none
 */
export function readCursors(reading: CursorReading, line: LineFigures, lengthM: number): CursorTime {
  const { timeS, points } = reading;
  if (!(timeS > 0 && Number.isFinite(timeS)))
    throw new BadCursors(
      'The echo has to come after the launch: set the first cursor on the launch and the second on the echo.',
    );
  const spanS = reading.perDivisionS === null ? timeS / ACROSS : reading.perDivisionS * DIVISIONS;
  if (timeS > 1.05 * spanS)
    throw new BadCursors(
      `That time is wider than a screen of ${DIVISIONS} divisions: check the time per division and its unit.`,
    );
  const edgeS = reading.edgeS ?? (spanS / DIVISIONS) * EDGE_DIVISIONS;
  const each = Math.hypot(spanS / CURSOR_PLACES, edgeS * EDGE_READ) / Math.sqrt(3);
  const lateS = latenessS(line, lengthM, points, edgeS);
  return {
    frontS: timeS - lateS,
    deviationS: Math.hypot(each * Math.SQRT2, LATE_DOUBT * lateS),
    lateS,
  };
}

/** The foot of an edge is taken where it is a tenth of the way up. */
const FOOT = 0.1;
const STEPS = 48;
/** An edge seldom is later than a tenth of its way: past this the figures are not those of a cable. */
const MOST_LATE = 0.1;

/**
 * How much later than its front an echo is read, by skin loss alone: a line there and back answers a step with
 * erfc(a / (2 sqrt t)), a = k l / Z0 for an internal impedance of k sqrt(s) per metre. A smooth pulse of
 * this edge comes out with its foot and its top later: by how much, the points that were taken say.
 */
export function latenessS(
  line: LineFigures,
  lengthM: number,
  points: CursorReading['points'],
  edgeS: number,
): number {
  const a = (skinCoefficient(line) * lengthM) / line.impedanceOhm;
  if (a === 0) return 0;
  const { footS, topS } = pulseAfter(a, Math.max(edgeS, 1e-12));
  const late = points === 'edge' ? footS : topS;
  return Math.min(Math.max(late, 0), MOST_LATE * roundTripS(lengthM, line.velocityFactor));
}

/** How late foot and top of a raised cosine, that rises and falls within `edgeS` each, come out of the line. */
function pulseAfter(a: number, edgeS: number): { footS: number; topS: number } {
  const after = (t: number): number => {
    let sum = 0;
    for (let i = 0; i < STEPS; i++) {
      const u = ((i + 0.5) / STEPS) * 2 * edgeS;
      if (u >= t) break;
      sum += Math.sin((Math.PI * u) / edgeS) * erfc(a / (2 * Math.sqrt(t - u)));
    }
    return sum;
  };
  const stepS = edgeS / 100;
  const heights = Array.from({ length: 301 }, (_, i) => after(i * stepS));
  const top = heights.indexOf(Math.max(...heights));
  let foot = top;
  while (foot > 0 && heights[foot]! > FOOT * heights[top]!) foot--;
  const launchFoot = (edgeS / Math.PI) * Math.acos(1 - 2 * FOOT);
  return { footS: foot * stepS - launchFoot, topS: top * stepS - edgeS };
}

/** The round trip of the lead between instrument and cable. */
export interface CursorLead {
  lengthM: number;
  velocityFactor: number;
  deviationM: number;
}

/** A place that cursors give, with the sum a person can check by hand. */
export interface CursorPlace {
  distanceM: number;
  u95M: number;
  budget: { timingM: number; velocityM: number; leadM: number };
  /** By the echo's sign; null where its height was not read. */
  kind: 'open' | 'short' | null;
  lateS: number;
  arithmetic: string;
}

const ns = (s: number): string => (s * 1e9).toFixed(s < 1e-7 ? 2 : 1);
const LIGHT = 0.299792458;
/** The lateness depends on the distance, which depends on the lateness. */
const ROUNDS = 3;

/**
 * Where an echo comes from: d = v (t - t_lead) / 2, its three uncertainties each as half a 95 % interval.
 *
 * @throws BadCursors where the echo comes before the lead ends
 */
export function placeByCursors(
  reading: CursorReading,
  line: LineFigures,
  velocityU95: number,
  lead: CursorLead,
): CursorPlace {
  const leadS = roundTripS(lead.lengthM, lead.velocityFactor);
  const { velocityFactor } = line;
  let distanceM = echoDistanceM(Math.max(reading.timeS - leadS, 0), velocityFactor);
  let time = readCursors(reading, line, distanceM);
  for (let round = 0; round < ROUNDS; round++) {
    distanceM = echoDistanceM(Math.max(time.frontS - leadS, 0), velocityFactor);
    time = readCursors(reading, line, distanceM);
  }
  if (!(time.frontS > leadS))
    throw new BadCursors(
      `The echo comes before the lead of ${lead.lengthM} m ends, after ${ns(leadS)} ns: it is the lead’s own end. Check the lead, or take the next echo.`,
    );
  distanceM = echoDistanceM(time.frontS - leadS, velocityFactor);
  const budget = {
    timingM: NORMAL_95 * echoDistanceM(time.deviationS, velocityFactor),
    velocityM: (distanceM * velocityU95) / velocityFactor,
    leadM: (NORMAL_95 * lead.deviationM * velocityFactor) / lead.velocityFactor,
  };
  const off = [
    ...(time.lateS >= 5e-12 ? [` − ${ns(time.lateS)} late by loss`] : []),
    ...(leadS > 0 ? [` − ${ns(leadS)} in the lead`] : []),
  ].join('');
  return {
    distanceM,
    u95M: Math.hypot(budget.timingM, budget.velocityM, budget.leadM),
    budget,
    kind: signOf(reading.echoShare),
    lateS: time.lateS,
    arithmetic: `${velocityFactor.toFixed(3)} × ${LIGHT.toFixed(4)} m/ns × ${off === '' ? ns(reading.timeS) : `(${ns(reading.timeS)}${off})`} ns / 2 = ${distanceM.toFixed(2)} m`,
  };
}

const signOf = (share: number | null): CursorPlace['kind'] =>
  share === null || share === 0 ? null : share > 0 ? 'open' : 'short';

/**
 * A piece of known length by two cursors on its echo, for {@link velocityOf}: the delay is the front's.
 *
 * @throws BadCursors
 */
export function pieceByCursors(reading: CursorReading, line: LineFigures, lengthM: number): KnownPiece {
  if (!(lengthM > 0)) throw new BadCursors(`A piece of ${lengthM} m has no length to measure by.`);
  const { frontS, deviationS } = readCursors(reading, line, lengthM);
  return {
    lengthM,
    lengthDeviationM: tapedDeviationM(lengthM),
    delayS: frontS,
    delayDeviationS: deviationS,
  };
}

/** A velocity factor's sum as a person checks it: v = 2 d / (c t). */
export function velocityArithmetic(
  lengthM: number,
  delayS: number,
  leadS: number,
  velocityFactor: number,
): string {
  const time = leadS > 0 ? `(${ns(delayS)} − ${ns(leadS)} in the lead)` : ns(delayS);
  return `2 × ${lengthM} m / (${LIGHT.toFixed(4)} m/ns × ${time} ns) = ${velocityFactor.toFixed(3)}`;
}

/** Loss that an echo's height tells. */
export interface EchoLoss {
  dbPer100M: number;
  /** What the line's typical loss would be at that frequency. */
  typicalDbPer100M: number;
  /** The frequency it is about, by the edge: 0.35 / t. */
  aboutHz: number;
}

/**
 * Loss by the height of an echo from an open or short end, there and back: -20 lg |share| over 2 l. Null
 * for a height that no plain end gives.
 */
export function lossByHeight(
  share: number,
  lengthM: number,
  line: LineFigures,
  edgeS: number,
): EchoLoss | null {
  const height = Math.abs(share);
  if (!(height > 0 && height <= 1 && lengthM > 0 && edgeS > 0)) return null;
  const aboutHz = 0.35 / edgeS;
  return {
    dbPer100M: (-20 * Math.log10(height) * 100) / (2 * lengthM),
    typicalDbPer100M: lossDb(line, 100, aboutHz),
    aboutHz,
  };
}
