import { modelOf, type Explanation } from './echo-model.js';
import { inTime, type Ground } from './ground.js';
import { launchSpectra } from './launch-spectrum.js';
import { powerOfTwoFrom, signalOf, spectrumOf, type Spectrum } from './spectrum.js';

/** A place where one more echo would explain what is left over. */
export interface Candidate {
  delay: number;
  share: number;
  /** How far it stands out of the noise, in deviations. */
  standsOut: number;
}

/** Losses tried, as multiples of the loss over the whole record; every delay uses the nearest. */
const LOSS_STEPS = [0, 0.015, 0.05, 0.12, 0.25, 0.5, 1];
/** Slower than this share of a step's record is taken for drift, which says nothing of echoes. */
const DRIFT_BINS = 8;
/** Less of an echo than this share of its energy is not looked for. */
const LEAST_ENERGY = 0.02;
/** No echo is larger, even where the nearest loss tried is less than its own. */
const MOST_SHARE = 4;
/** A step in the last samples cannot be told from drift. */
const STEP_ROOM = 12;
/** Room before a template's launch, samples. */
const BEFORE = 32;

/**
 * Correlates what an explanation leaves over with the launch as each delay's loss would round it,
 * and takes the place that stands out most. A step is looked for in the differences from sample to
 * sample, whitened.
 *
 * @param allowed whether an echo of this share, and so many volts, may be claimed at this delay at all
 */
export function bestCandidate(
  ground: Ground,
  explanation: Explanation,
  allowed: (delay: number, share: number, heightV: number) => boolean,
): Candidate | null {
  const samples = ground.volts.length;
  const { shape } = explanation.launch;
  const model = modelOf(ground, explanation);
  const size = powerOfTwoFrom(samples * 1.5 + BEFORE);
  const seen = (signal: Float64Array): Spectrum =>
    spectrumOf(shape === 'pulse' ? signal : differences(signal), size);
  const left = seen(model.map((volt, n) => ground.volts[n]! - volt));
  const weight = left.re.map((_, bin) => weightOf(shape, bin, size) / ground.noiseV ** 2);
  const at = explanation.launch.at;
  const room = samples - at;
  let best: Candidate | null = null;
  LOSS_STEPS.forEach((step, level) => {
    const launched = launchAfter(ground, explanation, step * room);
    const template = seen(launched);
    const within = shareWithin(launched);
    const heightV = launched.reduce((most, volt) => Math.max(most, Math.abs(volt)), 0);
    const cross: Spectrum = { re: new Float64Array(weight.length), im: new Float64Array(weight.length) };
    let energy = 0;
    for (let bin = 0; bin < weight.length; bin++) {
      const tRe = template.re[bin]!;
      const tIm = template.im[bin]!;
      const rRe = left.re[bin]!;
      const rIm = left.im[bin]!;
      const w = weight[bin]!;
      const sides = bin === 0 || bin === size / 2 ? 1 : 2;
      energy += (sides * w * (tRe * tRe + tIm * tIm)) / size;
      cross.re[bin] = w * (rRe * tRe + rIm * tIm);
      cross.im[bin] = w * (rIm * tRe - rRe * tIm);
    }
    const correlation = signalOf(cross);
    const before = level === 0 ? 0 : Math.sqrt(LOSS_STEPS[level - 1]! * step) * room;
    const next = LOSS_STEPS[level + 1];
    const after = next === undefined ? Infinity : Math.sqrt(step * next) * room;
    // Correlation n is that of a template whose launch, kept at BEFORE, stands at n + BEFORE.
    const from = Math.max(1, Math.ceil(at + before) - BEFORE);
    const last = shape === 'pulse' ? 0 : STEP_ROOM;
    const until = Math.min(samples - BEFORE - last, at + after - BEFORE);
    for (let n = from; n < until; n++) {
      const delay = n + BEFORE - at;
      // Of a pulse cut by the record's end only the part before it counts.
      const here = shape === 'pulse' ? energy * within(samples - n) : energy;
      if (here < LEAST_ENERGY * energy) break;
      const share = correlation[n]! / here;
      const standsOut = Math.abs(correlation[n]!) / Math.sqrt(here);
      if (Math.abs(share) > MOST_SHARE) continue;
      if ((!best || standsOut > best.standsOut) && allowed(delay, share, Math.abs(share) * heightV))
        best = { delay, share, standsOut };
    }
  });
  return best;
}

/** The share of a signal's energy that lies before a sample. */
function shareWithin(signal: Float64Array): (until: number) => number {
  const sums = new Float64Array(signal.length + 1);
  for (let n = 0; n < signal.length; n++) sums[n + 1] = sums[n]! + signal[n]! ** 2;
  return (until) => sums[Math.min(until, signal.length)]! / sums[signal.length]!;
}

function differences(signal: Float64Array): Float64Array {
  const out = new Float64Array(Math.max(0, signal.length - 1));
  for (let n = 0; n < out.length; n++) out[n] = signal[n + 1]! - signal[n]!;
  return out;
}

/** One over the noise's power in a bin, by that of one sample. */
function weightOf(shape: 'pulse' | 'step', bin: number, size: number): number {
  if (shape === 'pulse') return 1;
  return 1 / (4 * Math.sin((Math.PI * bin) / size) ** 2 + ((2 * Math.PI * DRIFT_BINS) / size) ** 2);
}

/** The launch after so many samples of way, put at {@link BEFORE}. */
function launchAfter(ground: Ground, { launch, loss }: Explanation, way: number): Float64Array {
  const { omega, sigma } = ground;
  const re = new Float64Array(omega.length);
  const im = new Float64Array(omega.length);
  const { value } = launchSpectra(ground, launch);
  const least = Math.max(loss, 0.05);
  const shift = launch.at - BEFORE;
  for (let bin = 0; bin < omega.length; bin++) {
    const fade = Math.exp(sigma * shift - least * ground.lossRe[bin]! * way);
    const turn = omega[bin]! * shift - least * ground.lossIm[bin]! * way;
    const hRe = fade * Math.cos(turn);
    const hIm = fade * Math.sin(turn);
    const tRe = value.re[bin]!;
    const tIm = value.im[bin]!;
    re[bin] = tRe * hRe - tIm * hIm;
    im[bin] = tRe * hIm + tIm * hRe;
  }
  return inTime(ground, { re, im })[0];
}
