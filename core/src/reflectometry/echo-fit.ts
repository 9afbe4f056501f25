import { inTime, type Ground } from './ground.js';
import { inverse, minimise, type Normal } from './levenberg.js';
import {
  figureCount,
  SHAPE_ROOM,
  shapeAsVector,
  shapeFromVector,
  shapeSpectrum,
  type PulseShape,
} from './pulse-shape.js';

/** One echo of the launch: delay in samples, height as a share of the launch before loss. */
export interface Echo {
  delay: number;
  share: number;
  /**
   * An end that is matched but for what loss adds to the line's impedance: it reflects only what is
   * slow, r = (1 - z) / (1 + z), of which `share` is the multiple (one for a matched resistor).
   */
  soft?: boolean;
  /** What the share is known to be, where what makes the echo has been told. */
  likely?: { share: number; deviation: number };
}

/** The launch, the line's behaviour, and the echoes. */
export interface Explanation {
  launch: PulseShape;
  /** Level that the launch stands on, volts. */
  level: number;
  /** The source's resistance by the line's nominal impedance. */
  source: number;
  /**
   * How much of the impedance that the loss adds at low frequencies is seen, as a multiple of what
   * the cable's figures give: it draws a tail after the launch and sends echoes out again.
   */
  tail: number;
  /** Loss as a multiple of the cable's figures. */
  loss: number;
  echoes: Echo[];
}

/** What is thought of the loss before the trace is seen. */
export interface LossPrior {
  mean: number;
  deviation: number;
}

export interface Fit extends Explanation {
  /** Sum of squared residuals over their variance. */
  misfit: number;
  /** Covariance of [launch figures, level, source, tail, loss, (delay, share) per echo]; null where they cannot be told apart. */
  covariance: Float64Array | null;
}

/** Index of the loss in the parameter vector. */
export const lossAt = (shape: PulseShape['shape']): number => figureCount(shape) + 3;
/** Index of an echo's delay; its share comes next. */
export const delayAt = (shape: PulseShape['shape'], echo: number): number =>
  figureCount(shape) + 4 + 2 * echo;

/** A launch's logarithms may move by about so much from where the fit began. */
const SHAPE_DEVIATION = 1.5;
/** The tail is thought to be about what the figures give, or none. */
const TAIL: LossPrior = { mean: 0.7, deviation: 0.5 };
/** A pulser is made to match the line, more or less. */
const SOURCE: LossPrior = { mean: 1, deviation: 0.3 };
const LEAST_SOURCE = 0.05;
/** Less loss than none, so far as the noise may ask for it; more than a cable can have. */
const LEAST_LOSS = -1;
const MOST_LOSS = 30;

/** Steps tried with the launch and the line held, while a new echo finds its place. */
const ROUNDS_HELD = 8;
/** A fit that leaves less than this share of what was left before is gone over again. */
const LESS_LEFT = 0.9;

/**
 * Fits launch, line, and every echo's delay and share together by Levenberg and Marquardt's least
 * squares over the record's samples; first the echoes alone, so that the launch does not bend to
 * what a misplaced one leaves over.
 */
export function fitEchoes(ground: Ground, start: Explanation, prior: LossPrior, rounds = 40): Fit {
  const { shape } = start.launch;
  const anchor = shapeAsVector(start.launch);
  const vector = Float64Array.from([
    ...anchor,
    start.level,
    start.source,
    start.tail,
    start.loss,
    ...start.echoes.flatMap(({ delay, share }) => [delay, share]),
  ]);
  const samples = ground.volts.length;
  let noiseV = ground.noiseV;
  const at = (parameters: Float64Array): Normal =>
    normalEquations(ground, start, parameters, anchor, prior, noiseV);
  const firstEcho = delayAt(shape, 0);
  const held = (parameters: Float64Array): Normal => without(at(parameters), firstEcho);
  const placed = start.echoes.length > 0 ? minimise(vector, held, ROUNDS_HELD).parameters : vector;
  // What is not explained yet counts as noise, or launch and line would be bent to explain it.
  const unexplained = (parameters: Float64Array): number =>
    Math.sqrt(Math.max(1, misfitOf(ground, explanationOf(shape, parameters, start.echoes)) / samples));
  noiseV = ground.noiseV * unexplained(placed);
  let { parameters, normal } = minimise(placed, at, rounds);
  const left = ground.noiseV * unexplained(parameters);
  if (left < LESS_LEFT * noiseV) {
    noiseV = left;
    ({ parameters, normal } = minimise(parameters, at, rounds));
  }
  const explanation = explanationOf(shape, parameters, start.echoes);
  return { ...explanation, misfit: misfitOf(ground, explanation), covariance: inverse(normal.matrix) };
}

/** Normal equations in which the first so many parameters stay where they are. */
function without({ cost, matrix, gradient }: Normal, first: number): Normal {
  const size = gradient.length;
  for (let i = 0; i < first; i++) {
    for (let j = 0; j < size; j++) {
      matrix[i * size + j] = 0;
      matrix[j * size + i] = 0;
    }
    matrix[i * size + i] = 1;
    gradient[i] = 0;
  }
  return { cost, matrix, gradient };
}

/** Sum of squared residuals over their variance. */
export function misfitOf(ground: Ground, explanation: Explanation): number {
  const model = modelOf(ground, explanation);
  return model.reduce((sum, volt, n) => sum + ((ground.volts[n]! - volt) / ground.noiseV) ** 2, 0);
}

function explanationOf(
  shape: PulseShape['shape'],
  parameters: Float64Array,
  like: readonly Echo[],
): Explanation {
  const figures = figureCount(shape);
  return {
    launch: shapeFromVector(shape, parameters),
    level: parameters[figures]!,
    source: parameters[figures + 1]!,
    tail: parameters[figures + 2]!,
    loss: parameters[figures + 3]!,
    echoes: like.map((echo, n) => ({
      ...echo,
      delay: parameters[figures + 4 + 2 * n]!,
      share: parameters[figures + 5 + 2 * n]!,
    })),
  };
}

function normalEquations(
  ground: Ground,
  start: Explanation,
  parameters: Float64Array,
  anchor: readonly number[],
  prior: LossPrior,
  noiseV: number,
): Normal {
  const size = parameters.length;
  const { shape } = start.launch;
  const figures = figureCount(shape);
  const explanation = explanationOf(shape, parameters, start.echoes);
  const { loss, level, source } = explanation;
  const matrix = new Float64Array(size * size);
  const gradient = new Float64Array(size);
  if (loss < LEAST_LOSS || loss > MOST_LOSS || source < LEAST_SOURCE)
    return { cost: Infinity, matrix, gradient };
  const { model, slopes } = spectraOf(ground, explanation, size);
  // The level's slope is known; the rest come back in time two by two, the model with them.
  const asked = [model, ...slopes.filter((_, n) => n !== figures)];
  const signals: Float64Array[] = [];
  for (let n = 0; n < asked.length; n += 2) signals.push(...inTime(ground, asked[n]!, asked[n + 1]));
  const value = signals[0]!;
  const columns = slopes.map((_, n) => (n === figures ? ground.one : signals[n < figures ? n + 1 : n]!));
  const weight = 1 / noiseV ** 2;
  const samples = ground.volts.length;
  const residual = new Float64Array(samples);
  let cost = 0;
  for (let n = 0; n < samples; n++) {
    const r = ground.volts[n]! - level * ground.one[n]! - value[n]!;
    residual[n] = r;
    cost += weight * r * r;
  }
  for (let i = 0; i < size; i++) {
    const a = columns[i]!;
    gradient[i] = weight * dot(a, residual);
    for (let j = 0; j <= i; j++) {
      const both = weight * dot(columns[j]!, a);
      matrix[i * size + j] = both;
      matrix[j * size + i] = both;
    }
  }
  const hold = (index: number, mean: number, deviation: number): void => {
    const off = (mean - parameters[index]!) / deviation;
    cost += off * off;
    gradient[index]! += off / deviation;
    matrix[index * size + index]! += 1 / deviation ** 2;
  };
  for (let n = 2; n < figures; n++) hold(n, anchor[n]!, SHAPE_DEVIATION);
  hold(figures, 0, Math.abs(anchor[1]!));
  hold(figures + 1, SOURCE.mean, SOURCE.deviation);
  hold(figures + 2, TAIL.mean, TAIL.deviation);
  hold(figures + 3, prior.mean, prior.deviation);
  start.echoes.forEach(({ likely }, n) => {
    if (likely) hold(delayAt(shape, n) + 1, likely.share, likely.deviation);
  });
  return { cost: cost / 2, matrix, gradient };
}

/** Scalar product, in four sums side by side: one sum would wait for itself. */
function dot(one: Float64Array, other: Float64Array): number {
  const end = other.length;
  let a = 0;
  let b = 0;
  let c = 0;
  let d = 0;
  let n = 0;
  for (; n + 3 < end; n += 4) {
    a += one[n]! * other[n]!;
    b += one[n + 1]! * other[n + 1]!;
    c += one[n + 2]! * other[n + 2]!;
    d += one[n + 3]! * other[n + 3]!;
  }
  for (; n < end; n++) a += one[n]! * other[n]!;
  return a + b + (c + d);
}

interface Bins {
  re: Float64Array;
  im: Float64Array;
}

/** The model's spectrum without its level, and its slope by every parameter (none by the level). */
function spectraOf(
  ground: Ground,
  { launch, source, tail, loss, echoes }: Explanation,
  parameters: number,
): { model: Bins; slopes: Bins[] } {
  const figures = figureCount(launch.shape);
  const { omega, sigma } = ground;
  const bins = omega.length;
  const model: Bins = { re: new Float64Array(bins), im: new Float64Array(bins) };
  const slopes: Bins[] = Array.from({ length: parameters }, () => ({
    re: new Float64Array(bins),
    im: new Float64Array(bins),
  }));
  const form = new Float64Array(SHAPE_ROOM);
  const seen = new Float64Array(8);
  const echoed = new Float64Array(2);
  for (let bin = 0; bin < bins; bin++) {
    shapeSpectrum(launch, sigma, omega[bin]!, form);
    const passRe = ground.passRe[bin]!;
    const passIm = ground.passIm[bin]!;
    form[0]! += ground.extraRe[bin]!;
    form[1]! += ground.extraIm[bin]!;
    for (let n = 0; n < form.length; n += 2) {
      const re = form[n]!;
      form[n] = re * passRe - form[n + 1]! * passIm;
      form[n + 1] = re * passIm + form[n + 1]! * passRe;
    }
    const tRe = form[0]!;
    const tIm = form[1]!;
    const lossRe = ground.lossRe[bin]!;
    const lossIm = ground.lossIm[bin]!;
    const rateRe = -sigma - loss * lossRe;
    const rateIm = -omega[bin]! - loss * lossIm;
    // The sum of the echoes as a factor on the launch, and its slope by the loss.
    let aRe = 0;
    let aIm = 0;
    let kRe = 0;
    let kIm = 0;
    const offRe = ground.offRe[bin]!;
    const offIm = ground.offIm[bin]!;
    for (let n = 0, p = figures + 4; n < echoes.length; n++, p += 2) {
      const { delay, share, soft } = echoes[n]!;
      wayBack(rateRe * delay, rateIm * delay, soft ? [offRe, offIm] : null, echoed);
      const eRe = echoed[0]!;
      const eIm = echoed[1]!;
      aRe += share * eRe;
      aIm += share * eIm;
      kRe -= share * delay * (eRe * lossRe - eIm * lossIm);
      kIm -= share * delay * (eRe * lossIm + eIm * lossRe);
      slopes[p]!.re[bin] = share * (eRe * rateRe - eIm * rateIm);
      slopes[p]!.im[bin] = share * (eRe * rateIm + eIm * rateRe);
      slopes[p + 1]!.re[bin] = eRe;
      slopes[p + 1]!.im[bin] = eIm;
    }
    seenAt(source, 1 + tail * offRe, tail * offIm, aRe, aIm, seen);
    const gRe = seen[0]!;
    const gIm = seen[1]!;
    model.re[bin] = tRe * gRe - tIm * gIm;
    model.im[bin] = tRe * gIm + tIm * gRe;
    for (let n = 0; n < figures; n++) {
      const fRe = form[2 + 2 * n]!;
      const fIm = form[3 + 2 * n]!;
      slopes[n]!.re[bin] = fRe * gRe - fIm * gIm;
      slopes[n]!.im[bin] = fRe * gIm + fIm * gRe;
    }
    slopes[figures + 1]!.re[bin] = tRe * seen[6]! - tIm * seen[7]!;
    slopes[figures + 1]!.im[bin] = tRe * seen[7]! + tIm * seen[6]!;
    // By the tail: dG/dz off; by loss and echoes: dG/dA dA.
    const zRe = seen[4]! * offRe - seen[5]! * offIm;
    const zIm = seen[4]! * offIm + seen[5]! * offRe;
    slopes[figures + 2]!.re[bin] = tRe * zRe - tIm * zIm;
    slopes[figures + 2]!.im[bin] = tRe * zIm + tIm * zRe;
    const uRe = tRe * seen[2]! - tIm * seen[3]!;
    const uIm = tRe * seen[3]! + tIm * seen[2]!;
    slopes[figures + 3]!.re[bin] = uRe * kRe - uIm * kIm;
    slopes[figures + 3]!.im[bin] = uRe * kIm + uIm * kRe;
    for (let p = figures + 4; p < parameters; p++) {
      const slope = slopes[p]!;
      const jRe = slope.re[bin]!;
      const jIm = slope.im[bin]!;
      slope.re[bin] = uRe * jRe - uIm * jIm;
      slope.im[bin] = uRe * jIm + uIm * jRe;
    }
  }
  return { model, slopes };
}

/** The factor of a way there and back, exp(rate), of a soft end with what it reflects: -off / (2 + off). */
function wayBack(
  rateRe: number,
  rateIm: number,
  off: readonly [number, number] | null,
  out: Float64Array,
): void {
  const fade = Math.exp(rateRe);
  const re = fade * Math.cos(rateIm);
  const im = fade * Math.sin(rateIm);
  out[0] = re;
  out[1] = im;
  if (!off) return;
  const [x, y] = off;
  const d2 = (2 + x) ** 2 + y * y;
  const rRe = -(x * (2 + x) + y * y) / d2;
  const rIm = (-2 * y) / d2;
  out[0] = re * rRe - im * rIm;
  out[1] = re * rIm + im * rRe;
}

/**
 * What is seen at the tee of a line of impedance z behind a source of resistance r (both by the
 * line's nominal impedance), whose echoes come back as a factor A on the wave sent out, by what a
 * line without loss would show of the wave:
 * G = W (1 + p A / (1 - q A)), W = z (1 + r) / (r + z), q = (r - z) / (r + z), p = 1 + q.
 * Writes G, dG/dA, dG/dz and dG/dr to `out`.
 */
function seenAt(r: number, zRe: number, zIm: number, aRe: number, aIm: number, out: Float64Array): void {
  // k = 1 / (r + z)
  const nRe = r + zRe;
  const n2 = nRe * nRe + zIm * zIm;
  const kRe = nRe / n2;
  const kIm = -zIm / n2;
  const pRe = 2 * r * kRe;
  const pIm = 2 * r * kIm;
  const qRe = pRe - 1;
  const wRe = (1 + r) * (zRe * kRe - zIm * kIm);
  const wIm = (1 + r) * (zRe * kIm + zIm * kRe);
  // d = 1 / (1 - q A), B = A d, S = 1 + p B
  const mRe = 1 - (qRe * aRe - pIm * aIm);
  const mIm = -(qRe * aIm + pIm * aRe);
  const m2 = mRe * mRe + mIm * mIm;
  const dRe = mRe / m2;
  const dIm = -mIm / m2;
  const bRe = aRe * dRe - aIm * dIm;
  const bIm = aRe * dIm + aIm * dRe;
  const sRe = 1 + pRe * bRe - pIm * bIm;
  const sIm = pRe * bIm + pIm * bRe;
  out[0] = wRe * sRe - wIm * sIm;
  out[1] = wRe * sIm + wIm * sRe;
  // dG/dA = W p d^2
  const d2Re = dRe * dRe - dIm * dIm;
  const d2Im = 2 * dRe * dIm;
  const wpRe = wRe * pRe - wIm * pIm;
  const wpIm = wRe * pIm + wIm * pRe;
  out[2] = wpRe * d2Re - wpIm * d2Im;
  out[3] = wpRe * d2Im + wpIm * d2Re;
  // dS/dq = B + p B^2 = B S
  const bsRe = bRe * sRe - bIm * sIm;
  const bsIm = bRe * sIm + bIm * sRe;
  const wbRe = wRe * bsRe - wIm * bsIm;
  const wbIm = wRe * bsIm + wIm * bsRe;
  const k2Re = kRe * kRe - kIm * kIm;
  const k2Im = 2 * kRe * kIm;
  // dW/dz = r (1 + r) k^2, dq/dz = -2 r k^2
  const xRe = r * ((1 + r) * sRe - 2 * wbRe);
  const xIm = r * ((1 + r) * sIm - 2 * wbIm);
  out[4] = k2Re * xRe - k2Im * xIm;
  out[5] = k2Re * xIm + k2Im * xRe;
  // dW/dr = z (z - 1) k^2, dq/dr = 2 z k^2
  const yRe = (zRe - 1) * sRe - zIm * sIm + 2 * wbRe;
  const yIm = (zRe - 1) * sIm + zIm * sRe + 2 * wbIm;
  const zkRe = zRe * k2Re - zIm * k2Im;
  const zkIm = zRe * k2Im + zIm * k2Re;
  out[6] = zkRe * yRe - zkIm * yIm;
  out[7] = zkRe * yIm + zkIm * yRe;
}

/** The volts that an explanation gives, sample by sample. */
export function modelOf(ground: Ground, explanation: Explanation): Float64Array {
  const { launch, source, tail, loss, echoes, level } = explanation;
  const { omega, sigma } = ground;
  const model: Bins = { re: new Float64Array(omega.length), im: new Float64Array(omega.length) };
  const form = new Float64Array(SHAPE_ROOM);
  const seen = new Float64Array(8);
  const echoed = new Float64Array(2);
  for (let bin = 0; bin < omega.length; bin++) {
    shapeSpectrum(launch, sigma, omega[bin]!, form);
    const xRe = form[0]! + ground.extraRe[bin]!;
    const xIm = form[1]! + ground.extraIm[bin]!;
    const tRe = xRe * ground.passRe[bin]! - xIm * ground.passIm[bin]!;
    const tIm = xRe * ground.passIm[bin]! + xIm * ground.passRe[bin]!;
    let aRe = 0;
    let aIm = 0;
    const offRe = ground.offRe[bin]!;
    const offIm = ground.offIm[bin]!;
    for (const { delay, share, soft } of echoes) {
      const rateRe = (-sigma - loss * ground.lossRe[bin]!) * delay;
      const rateIm = (-omega[bin]! - loss * ground.lossIm[bin]!) * delay;
      wayBack(rateRe, rateIm, soft ? [offRe, offIm] : null, echoed);
      aRe += share * echoed[0]!;
      aIm += share * echoed[1]!;
    }
    seenAt(source, 1 + tail * offRe, tail * offIm, aRe, aIm, seen);
    model.re[bin] = tRe * seen[0]! - tIm * seen[1]!;
    model.im[bin] = tRe * seen[1]! + tIm * seen[0]!;
  }
  return inTime(ground, model)[0].map((volt, n) => volt + level * ground.one[n]!);
}
