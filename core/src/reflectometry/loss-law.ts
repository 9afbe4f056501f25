import { fitEchoes, gainAlong, type Fit, type LossPrior } from './echo-fit.js';
import { modelOf, type Explanation } from './echo-model.js';
import type { Ground } from './ground.js';
import { SHAPE_ROOM, shapeSpectrum } from './pulse-shape.js';

/** A trace's own law of loss beside the cable's figures. */
export interface LossLaw {
  ground: Ground;
  fit: Fit;
  /** The loss goes with so much more of a power of the frequency than the figures say. */
  bend: number;
  /** The same law on another ground of the same trace. */
  on: (other: Ground) => Ground;
}

/** Laws are met this far from the figures' own: from the pure square root to between it and the linear. */
const BEND_DEVIATION = 0.12;
const MOST_BEND = 0.35;
/** A bend has to make the misfit less by so much, four deviations, or the figures' own law stands. */
const GAINS = 16;
/** A bend small enough for a slope, and the gain that the slope must promise: the promise may fall short. */
const LOOK = 0.01;
const WORTH_A_LOOK = 9;
/** Bends tried to each side, ever nearer. */
const TRIED = [0.12, 0.05, 0.02];
/** Steps of a fit that begins beside where the last one ended. */
const ROUNDS = 12;
/** Echoes fainter than this say nothing of the law. */
const LEAST_SHARE = 0.1;

/**
 * Whether the loss of a line follows another power of the frequency than the cable's figures: the
 * loss's spectrum is bent by (s / pivot)^bend, which stays causal, about the middle of the band in
 * which the farthest strong echo is timed. Each echo's delay then carries how far the bend is
 * known. Null where the figures' own law explains the trace as well.
 */
export function fitLossLaw(ground: Ground, fit: Fit, prior: LossPrior): LossLaw | null {
  const far = fit.echoes.reduce(
    (most, { delay, share, soft }) => (!soft && Math.abs(share) > LEAST_SHARE && delay > most ? delay : most),
    0,
  );
  if (far === 0) return null;
  const pivot = timedAt(ground, fit, far);
  // Most traces follow the figures: a look at the slope alone says so.
  const plain = modelOf(ground, fit);
  const bentModel = modelOf(bentBy(ground, LOOK, pivot), fit);
  const gain = gainAlong(
    ground,
    fit,
    bentModel.map((volt, n) => volt - plain[n]!),
  );
  if (gain < WORTH_A_LOOK) return null;
  const held = (bend: number): number => (bend / BEND_DEVIATION) ** 2;
  const tried = new Map<number, LossLaw>([[0, { ground, fit, bend: 0, on: (other) => other }]]);
  const cost = ({ fit: { misfit }, bend }: LossLaw): number => misfit + held(bend);
  const at = (bend: number, from: Explanation): LossLaw => {
    const known = tried.get(bend);
    if (known) return known;
    const on = (other: Ground): Ground => bentBy(other, bend, pivot);
    const bent = on(ground);
    const law = { ground: bent, fit: fitEchoes(bent, from, prior, ROUNDS), bend, on };
    tried.set(bend, law);
    return law;
  };
  let best = at(0, fit);
  let sides: [LossLaw, LossLaw] = [best, best];
  for (const step of TRIED) {
    sides = [at(best.bend - step, best.fit), at(best.bend + step, best.fit)];
    const vertex = vertexOf(cost(sides[0]), cost(best), cost(sides[1]), step);
    const bend = Math.max(-MOST_BEND, Math.min(MOST_BEND, best.bend + vertex));
    const next = at(bend, best.fit);
    best = [best, ...sides, next].reduce((one, other) => (cost(other) < cost(one) ? other : one));
    // The first look already tells a trace that follows the figures.
    if (step === TRIED[0] && cost(best) > fit.misfit - GAINS) return null;
  }
  if (cost(best) > fit.misfit - GAINS) return null;
  const step = TRIED.at(-1)!;
  const [less, more] = [at(best.bend - step, best.fit), at(best.bend + step, best.fit)];
  const curve = (cost(less) + cost(more) - 2 * cost(best)) / (2 * step * step);
  // What the bent law does not explain either counts as noise.
  const scatter = Math.max(1, best.fit.misfit / ground.volts.length);
  const deviation = curve > 0 ? Math.sqrt(scatter / curve) : BEND_DEVIATION;
  const echoes = best.fit.echoes.map((echo, n) => {
    const slope = (more.fit.echoes[n]!.delay - less.fit.echoes[n]!.delay) / (2 * step);
    return { ...echo, lawDeviation: Math.abs(slope) * Math.min(deviation, BEND_DEVIATION) };
  });
  return { ...best, fit: { ...best.fit, echoes } };
}

/** A fit on a law's ground, its echoes with what the law leaves open: as much per delay as the law's own. */
export function lawHeld(law: LossLaw, fit: Fit): Fit {
  const share = Math.max(
    0,
    ...law.fit.echoes.map(({ delay, lawDeviation = 0 }) => (delay > 0 ? lawDeviation / delay : 0)),
  );
  return {
    ...fit,
    echoes: fit.echoes.map((echo) => ({ ...echo, lawDeviation: share * Math.max(0, echo.delay) })),
  };
}

/** Where the parabola through three costs a step apart has its vertex; half a step where it has none. */
function vertexOf(less: number, here: number, more: number, step: number): number {
  const curve = less - 2 * here + more;
  if (!(curve > 0)) return less < more ? -step : step;
  return Math.max(-2 * step, Math.min(2 * step, (step * (less - more)) / (2 * curve)));
}

/** The frequency by which an echo is timed, radians per sample: the mean of those in it by |T H|^2 w^2. */
function timedAt(ground: Ground, { launch, loss }: Explanation, way: number): number {
  const form = new Float64Array(SHAPE_ROOM);
  let sum = 0;
  let mean = 0;
  ground.omega.forEach((omega, bin) => {
    if (bin === 0) return;
    shapeSpectrum(launch, ground.sigma, omega, form);
    const fade = Math.exp(-2 * Math.max(loss, 0) * ground.lossRe[bin]! * way);
    const weight = (form[0]! ** 2 + form[1]! ** 2) * fade * omega * omega;
    sum += weight;
    mean += weight * omega;
  });
  return sum > 0 ? mean / sum : 1;
}

/** Ground whose loss goes with (s / pivot)^bend more. */
function bentBy(ground: Ground, bend: number, pivot: number): Ground {
  if (bend === 0) return ground;
  const bins = ground.omega.length;
  const lossRe = new Float64Array(bins);
  const lossIm = new Float64Array(bins);
  // The real part at the pivot stays what the figures give.
  const near = Math.min(bins - 1, Math.max(1, Math.round((pivot * ground.size) / (2 * Math.PI))));
  for (let bin = 0; bin < bins; bin++) {
    const omega = ground.omega[bin]!;
    const size = (Math.hypot(ground.sigma, omega) / pivot) ** bend;
    const angle = bend * Math.atan2(omega, ground.sigma);
    const [c, s] = [size * Math.cos(angle), size * Math.sin(angle)];
    lossRe[bin] = ground.lossRe[bin]! * c - ground.lossIm[bin]! * s;
    lossIm[bin] = ground.lossRe[bin]! * s + ground.lossIm[bin]! * c;
  }
  const scale = lossRe[near]! > 0 ? ground.lossRe[near]! / lossRe[near]! : 1;
  return {
    ...ground,
    lossRe: lossRe.map((value) => value * scale),
    lossIm: lossIm.map((value) => value * scale),
  };
}
