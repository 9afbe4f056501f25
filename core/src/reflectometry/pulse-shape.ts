/**
 * A launch as a few figures: a box (a pulse) or a level (a step) whose edges are rounded by a
 * straight ramp, a smooth band limit and one pole. Times in samples; the logarithms keep them positive.
 */
export interface PulseShape {
  shape: 'pulse' | 'step';
  /** Middle of the leading edge before the pole's lag. */
  at: number;
  /** Plateau, volts, with its sign. */
  height: number;
  /** Natural logarithms of: the band limit's deviation, the pole's time, the ramp's length. */
  logDeviation: number;
  logLag: number;
  logRamp: number;
  /** Natural logarithm of the width of a pulse. */
  logWidth: number;
}

/**
 * The figures in the order they stand in a parameter vector; a step has no width. The first is the edge's middle behind the
 * pole, at + lag: a pole moves what it follows by its lag, and a fit that turns one into the other goes straight on.
 */
export const SHAPE_FIGURES = ['at', 'height', 'logDeviation', 'logLag', 'logRamp', 'logWidth'] as const;
export const figureCount = (shape: 'pulse' | 'step'): number => (shape === 'pulse' ? 6 : 5);

export const shapeAsVector = (shape: PulseShape): number[] =>
  SHAPE_FIGURES.slice(0, figureCount(shape.shape)).map((figure) =>
    figure === 'at' ? shape.at + Math.exp(shape.logLag) : shape[figure],
  );

export function shapeFromVector(shape: 'pulse' | 'step', vector: ArrayLike<number>): PulseShape {
  const [middle, height, logDeviation, logLag, logRamp] = Array.from(vector) as [
    number,
    number,
    number,
    number,
    number,
  ];
  return {
    shape,
    at: middle - Math.exp(logLag),
    height,
    logDeviation,
    logLag,
    logRamp,
    logWidth: shape === 'pulse' ? vector[5]! : 0,
  };
}

/** Room for a spectrum's value and one derivative per figure. */
export const SHAPE_ROOM = 14;

/**
 * Value and derivatives of a shape's spectrum at s = sigma + j omega (per sample), written to `out`
 * as complex numbers: first the value, then one derivative per figure, in the order of
 * {@link SHAPE_FIGURES}. `sigma` is above nought for a step, whose level never ends.
 */
export function shapeSpectrum(shape: PulseShape, sigma: number, omega: number, out: Float64Array): void {
  const s2 = sigma * sigma + omega * omega;
  // The ramp: sinh(x) / x, x = s ramp / 2, and x d/dx of it.
  const half = Math.exp(shape.logRamp) / 2;
  const xRe = sigma * half;
  const xIm = omega * half;
  const x2 = s2 * half * half;
  let rampRe = 1 + (xRe * xRe - xIm * xIm) / 6;
  let rampIm = (xRe * xIm) / 3;
  let slopeRe = (xRe * xRe - xIm * xIm) / 3;
  let slopeIm = (2 * xRe * xIm) / 3;
  if (x2 > 1e-6) {
    const c = Math.cos(xIm);
    const n = Math.sin(xIm);
    const up = Math.exp(xRe);
    const sinh = (up - 1 / up) / 2;
    const cosh = (up + 1 / up) / 2;
    const shRe = sinh * c;
    const shIm = cosh * n;
    rampRe = (shRe * xRe + shIm * xIm) / x2;
    rampIm = (shIm * xRe - shRe * xIm) / x2;
    slopeRe = cosh * c - rampRe;
    slopeIm = sinh * n - rampIm;
  }
  // The band limit exp((s d)^2 / 2) and the place exp(-s at), one exponential.
  const d2 = Math.exp(2 * shape.logDeviation);
  const gRe = (sigma * sigma - omega * omega) * d2;
  const gIm = 2 * sigma * omega * d2;
  const size = Math.exp(gRe / 2 - sigma * shape.at);
  const turn = gIm / 2 - omega * shape.at;
  const eRe = size * Math.cos(turn);
  const eIm = size * Math.sin(turn);
  // The pole 1 / (1 + s lag).
  const lag = Math.exp(shape.logLag);
  const nRe = 1 + sigma * lag;
  const nIm = omega * lag;
  const n2 = nRe * nRe + nIm * nIm;
  const edgeRe = (eRe * nRe + eIm * nIm) / n2;
  const edgeIm = (eIm * nRe - eRe * nIm) / n2;
  // What the edge is put on: a box (1 - exp(-s w)) / s, or a level 1 / s.
  let topRe = 1;
  let topIm = 0;
  let widthRe = 0;
  let widthIm = 0;
  if (shape.shape === 'pulse') {
    const width = Math.exp(shape.logWidth);
    const fall = Math.exp(-sigma * width);
    const fRe = fall * Math.cos(omega * width);
    const fIm = -fall * Math.sin(omega * width);
    topRe = 1 - fRe;
    topIm = -fIm;
    widthRe = width * fRe;
    widthIm = width * fIm;
  }
  const bodyRe = (topRe * sigma + topIm * omega) / s2;
  const bodyIm = (topIm * sigma - topRe * omega) / s2;
  const unitRe = edgeRe * bodyRe - edgeIm * bodyIm;
  const unitIm = edgeRe * bodyIm + edgeIm * bodyRe;
  const h = shape.height;
  const oneRe = unitRe * rampRe - unitIm * rampIm;
  const oneIm = unitRe * rampIm + unitIm * rampRe;
  const re = h * oneRe;
  const im = h * oneIm;
  out[0] = re;
  out[1] = im;
  // at: -s
  out[2] = -sigma * re + omega * im;
  out[3] = -sigma * im - omega * re;
  // height
  out[4] = oneRe;
  out[5] = oneIm;
  // log deviation: (s d)^2
  out[6] = gRe * re - gIm * im;
  out[7] = gRe * im + gIm * re;
  // log lag, the middle held: 1 / (1 + s lag) - 1 of the pole, and s lag of the place before it
  const lagRe = nRe / n2 - 1 + sigma * lag;
  const lagIm = -nIm / n2 + nIm;
  out[8] = lagRe * re - lagIm * im;
  out[9] = lagRe * im + lagIm * re;
  // log ramp
  out[10] = h * (unitRe * slopeRe - unitIm * slopeIm);
  out[11] = h * (unitRe * slopeIm + unitIm * slopeRe);
  // log width
  const rRe = rampRe * edgeRe - rampIm * edgeIm;
  const rIm = rampRe * edgeIm + rampIm * edgeRe;
  out[12] = h * (rRe * widthRe - rIm * widthIm);
  out[13] = h * (rRe * widthIm + rIm * widthRe);
}

/** Samples from the first to the last twentieth of an edge's rise, about. */
export function edgeSpan(shape: PulseShape): number {
  const deviation = Math.exp(shape.logDeviation);
  const lag = Math.exp(shape.logLag);
  const ramp = Math.exp(shape.logRamp);
  return Math.sqrt((3.3 * deviation) ** 2 + (3 * lag) ** 2 + (0.9 * ramp) ** 2);
}
