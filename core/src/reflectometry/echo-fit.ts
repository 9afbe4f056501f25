import { inverse, minimise, type Normal } from './levenberg.js';
import { figureCount, shapeAsVector, shapeFromVector, shapeSpectrum, type PulseShape } from './pulse-shape.js';

/** One echo of the launch: delay in samples, height as a share of the launch before loss. */
export interface Echo {
  delay: number;
  share: number;
}

/** A trace as it is fitted: the part of its spectrum that the launch reaches. */
export interface Band {
  /** Radians per sample. */
  omega: Float64Array;
  /** The trace (a step: its differences), and what the launch has beyond its few figures. */
  dataRe: Float64Array;
  dataIm: Float64Array;
  extraRe: Float64Array;
  extraIm: Float64Array;
  /** Inverse variance of a bin's real and imaginary part. */
  weight: Float64Array;
  /** Loss and its lag in neper per sample of delay, for a loss of once the cable's figures. */
  lossRe: Float64Array;
  lossIm: Float64Array;
}

/** The launch, the loss as a multiple of the cable's figures, and the echoes. */
export interface Explanation {
  launch: PulseShape;
  loss: number;
  echoes: Echo[];
}

/** What is thought of the loss before the trace is seen. */
export interface LossPrior {
  mean: number;
  deviation: number;
}

export interface Fit extends Explanation {
  /** Sum of squared residuals over their variances, in the band. */
  misfit: number;
  /** Covariance of [launch figures, loss, (delay, share) per echo]; null where they cannot be told apart. */
  covariance: Float64Array | null;
}

/** Index of the loss in the parameter vector. */
export const lossAt = (shape: PulseShape['shape']): number => figureCount(shape);
/** Index of an echo's delay; its share comes next. */
export const delayAt = (shape: PulseShape['shape'], echo: number): number => figureCount(shape) + 1 + 2 * echo;

/** A launch's logarithms may move by about so much from where the fit began. */
const SHAPE_DEVIATION = 1.5;
/** Less loss than none, so far as the noise may ask for it; more than a cable can have. */
const LEAST_LOSS = -1;
const MOST_LOSS = 30;

/**
 * Fits launch, loss, and every echo's delay and share together, in the frequency domain, where a
 * delay is a phase and a lossy line a factor: weighted least squares by Levenberg and Marquardt.
 */
export function fitEchoes(band: Band, start: Explanation, prior: LossPrior, rounds = 40): Fit {
  const { shape } = start.launch;
  const anchor = shapeAsVector(start.launch);
  const vector = Float64Array.from([
    ...anchor,
    start.loss,
    ...start.echoes.flatMap(({ delay, share }) => [delay, share]),
  ]);
  const at = (parameters: Float64Array): Normal => normalEquations(band, shape, parameters, anchor, prior);
  const { parameters, normal } = minimise(vector, at, rounds);
  return {
    ...explanationOf(shape, parameters),
    misfit: misfitOf(band, explanationOf(shape, parameters)),
    covariance: inverse(normal.matrix),
  };
}

function explanationOf(shape: PulseShape['shape'], parameters: Float64Array): Explanation {
  const figures = figureCount(shape);
  const echoes: Echo[] = [];
  for (let n = figures + 1; n < parameters.length; n += 2)
    echoes.push({ delay: parameters[n]!, share: parameters[n + 1]! });
  return { launch: shapeFromVector(shape, parameters), loss: parameters[figures]!, echoes };
}

function normalEquations(
  band: Band,
  shape: PulseShape['shape'],
  parameters: Float64Array,
  anchor: readonly number[],
  prior: LossPrior,
): Normal {
  const size = parameters.length;
  const figures = figureCount(shape);
  const { launch, loss, echoes } = explanationOf(shape, parameters);
  const matrix = new Float64Array(size * size);
  const gradient = new Float64Array(size);
  if (loss < LEAST_LOSS || loss > MOST_LOSS) return { cost: Infinity, matrix, gradient };
  const form = new Float64Array(14);
  const jacobianRe = new Float64Array(size);
  const jacobianIm = new Float64Array(size);
  let cost = 0;
  for (let bin = 0; bin < band.omega.length; bin++) {
    const omega = band.omega[bin]!;
    const lossRe = band.lossRe[bin]!;
    const lossIm = band.lossIm[bin]!;
    shapeSpectrum(launch, omega, form);
    const tRe = form[0]! + band.extraRe[bin]!;
    const tIm = form[1]! + band.extraIm[bin]!;
    // The launch and all its echoes, as a factor on the launch.
    let gRe = 1;
    let gIm = 0;
    let kRe = 0;
    let kIm = 0;
    for (let n = 0; n < echoes.length; n++) {
      const { delay, share } = echoes[n]!;
      const fade = Math.exp(-loss * lossRe * delay);
      const turn = -(omega + loss * lossIm) * delay;
      const eRe = fade * Math.cos(turn);
      const eIm = fade * Math.sin(turn);
      gRe += share * eRe;
      gIm += share * eIm;
      // d/d share = T E; d/d delay = -T a E (j omega + loss * L); d/d loss = -T a E L delay.
      const teRe = tRe * eRe - tIm * eIm;
      const teIm = tRe * eIm + tIm * eRe;
      const rateRe = -loss * lossRe;
      const rateIm = -(omega + loss * lossIm);
      const p = figures + 1 + 2 * n;
      jacobianRe[p] = share * (teRe * rateRe - teIm * rateIm);
      jacobianIm[p] = share * (teRe * rateIm + teIm * rateRe);
      jacobianRe[p + 1] = teRe;
      jacobianIm[p + 1] = teIm;
      kRe -= share * delay * (teRe * lossRe - teIm * lossIm);
      kIm -= share * delay * (teRe * lossIm + teIm * lossRe);
    }
    jacobianRe[figures] = kRe;
    jacobianIm[figures] = kIm;
    for (let n = 0; n < figures; n++) {
      const fRe = form[2 + 2 * n]!;
      const fIm = form[3 + 2 * n]!;
      jacobianRe[n] = fRe * gRe - fIm * gIm;
      jacobianIm[n] = fRe * gIm + fIm * gRe;
    }
    const rRe = band.dataRe[bin]! - (tRe * gRe - tIm * gIm);
    const rIm = band.dataIm[bin]! - (tRe * gIm + tIm * gRe);
    const weight = band.weight[bin]!;
    cost += weight * (rRe * rRe + rIm * rIm);
    for (let i = 0; i < size; i++) {
      const jRe = weight * jacobianRe[i]!;
      const jIm = weight * jacobianIm[i]!;
      gradient[i]! += jRe * rRe + jIm * rIm;
      const row = i * size;
      for (let j = 0; j <= i; j++) matrix[row + j]! += jRe * jacobianRe[j]! + jIm * jacobianIm[j]!;
    }
  }
  for (let i = 0; i < size; i++) for (let j = 0; j < i; j++) matrix[j * size + i] = matrix[i * size + j]!;
  const hold = (index: number, mean: number, deviation: number): void => {
    const off = (mean - parameters[index]!) / deviation;
    cost += off * off;
    gradient[index]! += off / deviation;
    matrix[index * size + index]! += 1 / deviation ** 2;
  };
  for (let n = 2; n < figures; n++) hold(n, anchor[n]!, SHAPE_DEVIATION);
  hold(figures, prior.mean, prior.deviation);
  return { cost: cost / 2, matrix, gradient };
}

/** The spectrum that an explanation gives, in a band. */
export function explainedIn(
  band: Pick<Band, 'omega' | 'extraRe' | 'extraIm' | 'lossRe' | 'lossIm'>,
  { launch, loss, echoes }: Explanation,
): { re: Float64Array; im: Float64Array } {
  const re = new Float64Array(band.omega.length);
  const im = new Float64Array(band.omega.length);
  const form = new Float64Array(14);
  for (let bin = 0; bin < re.length; bin++) {
    const omega = band.omega[bin]!;
    shapeSpectrum(launch, omega, form);
    const tRe = form[0]! + band.extraRe[bin]!;
    const tIm = form[1]! + band.extraIm[bin]!;
    let gRe = 1;
    let gIm = 0;
    for (const { delay, share } of echoes) {
      const fade = share * Math.exp(-loss * band.lossRe[bin]! * delay);
      const turn = -(omega + loss * band.lossIm[bin]!) * delay;
      gRe += fade * Math.cos(turn);
      gIm += fade * Math.sin(turn);
    }
    re[bin] = tRe * gRe - tIm * gIm;
    im[bin] = tRe * gIm + tIm * gRe;
  }
  return { re, im };
}

/** Sum of squared residuals over their variances. */
export function misfitOf(band: Band, explanation: Explanation): number {
  const { re, im } = explainedIn(band, explanation);
  let sum = 0;
  for (let bin = 0; bin < re.length; bin++)
    sum += band.weight[bin]! * ((band.dataRe[bin]! - re[bin]!) ** 2 + (band.dataIm[bin]! - im[bin]!) ** 2);
  return sum;
}
