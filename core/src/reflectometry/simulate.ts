import { propagationOf, type ComplexFrequencies } from './line.js';
import type { Element, Load, Lumped, Network, Source } from './network.js';
import { signalOf, powerOfTwoFrom, type Spectrum } from './spectrum.js';
import type { Trace } from './trace.js';

/** How the oscilloscope samples. */
export interface Sampling {
  intervalS: number;
  samples: number;
  /** From the first sample to the middle of the launch's leading edge. */
  launchS: number;
}

/** Most points one simulation may take; beyond it the window is refused. */
export const MOST_POINTS = 2 ** 21;
/** An echo that wraps round the window comes back this much smaller. */
const ALIAS = 4e-7;
/** Steps of the simulation in one rise, so that nothing is left of an edge's spectrum where it is cut off. */
const STEPS_PER_RISE = { smooth: 6, ramp: 12 };
/** A ramp's corners are rounded by this many steps. */
const CORNER_STEPS = 1.6;
/** A smooth edge of deviation d rises from 10 to 90 % in 2.563 d. */
export const RISE_PER_DEVIATION = 2.5631;

/**
 * The voltage at the oscilloscope's tee over time. The chain is folded from its far end into the
 * admittance seen at the tee, at the complex frequencies s = sigma + j omega: sigma damps what
 * would wrap round the window by {@link ALIAS} even on a line without loss, and is taken out again
 * in time. Cost: one pass per element and one transform.
 *
 * @throws RangeError when the sampling asks for more than {@link MOST_POINTS} points
 */
export function simulate(network: Network, { intervalS, samples, launchS }: Sampling): Trace {
  const finest = Math.max(network.source.riseS, intervalS / 8) / STEPS_PER_RISE[network.source.edge];
  const oversample = Math.max(1, Math.ceil(intervalS / finest));
  const size = powerOfTwoFrom(samples * oversample * 1.25);
  if (!(size <= MOST_POINTS))
    throw new RangeError(
      `${samples} samples with an edge of ${(network.source.riseS * 1e9).toFixed(2)} ns need ${size} points; the most is ${MOST_POINTS}. Take fewer samples or a slower edge.`,
    );
  const step = intervalS / oversample;
  const sigma = -Math.log(ALIAS) / (size * step);
  const omega = new Float64Array(size / 2 + 1).map((_, bin) => (2 * Math.PI * bin) / (size * step));
  const voltage = teeVoltage(network, { sigma, omega }, launchS, step);
  const signal = signalOf(voltage);
  const volts = new Float64Array(samples);
  for (let n = 0; n < samples; n++) {
    const at = n * oversample;
    volts[n] = (signal[at]! / step) * Math.exp(sigma * at * step);
  }
  return { intervalS, startS: -launchS, volts };
}

/** Spectrum of the voltage at the tee at the given frequencies. */
function teeVoltage(network: Network, s: ComplexFrequencies, launchS: number, stepS: number): Spectrum {
  const seen = seenInto(network.chain, network.load, s);
  const source = sourceSpectrum(network.source, s, launchS, stepS);
  const { inputOhm, inputF } = network.scope;
  const { re, im } = source;
  const zs = network.source.impedanceOhm;
  for (let bin = 0; bin < re.length; bin++) {
    const vRe = seen.vRe[bin]!;
    const vIm = seen.vIm[bin]!;
    // The scope's admittance beside the line's.
    const gRe = 1 / inputOhm + s.sigma * inputF;
    const gIm = s.omega[bin]! * inputF;
    const iRe = seen.iRe[bin]! + vRe * gRe - vIm * gIm;
    const iIm = seen.iIm[bin]! + vRe * gIm + vIm * gRe;
    const dRe = vRe + zs * iRe;
    const dIm = vIm + zs * iIm;
    const d2 = dRe * dRe + dIm * dIm;
    const hRe = (vRe * dRe + vIm * dIm) / d2;
    const hIm = (vIm * dRe - vRe * dIm) / d2;
    const sRe = re[bin]!;
    const sIm = im[bin]!;
    re[bin] = sRe * hRe - sIm * hIm;
    im[bin] = sRe * hIm + sIm * hRe;
  }
  return source;
}

/** Open-circuit voltage of the generator, its leading edge's middle at `launchS`. */
function sourceSpectrum(
  source: Source,
  { sigma, omega }: ComplexFrequencies,
  launchS: number,
  stepS: number,
): Spectrum {
  const bins = omega.length;
  const re = new Float64Array(bins);
  const im = new Float64Array(bins);
  const smooth = source.edge === 'smooth';
  const deviation = smooth ? source.riseS / RISE_PER_DEVIATION : CORNER_STEPS * stepS;
  const half = source.riseS / 0.8 / 2;
  const pulse = source.shape === 'pulse';
  const fall = Math.exp(-sigma * source.widthS);
  const [rampSinh, rampCosh] = [Math.sinh(sigma * half), Math.cosh(sigma * half)];
  const lead = source.volts * Math.exp(-sigma * launchS);
  for (let bin = 0; bin < bins; bin++) {
    const w = omega[bin]!;
    // (1 - exp(-s width)) / s for a pulse, 1 / s for a step.
    const aRe = pulse ? 1 - fall * Math.cos(w * source.widthS) : 1;
    const aIm = pulse ? fall * Math.sin(w * source.widthS) : 0;
    const s2 = sigma * sigma + w * w;
    let re1 = (aRe * sigma + aIm * w) / s2;
    let im1 = (aIm * sigma - aRe * w) / s2;
    if (!smooth) {
      // sinh(s r / 2) / (s r / 2): a ramp of length r centred on the edge.
      const hRe = rampSinh * Math.cos(w * half);
      const hIm = rampCosh * Math.sin(w * half);
      const rRe = (hRe * sigma + hIm * w) / (s2 * half);
      const rIm = (hIm * sigma - hRe * w) / (s2 * half);
      [re1, im1] = [re1 * rRe - im1 * rIm, re1 * rIm + im1 * rRe];
    }
    // The edge's band limit exp((s d)^2 / 2), and the way to the launch exp(-s t).
    const size = lead * Math.exp(((sigma * sigma - w * w) * deviation * deviation) / 2);
    const turn = sigma * w * deviation * deviation - w * launchS;
    const [c, d] = [size * Math.cos(turn), size * Math.sin(turn)];
    re[bin] = re1 * c - im1 * d;
    im[bin] = re1 * d + im1 * c;
  }
  return { re, im };
}

const divide = (aRe: number, aIm: number, bRe: number, bIm: number): [number, number] => {
  const b2 = bRe * bRe + bIm * bIm;
  return [(aRe * bRe + aIm * bIm) / b2, (aIm * bRe - aRe * bIm) / b2];
};

/** Voltage and current at the near side of a chain, up to a common factor that cancels. */
interface Seen {
  vRe: Float64Array;
  vIm: Float64Array;
  iRe: Float64Array;
  iIm: Float64Array;
}

/** Folds a chain from its load to its near side: v and i as a pair, so that an open divides by nothing. */
function seenInto(chain: readonly Element[], load: Load, s: ComplexFrequencies): Seen {
  const seen = atLoad(load, s);
  for (const element of chain.toReversed()) {
    switch (element.kind) {
      case 'line':
        throughLine(seen, element, s);
        break;
      case 'series':
        throughSeries(seen, element, s);
        break;
      case 'shunt':
        pastAdmittance(seen, shuntAdmittance(element, s));
        break;
      case 'stub':
        pastAdmittance(seen, admittanceOf(seenInto(element.chain, element.load, s)));
        break;
    }
  }
  return seen;
}

function atLoad(load: Load, s: ComplexFrequencies): Seen {
  const bins = s.omega.length;
  const seen: Seen = {
    vRe: new Float64Array(bins),
    vIm: new Float64Array(bins),
    iRe: new Float64Array(bins),
    iIm: new Float64Array(bins),
  };
  if (load === 'short') seen.iRe.fill(1);
  else {
    seen.vRe.fill(1);
    if (load !== 'open') pastAdmittance(seen, shuntAdmittance(load, s));
  }
  return seen;
}

/** One length of line; the factor exp(gamma l) / 2 common to v and i is left out. */
function throughLine(
  { vRe, vIm, iRe, iIm }: Seen,
  { line, lengthM }: Extract<Element, { kind: 'line' }>,
  s: ComplexFrequencies,
): void {
  const { gammaRe, gammaIm, impedanceRe, impedanceIm } = propagationOf(line, s);
  for (let bin = 0; bin < vRe.length; bin++) {
    const fade = Math.exp(-2 * gammaRe[bin]! * lengthM);
    const turn = -2 * gammaIm[bin]! * lengthM;
    const eRe = fade * Math.cos(turn);
    const eIm = fade * Math.sin(turn);
    const zRe = impedanceRe[bin]!;
    const zIm = impedanceIm[bin]!;
    const v = vRe[bin]!;
    const vj = vIm[bin]!;
    const ziRe = zRe * iRe[bin]! - zIm * iIm[bin]!;
    const ziIm = zRe * iIm[bin]! + zIm * iRe[bin]!;
    // Waves towards the source (a) and from the load (b), as voltages.
    const aRe = v + ziRe;
    const aIm = vj + ziIm;
    const bRe = (v - ziRe) * eRe - (vj - ziIm) * eIm;
    const bIm = (v - ziRe) * eIm + (vj - ziIm) * eRe;
    vRe[bin] = (aRe + bRe) / 2;
    vIm[bin] = (aIm + bIm) / 2;
    // No pair of numbers is made here: this is where a simulation spends its time.
    const z2 = 2 * (zRe * zRe + zIm * zIm);
    const dRe = aRe - bRe;
    const dIm = aIm - bIm;
    iRe[bin] = (dRe * zRe + dIm * zIm) / z2;
    iIm[bin] = (dIm * zRe - dRe * zIm) / z2;
  }
}

function throughSeries(seen: Seen, { ohm = 0, henry = 0, farad = 0 }: Lumped, s: ComplexFrequencies): void {
  const { vRe, vIm, iRe, iIm } = seen;
  for (let bin = 0; bin < vRe.length; bin++) {
    const w = s.omega[bin]!;
    let zRe = ohm + s.sigma * henry;
    let zIm = w * henry;
    if (farad > 0) {
      const [cRe, cIm] = divide(1, 0, s.sigma * farad, w * farad);
      zRe += cRe;
      zIm += cIm;
    }
    vRe[bin]! += zRe * iRe[bin]! - zIm * iIm[bin]!;
    vIm[bin]! += zRe * iIm[bin]! + zIm * iRe[bin]!;
  }
}

/** Admittance over the bins. */
interface Admittance {
  re: Float64Array;
  im: Float64Array;
}

function shuntAdmittance(
  { ohm, henry, farad = 0 }: Lumped,
  { sigma, omega }: ComplexFrequencies,
): Admittance {
  const re = new Float64Array(omega.length);
  const im = new Float64Array(omega.length);
  for (let bin = 0; bin < omega.length; bin++) {
    const w = omega[bin]!;
    re[bin] = (ohm === undefined ? 0 : 1 / ohm) + sigma * farad;
    im[bin] = w * farad;
    if (henry !== undefined) {
      const [lRe, lIm] = divide(1, 0, sigma * henry, w * henry);
      re[bin]! += lRe;
      im[bin]! += lIm;
    }
  }
  return { re, im };
}

function admittanceOf({ vRe, vIm, iRe, iIm }: Seen): Admittance {
  const re = new Float64Array(vRe.length);
  const im = new Float64Array(vRe.length);
  for (let bin = 0; bin < re.length; bin++) {
    const [yRe, yIm] = divide(iRe[bin]!, iIm[bin]!, vRe[bin]!, vIm[bin]!);
    re[bin] = yRe;
    im[bin] = yIm;
  }
  return { re, im };
}

function pastAdmittance({ vRe, vIm, iRe, iIm }: Seen, { re, im }: Admittance): void {
  for (let bin = 0; bin < vRe.length; bin++) {
    iRe[bin]! += vRe[bin]! * re[bin]! - vIm[bin]! * im[bin]!;
    iIm[bin]! += vRe[bin]! * im[bin]! + vIm[bin]! * re[bin]!;
  }
}
