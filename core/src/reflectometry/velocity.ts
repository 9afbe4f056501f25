import { NORMAL_95 } from '../chance/normal.js';
import { inverse } from './levenberg.js';
import { LIGHT_M_PER_S, roundTripS } from './line.js';
import type { TraceEvent, TraceReading } from './read-trace.js';

/** A piece of cable of known length, and how long the echo of its end took. */
export interface KnownPiece {
  lengthM: number;
  /** Deviation of the length; a tape over tens of metres is good to a few centimetres. */
  lengthDeviationM: number;
  /** Round trip from launch to echo, the lead's delay included. */
  delayS: number;
  delayDeviationS: number;
}

/** The lead's own round trip, where it is known. */
export interface LeadDelay {
  delayS: number;
  deviationS: number;
}

/** A velocity factor with its uncertainty. */
export interface Velocity {
  velocityFactor: number;
  /** Half width of the 95 % interval. */
  u95: number;
  /** Round trip of everything before the cable: the lead's, as the pieces tell it. */
  offsetS: number;
  /** How far each piece lies off, in deviations; beyond three something is wrong with it. */
  off: number[];
}

/** Velocity that a piece of known length cannot give, and why. */
export class NoVelocity extends Error {}

/** A tape measure's deviation: two millimetres, and half a per mille of the length. */
const TAPE = { fixedM: 0.002, share: 0.0005 };
export const tapedDeviationM = (lengthM: number): number => Math.hypot(TAPE.fixedM, TAPE.share * lengthM);
/** Where in its edge a launch begins is known to this share of the edge, whatever the noise; a longer piece feels it less. */
const FRONT_KNOWN_TO = 0.05;
/** No cable is faster than light in vacuum, and none slower than this. */
const SLOWEST = 0.3;

/** The last open or short of a trace, behind which nothing can lie; null where none is seen. */
export const farEndOf = (events: readonly TraceEvent[]): TraceEvent | null =>
  events.findLast(({ kind }) => kind === 'open' || kind === 'short') ?? null;

/**
 * A taped piece as its trace shows it: the delay is that of the last open or shorted end.
 *
 * @throws NoVelocity where no such end is seen
 */
export function knownPiece(
  {
    events,
    velocityFactor,
    resolutionM,
  }: Pick<TraceReading, 'events' | 'velocityFactor'> & Partial<Pick<TraceReading, 'resolutionM'>>,
  lengthM: number,
): KnownPiece {
  const end = farEndOf(events);
  if (!end)
    throw new NoVelocity('No open or shorted end is seen. Leave the far end open and take the trace again.');
  return {
    lengthM,
    lengthDeviationM: tapedDeviationM(lengthM),
    delayS: end.delayS,
    delayDeviationS: Math.hypot(
      roundTripS(end.budget.timingM / NORMAL_95, velocityFactor),
      FRONT_KNOWN_TO * roundTripS(resolutionM ?? 0, velocityFactor),
    ),
  };
}

/**
 * Velocity factor from pieces of known length, v = 2 L / (t c): from one with the lead's delay taken
 * off; from two or more by the slope of delay against length, which is free of the lead's delay
 * (weighted least squares; a length's deviation counts as the delay it makes).
 *
 * @throws NoVelocity for no piece, pieces of one length, or an answer that no cable can have
 */
export function velocityOf(
  pieces: readonly KnownPiece[],
  lead: LeadDelay = { delayS: 0, deviationS: 0 },
): Velocity {
  const bad = pieces.find(({ lengthM }) => !(lengthM > 0));
  if (bad) throw new NoVelocity(`A piece of ${bad.lengthM} m has no length to measure by.`);
  const velocity = pieces.length === 1 ? fromOne(pieces[0]!, lead) : fromSlope(pieces);
  if (velocity.velocityFactor > 1 || velocity.velocityFactor < SLOWEST)
    throw new NoVelocity(
      `That gives a velocity factor of ${velocity.velocityFactor.toFixed(3)}, which no cable has. Check the lengths, and that the echo is the far end's.`,
    );
  return velocity;
}

function fromOne(
  { lengthM, lengthDeviationM, delayS, delayDeviationS }: KnownPiece,
  lead: LeadDelay,
): Velocity {
  const timeS = delayS - lead.delayS;
  if (!(timeS > 0)) throw new NoVelocity('The echo comes before the lead ends. Check the lead.');
  const velocityFactor = (2 * lengthM) / (timeS * LIGHT_M_PER_S);
  const relative = Math.hypot(
    lengthDeviationM / lengthM,
    Math.hypot(delayDeviationS, lead.deviationS) / timeS,
  );
  return { velocityFactor, u95: NORMAL_95 * velocityFactor * relative, offsetS: lead.delayS, off: [0] };
}

function fromSlope(pieces: readonly KnownPiece[]): Velocity {
  const lengths = pieces.map(({ lengthM }) => lengthM);
  if (pieces.length === 0 || Math.max(...lengths) - Math.min(...lengths) < 0.05 * Math.max(...lengths))
    throw new NoVelocity('The pieces are as good as one length. Take two that differ, the more the better.');
  let slope = 2 / (0.7 * LIGHT_M_PER_S);
  let offset = 0;
  let covariance: Float64Array | null = null;
  const deviationOf = (piece: KnownPiece): number =>
    Math.max(Math.hypot(piece.delayDeviationS, slope * piece.lengthDeviationM), 1e-15);
  // The weights depend on the slope a little: twice over is enough.
  for (let round = 0; round < 3; round++) {
    let s = 0;
    let sx = 0;
    let sxx = 0;
    let sy = 0;
    let sxy = 0;
    for (const piece of pieces) {
      const weight = 1 / deviationOf(piece) ** 2;
      s += weight;
      sx += weight * piece.lengthM;
      sxx += weight * piece.lengthM ** 2;
      sy += weight * piece.delayS;
      sxy += weight * piece.lengthM * piece.delayS;
    }
    covariance = inverse(Float64Array.of(s, sx, sx, sxx));
    if (!covariance)
      throw new NoVelocity('The pieces do not tell slope and lead apart. Take lengths that differ more.');
    offset = covariance[0]! * sy + covariance[1]! * sxy;
    slope = covariance[2]! * sy + covariance[3]! * sxy;
  }
  const off = pieces.map((piece) => (piece.delayS - offset - slope * piece.lengthM) / deviationOf(piece));
  // Pieces that scatter more than they should widen the answer.
  const freedom = pieces.length - 2;
  const scatter = freedom > 0 ? Math.sqrt(Math.max(1, off.reduce((sum, x) => sum + x * x, 0) / freedom)) : 1;
  const velocityFactor = 2 / (slope * LIGHT_M_PER_S);
  const deviation = (velocityFactor * Math.sqrt(covariance![3]!)) / slope;
  return { velocityFactor, u95: NORMAL_95 * scatter * deviation, offsetS: offset, off };
}
