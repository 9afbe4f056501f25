import type { WholeBand } from './band.js';
import { explainedIn, type Explanation } from './echo-fit.js';
import { fullSpectrum } from './launch-shape.js';
import { shapeSpectrum } from './pulse-shape.js';
import { signalOf } from './spectrum.js';

/** A place where one more echo would explain what is left over. */
export interface Candidate {
  delay: number;
  share: number;
  /** How far it stands out of the noise, in deviations. */
  standsOut: number;
}

/** Losses tried, as multiples of the loss over the whole record; every delay uses the nearest. */
const LOSS_STEPS = [0, 0.015, 0.05, 0.12, 0.25, 0.5, 1];

/**
 * Correlates what an explanation leaves over with the launch as each delay's loss would round it,
 * and takes the place that stands out most.
 *
 * @param allowed whether an echo of this share may be claimed at this delay at all
 */
export function bestCandidate(
  band: WholeBand,
  explanation: Explanation,
  samples: number,
  allowed: (delay: number, share: number, energy: number) => boolean,
): Candidate | null {
  const { re, im } = explainedIn(band, explanation);
  const bins = re.length;
  const launchRe = new Float64Array(bins);
  const launchIm = new Float64Array(bins);
  const form = new Float64Array(14);
  for (let bin = 0; bin < bins; bin++) {
    shapeSpectrum({ ...explanation.launch, at: 0 }, band.omega[bin]!, form);
    // The launch's own extra is placed where the launch stands; taken back to the origin with it.
    const turn = band.omega[bin]! * explanation.launch.at;
    const c = Math.cos(turn);
    const s = Math.sin(turn);
    const xRe = band.extraRe[bin]!;
    const xIm = band.extraIm[bin]!;
    launchRe[bin] = form[0]! + xRe * c - xIm * s;
    launchIm[bin] = form[1]! + xRe * s + xIm * c;
  }
  const room = samples - explanation.launch.at;
  const loss = Math.max(explanation.loss, 0.05);
  let best: Candidate | null = null;
  LOSS_STEPS.forEach((step, level) => {
    const through = step * room;
    const crossRe = new Float64Array(bins);
    const crossIm = new Float64Array(bins);
    let energy = 0;
    for (let bin = 0; bin < bins; bin++) {
      const fade = Math.exp(-loss * band.lossRe[bin]! * through);
      const turn = -loss * band.lossIm[bin]! * through;
      const hRe = fade * Math.cos(turn);
      const hIm = fade * Math.sin(turn);
      const tRe = launchRe[bin]! * hRe - launchIm[bin]! * hIm;
      const tIm = launchRe[bin]! * hIm + launchIm[bin]! * hRe;
      const rRe = band.dataRe[bin]! - re[bin]!;
      const rIm = band.dataIm[bin]! - im[bin]!;
      const weight = band.weight[bin]!;
      energy += weight * (tRe * tRe + tIm * tIm);
      // signalOf counts both sides and divides by the size: half the weight, times the size.
      crossRe[bin] = (weight * band.size * (rRe * tRe + rIm * tIm)) / 2;
      crossIm[bin] = (weight * band.size * (rIm * tRe - rRe * tIm)) / 2;
    }
    const correlation = signalOf(fullSpectrum(crossRe, crossIm, band.size, band.first));
    const before = level === 0 ? 0 : Math.sqrt(LOSS_STEPS[level - 1]! * step) * room;
    const next = LOSS_STEPS[level + 1];
    const after = next === undefined ? Infinity : Math.sqrt(step * next) * room;
    const from = Math.ceil(explanation.launch.at + before);
    const until = Math.min(samples, explanation.launch.at + after);
    for (let n = from; n < until; n++) {
      const delay = n - explanation.launch.at;
      const share = correlation[n]! / energy;
      const standsOut = Math.abs(correlation[n]!) / Math.sqrt(energy);
      if ((!best || standsOut > best.standsOut) && allowed(delay, share, energy)) best = { delay, share, standsOut };
    }
  });
  return best;
}
