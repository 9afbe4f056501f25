import type { Explained } from './explain-trace.js';
import { SHAPE_ROOM, shapeSpectrum } from './pulse-shape.js';
import { powerOfTwoFrom, signalOf, spectrumOf } from './spectrum.js';

/** Impedance along a line, layer by layer. */
export interface Profile {
  /** Round trip of one layer, seconds; layer n begins n of them after the launch's leading edge. */
  layerS: number;
  ohm: Float64Array;
}

/** Behind a layer that reflects more than this nothing can be told. */
const MOST_REFLECTION = 0.9;
/** Beyond so many times the nominal impedance, or under so small a part of it, the line has ended. */
const MOST_RATIO = 3.5;
/** The joint at the lead's end is past after so many rises. */
const PAST_JOINT = 2.5;
/** Bins are believed as far as the launch stands out of so many times the noise: peeling heaps errors up. */
const HUSH = 6;
/** Loss is taken back by this factor at the most; beyond it only noise would grow. */
const MOST_GAIN = 20;

/**
 * Impedance along the line by layer peeling: the echo is divided by the launch (shrunk where noise
 * is as strong, Wiener's way), loss is taken back by the way, and layer after layer is taken off
 * with all that it sends to and fro (Schur's recursion):
 * r = u[0] / d[0], Z' = Z (1 + r) / (1 - r).
 *
 * The line behind an open or a short has no profile: it ends there.
 *
 * @param leadS round trip of the lead; behind it the cable is taken for what it is by name
 */
export function impedanceProfile(explained: Explained, nominalOhm: number, leadS = 0): Profile {
  const { trace } = explained;
  // Where the cable begins, its edge past; there it has its nominal impedance, whatever the lead has.
  const begins = leadS > 0 ? Math.ceil(leadS / trace.intervalS + PAST_JOINT * explained.launch.rise) : 0;
  return { layerS: trace.intervalS, ohm: peel(layerResponse(explained), nominalOhm, begins) };
}

/** What the line sends back of a unit launch, sample by sample after it, loss taken back. */
function layerResponse({
  trace,
  fit,
  ground,
  launch,
  noiseV,
}: Pick<Explained, 'trace' | 'fit' | 'ground' | 'launch' | 'noiseV'>): Float64Array {
  const samples = trace.volts.length;
  const size = powerOfTwoFrom(samples * 2);
  const step = fit.launch.shape === 'step';
  // A step is looked at by its differences: they end.
  const level = launch.baselineV + fit.level;
  const own = launchAlone(size, fit.launch);
  const seen = new Float64Array(samples);
  for (let n = 0; n < samples; n++) {
    const here = trace.volts[n]! - level;
    const before = n > 0 ? trace.volts[n - 1]! - level : 0;
    seen[n] = step ? here - before : here;
  }
  const data = spectrumOf(seen, size);
  const noise = samples * noiseV * noiseV * (step ? 2 : 1);
  for (let bin = 0; bin < data.re.length; bin++) {
    const tRe = own.re[bin]!;
    const tIm = own.im[bin]!;
    const power = tRe * tRe + tIm * tIm + HUSH * noise;
    const dRe = data.re[bin]! - tRe;
    const dIm = data.im[bin]! - tIm;
    data.re[bin] = (dRe * tRe + dIm * tIm) / power;
    data.im[bin] = (dIm * tRe - dRe * tIm) / power;
  }
  const response = signalOf(data).slice(0, Math.max(1, Math.floor(samples - fit.launch.at)));
  const loss = lossAtMiddle(ground, fit);
  return response.map((share, n) => share * Math.min(MOST_GAIN, Math.exp(loss * n)));
}

/** The launch's own spectrum at zero damping: a step's differences, a pulse itself. */
function launchAlone(
  size: number,
  shape: Explained['fit']['launch'],
): { re: Float64Array; im: Float64Array } {
  const bins = size / 2 + 1;
  const re = new Float64Array(bins);
  const im = new Float64Array(bins);
  const form = new Float64Array(SHAPE_ROOM);
  for (let bin = 0; bin < bins; bin++) {
    const omega = Math.max((2 * Math.PI * bin) / size, 1e-9);
    shapeSpectrum(shape, 0, omega, form);
    re[bin] = form[0]!;
    im[bin] = form[1]!;
    if (shape.shape === 'pulse') continue;
    // 1 - exp(-j w): from one sample to the next.
    const c = 1 - Math.cos(omega);
    const s = Math.sin(omega);
    re[bin] = form[0]! * c - form[1]! * s;
    im[bin] = form[0]! * s + form[1]! * c;
  }
  return { re, im };
}

/** Loss per sample of way, neper, at the middle of what the launch holds. */
function lossAtMiddle(ground: Explained['ground'], fit: Explained['fit']): number {
  const form = new Float64Array(SHAPE_ROOM);
  let sum = 0;
  let loss = 0;
  ground.omega.forEach((omega, bin) => {
    if (bin === 0) return;
    shapeSpectrum(fit.launch, ground.sigma, omega, form);
    const power = form[0]! ** 2 + form[1]! ** 2;
    sum += power;
    loss += power * ground.lossRe[bin]!;
  });
  return sum > 0 ? (Math.max(0, fit.loss) * loss) / sum : 0;
}

/** Takes layer after layer off an impulse response. */
function peel(response: Float64Array, nominalOhm: number, begins: number): Float64Array {
  const layers = response.length;
  const down = new Float64Array(layers);
  down[0] = 1;
  const up = response.slice();
  const ohm = new Float64Array(layers).fill(NaN);
  let here = nominalOhm;
  let own = nominalOhm;
  for (let layer = 0; layer < layers; layer++) {
    const r = Math.max(-MOST_REFLECTION, Math.min(MOST_REFLECTION, up[0]! / down[0]!));
    here *= (1 + r) / (1 - r);
    ohm[layer] = here;
    if (layer === begins) own = here;
    // An open or a short: what follows are its own echoes.
    if (layer >= begins && !(here > own / MOST_RATIO && here < own * MOST_RATIO)) break;
    const pass = Math.sqrt(1 - r * r);
    const left = layers - layer;
    // Across the border, and through the layer: what comes up is a sample nearer.
    for (let n = 0; n < left; n++) {
      const d = down[n]!;
      const u = up[n]!;
      down[n] = (d - r * u) / pass;
      if (n > 0) up[n - 1] = (u - r * d) / pass;
    }
  }
  return ohm.map((value) => (value * nominalOhm) / own);
}
