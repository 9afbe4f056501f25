import { fitEchoes, type Fit, type LossPrior } from './echo-fit.js';
import { modelOf, type Echo } from './echo-model.js';
import { groundOf, type Ground, type Stretch } from './ground.js';
import type { Launch } from './launch.js';
import { edgeSpan, SHAPE_ROOM, shapeSpectrum, type PulseShape } from './pulse-shape.js';
import { powerOfTwoFrom, signalOf, spectrumOf } from './spectrum.js';

/** The launch as learned from the trace. */
export interface LearnedLaunch {
  shape: PulseShape;
  /** What it has beyond the few figures of its shape, sample by sample from `from`; null for nothing. */
  extra: Float64Array | null;
  from: number;
  /** An echo that lies over the launch itself, if that explains it better. */
  near: Echo[];
  loss: number;
  tail: number;
}

/** The misfit may exceed what noise gives by so many of its own deviations. */
const NOISE_ALLOWS = 4;
/** Residual of the plain shape, by the launch's height, that its own form explains; up to the second it mostly does. */
const ONE_THING = { surely: 0.012, mostly: 0.03 };
/** What an echo over the launch has to leave of what was wrong, at most, to be one. */
const OWNS = { mostly: 0.02, else: 0.1 };
/** Starts of an echo over the launch that are followed to the end. */
const FOLLOWED = 3;
/** Delays tried for an echo inside the launch, as shares of its length. */
const NEAR_DELAYS = [0.08, 0.16, 0.25, 0.35, 0.5, 0.65, 0.8];

/** A lead of half or twice the line's impedance. */
const JOINT_SHARES = [1 / 3, -1 / 3];
/** A launch explained by a source or a line that nobody has must be so many times better explained. */
const UNLIKELY_COSTS = 30;

/** Size of a launch's spectrum by radians per sample. */
export function reachOf(shape: PulseShape): (sigma: number, omega: number) => number {
  const form = new Float64Array(SHAPE_ROOM);
  return (sigma, omega) => {
    shapeSpectrum(shape, sigma, omega, form);
    return Math.hypot(form[0]!, form[1]!);
  };
}

/** The launch's samples, as fitted (a step: its differences). */
export function startingShape(launch: Launch): PulseShape {
  const deviation = Math.max(launch.rise / 3.3, 0.3);
  return {
    shape: launch.shape,
    at: launch.edge,
    height: launch.heightV,
    logDeviation: Math.log(deviation),
    logLag: Math.log(deviation / 3),
    logRamp: Math.log(Math.max(launch.rise / 1.6, 0.5)),
    logWidth: Math.log(Math.max(launch.width, 1)),
  };
}

/**
 * Learns the launch from its own stretch of the trace: by a few figures where they explain it to the
 * noise; with an echo over it where that explains it; otherwise with what is left over added sample
 * by sample, as far as it stands out of the noise (Wiener's filter).
 */
export function learnLaunch(
  whole: Stretch,
  launch: Launch,
  prior: LossPrior,
  joint: readonly Echo[] = [],
): LearnedLaunch {
  const from = launch.from;
  const window: Stretch = { ...whole, volts: whole.volts.slice(from, launch.until) };
  const start = startingShape({ ...launch, edge: launch.edge - from });
  const ground = groundOf(window, () => 1);
  const plain = plainFit(ground, start, prior, joint);
  const expected = window.volts.length;
  const limit = expected + NOISE_ALLOWS * Math.sqrt(2 * expected);
  const back = (fit: Fit): PulseShape => ({ ...fit.launch, at: fit.launch.at + from });
  if (plain.misfit <= limit)
    return { shape: back(plain), extra: null, from, near: plain.echoes, loss: prior.mean, tail: plain.tail };
  const wrong = (Math.sqrt(plain.misfit / expected) * whole.noiseV) / Math.abs(plain.launch.height);
  // A launch known to this share of its height is one thing, not two.
  if (wrong < ONE_THING.surely)
    return {
      shape: back(plain),
      extra: leftOver(ground, plain),
      from,
      near: plain.echoes,
      loss: prior.mean,
      tail: plain.tail,
    };
  const near = bestNear(ground, start, prior, expected, launch.shape);
  const most = wrong < ONE_THING.mostly ? OWNS.mostly : OWNS.else;
  // An echo that explains nearly all of what was wrong is an echo, though the shape is not all known.
  const owns = near !== null && near.misfit - expected < most * (plain.misfit - expected);
  if (owns && near.misfit <= limit)
    return { shape: back(near), extra: null, from, near: near.echoes, loss: near.loss, tail: near.tail };
  const best = owns ? near : plain;
  const extra = leftOver(ground, best);
  return {
    shape: back(best),
    extra,
    from,
    near: best.echoes,
    loss: owns ? best.loss : prior.mean,
    tail: best.tail,
  };
}

/** The launch alone; with a lead, from each height that its joint may well have. */
function plainFit(ground: Ground, start: PulseShape, prior: LossPrior, joint: readonly Echo[]): Fit {
  const from = (share: number): Fit => {
    // The launch was taken as high as launch and joint together.
    const launch = { ...start, height: start.height / (1 + share) };
    const echoes = joint.map((echo) => ({ ...echo, share }));
    return fitEchoes(ground, { launch, level: 0, source: 1, tail: 0.7, loss: prior.mean, echoes }, prior, {
      rounds: 60,
    });
  };
  const first = from(0);
  if (joint.length === 0) return first;
  const cost = (fit: Fit): number => (fit.misfit + strained(fit)) * (likely(fit) ? 1 : UNLIKELY_COSTS);
  return JOINT_SHARES.map(from).reduce((best, fit) => (cost(fit) < cost(best) ? fit : best), first);
}

/** How far a fit strains what is known of its echoes: squares of deviations, as misfit counts. */
const strained = ({ echoes }: Fit): number =>
  echoes.reduce((sum, { delay, share, likely: known }) => {
    if (!known) return sum;
    const height = (share - known.share) / known.deviation;
    const place = known.delay ? (delay - known.delay.samples) / known.delay.deviation : 0;
    return sum + height ** 2 + place ** 2;
  }, 0);

/** Whether source and line are such as people use. */
const likely = ({ source, tail, echoes }: Fit): boolean =>
  source > 0.25 && source < 4 && Math.abs(tail) < 2.5 && echoes.every(({ share }) => Math.abs(share) < 0.7);

function bestNear(
  ground: Ground,
  start: PulseShape,
  prior: LossPrior,
  span: number,
  shape: 'pulse' | 'step',
): Fit | null {
  const roughs: Fit[] = [];
  for (const share of [0.8, -0.8, 0.2, -0.2]) {
    for (const place of NEAR_DELAYS) {
      const delay = Math.max(1, place * span);
      // A raised launch was taken as high as launch and echo together, and a pulse as long.
      const height = share > 0 && delay < 0.5 * span ? start.height / (1 + share / 2) : start.height;
      const width = Math.exp(start.logWidth);
      const logWidth = shape === 'pulse' ? Math.log(Math.max(width - delay / 2, width / 3)) : start.logWidth;
      const launch = { ...start, height, logWidth };
      roughs.push(
        fitEchoes(
          ground,
          { launch, level: 0, source: 1, tail: 0.7, loss: prior.mean, echoes: [{ delay, share }] },
          prior,
          { rounds: 12 },
        ),
      );
    }
  }
  // What plays figures against each other fits well now and then: the best of the rest is as likely.
  return roughs
    .filter(sensible)
    .sort((a, b) => a.misfit - b.misfit)
    .slice(0, FOLLOWED)
    .map((rough) => fitEchoes(ground, rough, prior, { rounds: 60 }))
    .filter(sensible)
    .reduce<Fit | null>((best, fit) => (best && best.misfit <= fit.misfit ? best : fit), null);
}

/** Whether a launch with an echo over it is more than a play of figures against each other. */
const sensible = ({ echoes, launch }: Fit): boolean =>
  echoes.every(
    ({ delay, share }) =>
      delay > 0.35 * edgeSpan(launch) &&
      Math.abs(share) < 1.6 &&
      // A box is also two half as long, one after the other.
      !(
        launch.shape === 'pulse' &&
        share > 0.6 &&
        Math.abs(delay - Math.exp(launch.logWidth)) < edgeSpan(launch)
      ),
  );

/** What a fit of the window leaves, shrunk bin by bin to what stands out of the noise. */
function leftOver(ground: Ground, fit: Fit): Float64Array {
  const model = modelOf(ground, fit);
  const samples = model.length;
  const left = model.map((volt, n) => ground.volts[n]! - volt);
  const spectrum = spectrumOf(left, powerOfTwoFrom(2 * samples));
  const bins = spectrum.re.length;
  const power = spectrum.re.map((value, bin) => value * value + spectrum.im[bin]! ** 2);
  const noise = samples * ground.noiseV ** 2;
  for (let bin = 0; bin < bins; bin++) {
    let mean = 0;
    let count = 0;
    for (let k = Math.max(0, bin - 2); k <= Math.min(bins - 1, bin + 2); k++, count++) mean += power[k]!;
    const gain = Math.max(0, 1 - (1.5 * noise * count) / Math.max(mean, 1e-300));
    spectrum.re[bin]! *= gain;
    spectrum.im[bin]! *= gain;
  }
  return signalOf(spectrum).slice(0, samples);
}
