import { bandOf, fitted, type Stretch, type WholeBand } from './band.js';
import { bestCandidate } from './echo-search.js';
import { explainedIn, fitEchoes, type Fit, type LossPrior } from './echo-fit.js';
import { findLaunch, type Launch } from './launch.js';
import { fullSpectrum, learnLaunch, reachOf, type LearnedLaunch } from './launch-shape.js';
import type { LineFigures } from './line.js';
import { median, noiseLevel, quantumOf } from './noise-level.js';
import { edgeSpan } from './pulse-shape.js';
import { signalOf } from './spectrum.js';
import type { Trace } from './trace.js';

/** What is known of a trace beforehand. */
export interface Known {
  /** The cable's figures; its loss may be far off. */
  line: LineFigures;
  loss: LossPrior;
  shape?: 'pulse' | 'step';
}

/** A trace taken apart into launch and echoes. */
export interface Explained {
  launch: Launch;
  learned: LearnedLaunch;
  fit: Fit;
  band: WholeBand;
  noiseV: number;
  quantumV: number;
  baselineV: number;
  /** What the fit gives and what it leaves, volts, sample by sample. */
  modelV: Float64Array;
}

/**
 * An echo has to stand out by this many deviations: with some thousand places to look at and nothing
 * there, one trace in a thousand shows one.
 */
const STANDS_OUT = 5.2;
/** Nothing under this share of what lies at the same place is claimed: shapes are not known better. */
const SHAPE_KNOWN_TO = 0.035;
/** The most echoes looked for in one trace. */
const MOST_ECHOES = 16;

/**
 * Takes a trace apart: finds and learns the launch, then adds one echo at a time where most is left
 * unexplained, fitting all of them together after each, until nothing stands out of the noise.
 *
 * @throws NoLaunch where there is none
 */
export function explainTrace(trace: Trace, known: Known): Explained {
  const quantumV = quantumOf(trace.volts);
  const noiseV = noiseLevel(trace.volts, quantumV);
  const launch = findLaunch(trace, noiseV, known.shape);
  const flat = (baselineV: number): Stretch => ({
    volts: trace.volts.map((volt) => volt - baselineV),
    shape: launch.shape,
    noiseV,
    intervalS: trace.intervalS,
    line: known.line,
  });
  let baselineV = launch.baselineV;
  const learned = learnLaunch(flat(baselineV), launch, known.loss);
  const samples = trace.volts.length;
  const bandAt = (level: number): WholeBand =>
    bandOf(flat(level), reachOf(learned.shape), learned.extra ? placed(learned, samples) : undefined);
  let band = bandAt(baselineV);
  let fit = fitEchoes(band, { launch: learned.shape, loss: learned.loss, echoes: learned.near }, known.loss);
  fit = addEchoes(band, fit, known.loss, samples);
  // With the echoes known, the quiet parts of the whole trace give its level.
  if (launch.shape === 'pulse') {
    const model = modelOf(band, fit, trace, baselineV, launch.shape);
    const off = median(trace.volts.map((volt, n) => volt - model[n]!));
    if (Math.abs(off) > noiseV / 30) {
      baselineV += off;
      band = bandAt(baselineV);
      fit = addEchoes(band, fitEchoes(band, fit, known.loss), known.loss, samples);
    }
  }
  const modelV = modelOf(band, fit, trace, baselineV, launch.shape);
  return { launch, learned, fit, band, noiseV, quantumV, baselineV, modelV };
}

/** The launch's extra in the whole trace's samples. */
function placed({ extra, from }: LearnedLaunch, samples: number): Float64Array {
  const out = new Float64Array(samples);
  if (extra) out.set(extra.subarray(0, Math.max(0, samples - from)), from);
  return out;
}

function addEchoes(band: WholeBand, start: Fit, prior: LossPrior, samples: number): Fit {
  let fit = start;
  while (fit.echoes.length < MOST_ECHOES) {
    const candidate = bestCandidate(band, fit, samples, claimable(band, fit, samples));
    if (!candidate || candidate.standsOut < STANDS_OUT) return fit;
    const next = fitEchoes(
      band,
      { ...fit, echoes: [...fit.echoes, { delay: candidate.delay, share: candidate.share }] },
      prior,
    );
    // The gain must be what a true echo gives; one that has walked out of the trace is none.
    const added = next.echoes[next.echoes.length - 1]!;
    if (next.misfit > fit.misfit - STANDS_OUT ** 2 || added.delay > samples || added.delay < 0) return fit;
    fit = next;
  }
  return fit;
}

/** Whether an echo is large enough beside what else lies where it would be. */
function claimable(
  band: WholeBand,
  fit: Fit,
  samples: number,
): (delay: number, share: number, energy: number) => boolean {
  const { re, im } = explainedIn(band, fit);
  const model = signalOf(fullSpectrum(re, im, band.size, band.first));
  const length = fit.launch.shape === 'pulse' ? Math.exp(fit.launch.logWidth) : 0;
  const reach = Math.ceil(length + edgeSpan(fit.launch));
  const sums = new Float64Array(band.size + 1);
  for (let n = 0; n < band.size; n++) sums[n + 1] = sums[n]! + model[n]! ** 2;
  const launchFrom = Math.max(0, Math.floor(fit.launch.at - reach / 2));
  const own = sums[Math.min(samples, launchFrom + 2 * reach)]! - sums[launchFrom]!;
  return (delay, share) => {
    const from = Math.max(0, Math.floor(fit.launch.at + delay - reach / 2));
    const there = sums[Math.min(samples, from + 2 * reach)]! - sums[from]!;
    return share * share * own > SHAPE_KNOWN_TO ** 2 * there && delay > edgeSpan(fit.launch) / 3;
  };
}

/** The fit in volts, sample by sample. */
function modelOf(
  band: WholeBand,
  fit: Fit,
  { volts }: Trace,
  baselineV: number,
  shape: 'pulse' | 'step',
): Float64Array {
  const { re, im } = explainedIn(band, fit);
  const signal = signalOf(fullSpectrum(re, im, band.size, band.first));
  const out = new Float64Array(volts.length);
  if (shape === 'pulse') {
    // The bins left out at the slow end are the mean over the transform.
    for (let n = 0; n < out.length; n++) out[n] = signal[n]! + baselineV;
    const lost = meanOf(fitted(volts, 'pulse'), baselineV) - 0;
    void lost;
    return out;
  }
  let level = baselineV;
  for (let n = 0; n < out.length; n++) {
    out[n] = level;
    level += signal[n]!;
  }
  return out;
}

const meanOf = (values: Float64Array, baselineV: number): number =>
  values.reduce((sum, value) => sum + value - baselineV, 0) / values.length;
