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
}

/** The launch, the line's behaviour, and the echoes. */
export interface Explanation {
  launch: PulseShape;
  /** Level that the launch stands on, volts. */
  level: number;
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
  /** Covariance of [launch figures, level, tail, loss, (delay, share) per echo]; null where they cannot be told apart. */
  covariance: Float64Array | null;
}

/** Index of the loss in the parameter vector. */
export const lossAt = (shape: PulseShape['shape']): number => figureCount(shape) + 2;
/** Index of an echo's delay; its share comes next. */
export const delayAt = (shape: PulseShape['shape'], echo: number): number => figureCount(shape) + 3 + 2 * echo;

/** A launch's logarithms may move by about so much from where the fit began. */
const SHAPE_DEVIATION = 1.5;
/** The tail is thought to be about what the figures give, or none. */
const TAIL: LossPrior = { mean: 0.7, deviation: 0.5 };
/** Less loss than none, so far as the noise may ask for it; more than a cable can have. */
const LEAST_LOSS = -1;
const MOST_LOSS = 30;

/**
 * Fits launch, loss, and every echo's delay and share together by Levenberg and Marquardt's least
 * squares over the record's samples.
 */
export function fitEchoes(ground: Ground, start: Explanation, prior: LossPrior, rounds = 40): Fit {
  const { shape } = start.launch;
  const anchor = shapeAsVector(start.launch);
  const vector = Float64Array.from([
    ...anchor,
    start.level,
    start.tail,
    start.loss,
    ...start.echoes.flatMap(({ delay, share }) => [delay, share]),
  ]);
  const at = (parameters: Float64Array): Normal => normalEquations(ground, shape, parameters, anchor, prior);
  const { parameters, normal } = minimise(vector, at, rounds);
  const explanation = explanationOf(shape, parameters);
  return { ...explanation, misfit: misfitOf(ground, explanation), covariance: inverse(normal.matrix) };
}

/** Sum of squared residuals over their variance. */
export function misfitOf(ground: Ground, explanation: Explanation): number {
  const model = modelOf(ground, explanation);
  return model.reduce((sum, volt, n) => sum + ((ground.volts[n]! - volt) / ground.noiseV) ** 2, 0);
}

function explanationOf(shape: PulseShape['shape'], parameters: Float64Array): Explanation {
  const figures = figureCount(shape);
  const echoes: Echo[] = [];
  for (let n = figures + 3; n < parameters.length; n += 2)
    echoes.push({ delay: parameters[n]!, share: parameters[n + 1]! });
  return {
    launch: shapeFromVector(shape, parameters),
    level: parameters[figures]!,
    tail: parameters[figures + 1]!,
    loss: parameters[figures + 2]!,
    echoes,
  };
}

function normalEquations(
  ground: Ground,
  shape: PulseShape['shape'],
  parameters: Float64Array,
  anchor: readonly number[],
  prior: LossPrior,
): Normal {
  const size = parameters.length;
  const figures = figureCount(shape);
  const explanation = explanationOf(shape, parameters);
  const { loss, level } = explanation;
  const matrix = new Float64Array(size * size);
  const gradient = new Float64Array(size);
  if (loss < LEAST_LOSS || loss > MOST_LOSS) return { cost: Infinity, matrix, gradient };
  const { model, slopes } = spectraOf(ground, explanation, size);
  // The level's slope is known; the rest come back in time two by two, the model with them.
  const asked = [model, ...slopes.filter((_, n) => n !== figures)];
  const signals: Float64Array[] = [];
  for (let n = 0; n < asked.length; n += 2) signals.push(...inTime(ground, asked[n]!, asked[n + 1]));
  const value = signals[0]!;
  const columns = slopes.map((_, n) => (n === figures ? ground.one : signals[n < figures ? n + 1 : n]!));
  const weight = 1 / ground.noiseV ** 2;
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
  hold(figures + 1, TAIL.mean, TAIL.deviation);
  hold(figures + 2, prior.mean, prior.deviation);
  return { cost: cost / 2, matrix, gradient };
}

function dot(one: Float64Array, other: Float64Array): number {
  let total = 0;
  for (let n = 0; n < other.length; n++) total += one[n]! * other[n]!;
  return total;
}

interface Bins {
  re: Float64Array;
  im: Float64Array;
}

/** The model's spectrum without its level, and its slope by every parameter (none by the level). */
function spectraOf(
  ground: Ground,
  { launch, tail, loss, echoes }: Explanation,
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
  const seen = new Float64Array(6);
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
    for (let n = 0, p = figures + 3; n < echoes.length; n++, p += 2) {
      const { delay, share } = echoes[n]!;
      const fade = Math.exp(rateRe * delay);
      const eRe = fade * Math.cos(rateIm * delay);
      const eIm = fade * Math.sin(rateIm * delay);
      aRe += share * eRe;
      aIm += share * eIm;
      kRe -= share * delay * (eRe * lossRe - eIm * lossIm);
      kIm -= share * delay * (eRe * lossIm + eIm * lossRe);
      slopes[p]!.re[bin] = share * (eRe * rateRe - eIm * rateIm);
      slopes[p]!.im[bin] = share * (eRe * rateIm + eIm * rateRe);
      slopes[p + 1]!.re[bin] = eRe;
      slopes[p + 1]!.im[bin] = eIm;
    }
    const offRe = ground.offRe[bin]!;
    const offIm = ground.offIm[bin]!;
    seenAt(1 + tail * offRe, tail * offIm, aRe, aIm, seen);
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
    // By the tail: dG/dz off; by loss and echoes: dG/dA dA.
    const zRe = seen[4]! * offRe - seen[5]! * offIm;
    const zIm = seen[4]! * offIm + seen[5]! * offRe;
    slopes[figures + 1]!.re[bin] = tRe * zRe - tIm * zIm;
    slopes[figures + 1]!.im[bin] = tRe * zIm + tIm * zRe;
    const uRe = tRe * seen[2]! - tIm * seen[3]!;
    const uIm = tRe * seen[3]! + tIm * seen[2]!;
    slopes[figures + 2]!.re[bin] = uRe * kRe - uIm * kIm;
    slopes[figures + 2]!.im[bin] = uRe * kIm + uIm * kRe;
    for (let p = figures + 3; p < parameters; p++) {
      const slope = slopes[p]!;
      const jRe = slope.re[bin]!;
      const jIm = slope.im[bin]!;
      slope.re[bin] = uRe * jRe - uIm * jIm;
      slope.im[bin] = uRe * jIm + uIm * jRe;
    }
  }
  return { model, slopes };
}

/**
 * What is seen at the tee of a line of impedance z (by its nominal one, which the source has), whose
 * echoes come back as a factor A on the wave sent out, by what a line without loss would show of the
 * wave: G = W (1 + (1 + r) A / (1 - r A)), W = 2 z / (1 + z), r = (1 - z) / (1 + z).
 * Writes G, dG/dA and dG/dz to `out`.
 */
function seenAt(zRe: number, zIm: number, aRe: number, aIm: number, out: Float64Array): void {
  // 2 / (1 + z): what passes from line to source, and 1 + r.
  const nRe = 1 + zRe;
  const n2 = nRe * nRe + zIm * zIm;
  const pRe = (2 * nRe) / n2;
  const pIm = (-2 * zIm) / n2;
  const rRe = pRe - 1;
  const wRe = zRe * pRe - zIm * pIm;
  const wIm = zRe * pIm + zIm * pRe;
  // D = 1 / (1 - r A)
  const mRe = 1 - (rRe * aRe - pIm * aIm);
  const mIm = -(rRe * aIm + pIm * aRe);
  const m2 = mRe * mRe + mIm * mIm;
  const dRe = mRe / m2;
  const dIm = -mIm / m2;
  // B = A D, and 1 + p B
  const bRe = aRe * dRe - aIm * dIm;
  const bIm = aRe * dIm + aIm * dRe;
  const sRe = 1 + pRe * bRe - pIm * bIm;
  const sIm = pRe * bIm + pIm * bRe;
  out[0] = wRe * sRe - wIm * sIm;
  out[1] = wRe * sIm + wIm * sRe;
  // dG/dA = W p D^2
  const d2Re = dRe * dRe - dIm * dIm;
  const d2Im = 2 * dRe * dIm;
  const wpRe = wRe * pRe - wIm * pIm;
  const wpIm = wRe * pIm + wIm * pRe;
  out[2] = wpRe * d2Re - wpIm * d2Im;
  out[3] = wpRe * d2Im + wpIm * d2Re;
  // dW/dz = p^2 / 2 = -dr/dz; dG/dz = p^2 / 2 (1 + p B - W (B + p B^2))
  const qRe = (pRe * pRe - pIm * pIm) / 2;
  const qIm = pRe * pIm;
  const bpRe = bRe * sRe - bIm * sIm;
  const bpIm = bRe * sIm + bIm * sRe;
  const xRe = sRe - (wRe * bpRe - wIm * bpIm);
  const xIm = sIm - (wRe * bpIm + wIm * bpRe);
  out[4] = qRe * xRe - qIm * xIm;
  out[5] = qRe * xIm + qIm * xRe;
}

/** The volts that an explanation gives, sample by sample. */
export function modelOf(ground: Ground, explanation: Explanation): Float64Array {
  const { launch, tail, loss, echoes, level } = explanation;
  const { omega, sigma } = ground;
  const model: Bins = { re: new Float64Array(omega.length), im: new Float64Array(omega.length) };
  const form = new Float64Array(SHAPE_ROOM);
  const seen = new Float64Array(6);
  for (let bin = 0; bin < omega.length; bin++) {
    shapeSpectrum(launch, sigma, omega[bin]!, form);
    const xRe = form[0]! + ground.extraRe[bin]!;
    const xIm = form[1]! + ground.extraIm[bin]!;
    const tRe = xRe * ground.passRe[bin]! - xIm * ground.passIm[bin]!;
    const tIm = xRe * ground.passIm[bin]! + xIm * ground.passRe[bin]!;
    let aRe = 0;
    let aIm = 0;
    for (const { delay, share } of echoes) {
      const fade = share * Math.exp((-sigma - loss * ground.lossRe[bin]!) * delay);
      const turn = (-omega[bin]! - loss * ground.lossIm[bin]!) * delay;
      aRe += fade * Math.cos(turn);
      aIm += fade * Math.sin(turn);
    }
    seenAt(1 + tail * ground.offRe[bin]!, tail * ground.offIm[bin]!, aRe, aIm, seen);
    model.re[bin] = tRe * seen[0]! - tIm * seen[1]!;
    model.im[bin] = tRe * seen[1]! + tIm * seen[0]!;
  }
  return inTime(ground, model)[0].map((volt, n) => volt + level * ground.one[n]!);
}
