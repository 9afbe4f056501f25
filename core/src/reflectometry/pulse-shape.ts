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

/** The figures in the order they stand in a parameter vector; a step has no width. */
export const SHAPE_FIGURES = ['at', 'height', 'logDeviation', 'logLag', 'logRamp', 'logWidth'] as const;
export const figureCount = (shape: 'pulse' | 'step'): number => (shape === 'pulse' ? 6 : 5);

export const shapeAsVector = (shape: PulseShape): number[] =>
  SHAPE_FIGURES.slice(0, figureCount(shape.shape)).map((figure) => shape[figure]);

export function shapeFromVector(shape: 'pulse' | 'step', vector: ArrayLike<number>): PulseShape {
  const [at, height, logDeviation, logLag, logRamp] = Array.from(vector) as [number, number, number, number, number];
  return { shape, at, height, logDeviation, logLag, logRamp, logWidth: shape === 'pulse' ? vector[5]! : 0 };
}

/**
 * Value and derivatives of a shape's spectrum at one frequency (radians per sample), written to
 * `out` as complex numbers: first the value, then one derivative per figure. A step's spectrum is
 * that of its sample-to-sample differences, which end.
 */
export function shapeSpectrum(shape: PulseShape, omega: number, out: Float64Array): void {
  const deviation = Math.exp(shape.logDeviation);
  const lag = Math.exp(shape.logLag);
  const x = (omega * Math.exp(shape.logRamp)) / 2;
  const ramp = Math.abs(x) < 1e-4 ? 1 - (x * x) / 6 : Math.sin(x) / x;
  const rampSlope = Math.abs(x) < 1e-4 ? -(x * x) / 3 : Math.cos(x) - ramp;
  const wd = omega * deviation;
  const smooth = Math.exp((-wd * wd) / 2);
  // The edge: ramp and band limit are even in time, the pole lags behind.
  const wl = omega * lag;
  const pole = 1 / (1 + wl * wl);
  const turn = -omega * shape.at;
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  const edgeRe = smooth * pole * (c + wl * s);
  const edgeIm = smooth * pole * (s - wl * c);
  // What the edge is put on: a box, or a level's differences.
  let bodyRe: number;
  let bodyIm: number;
  let widthRe = 0;
  let widthIm = 0;
  if (shape.shape === 'pulse') {
    const width = Math.exp(shape.logWidth);
    const half = (omega * width) / 2;
    const box = width * (Math.abs(half) < 1e-4 ? 1 - (half * half) / 6 : Math.sin(half) / half);
    bodyRe = box * Math.cos(half);
    bodyIm = -box * Math.sin(half);
    widthRe = width * Math.cos(2 * half);
    widthIm = -width * Math.sin(2 * half);
  } else {
    const half = omega / 2;
    const box = half < 1e-4 ? 1 : Math.sin(half) / half;
    bodyRe = box * Math.cos(half);
    bodyIm = box * Math.sin(half);
  }
  const unitRe = edgeRe * bodyRe - edgeIm * bodyIm;
  const unitIm = edgeRe * bodyIm + edgeIm * bodyRe;
  const h = shape.height;
  const re = h * ramp * unitRe;
  const im = h * ramp * unitIm;
  out[0] = re;
  out[1] = im;
  // at: -j omega
  out[2] = omega * im;
  out[3] = -omega * re;
  // height
  out[4] = ramp * unitRe;
  out[5] = ramp * unitIm;
  // log deviation: -(omega d)^2
  out[6] = -wd * wd * re;
  out[7] = -wd * wd * im;
  // log lag: -j w l / (1 + j w l)
  const lagRe = -wl * wl * pole;
  const lagIm = -wl * pole;
  out[8] = lagRe * re - lagIm * im;
  out[9] = lagRe * im + lagIm * re;
  // log ramp
  out[10] = h * rampSlope * unitRe;
  out[11] = h * rampSlope * unitIm;
  // log width
  out[12] = h * ramp * (edgeRe * widthRe - edgeIm * widthIm);
  out[13] = h * ramp * (edgeRe * widthIm + edgeIm * widthRe);
}

/** Samples from the first to the last twentieth of an edge's rise, about. */
export function edgeSpan(shape: PulseShape): number {
  const deviation = Math.exp(shape.logDeviation);
  const lag = Math.exp(shape.logLag);
  const ramp = Math.exp(shape.logRamp);
  return Math.sqrt((3.3 * deviation) ** 2 + (3 * lag) ** 2 + (0.9 * ramp) ** 2);
}
