import type { Ground } from '../ground.js';
import { inTime } from '../ground.js';
import { launchSpectra } from '../launch-spectrum.js';
import type { PulseShape } from '../pulse-shape.js';
import { behind, type Chain } from './chain.js';

/** A launch into a chain, and what the wire takes of a wave. */
export interface ChainModel {
  launch: PulseShape;
  /** Level that the launch stands on, volts. */
  level: number;
  /** The source's resistance by the line's nominal impedance. */
  source: number;
  /** Capacitance across the tee (an oscilloscope's input), its time with the line's impedance in samples. */
  input: number;
  /** Loss that is alike at all frequencies (a wire's resistance), per sample of the way, nepers. */
  flat: number;
  /** Loss that grows with the root of the frequency (skin effect): its factor on sqrt(s). */
  skin: number;
  chain: Chain;
}

/**
 * The chain as the tee sees it, by what a line without loss or echo would show, bin by bin: with
 * Z = s L + R + K sqrt(s) and Y = s C the wave number is s q and the impedance q by the nominal one,
 * q = sqrt(1 + 2 flat / s + 2 skin / sqrt(s)), s per sample of the round trip. All that goes to and fro is in it.
 */
export function seenOf(
  ground: Pick<Ground, 'sigma' | 'omega'>,
  { source, input, flat, skin, chain }: Pick<ChainModel, 'source' | 'input' | 'flat' | 'skin' | 'chain'>,
  wire: Wire = wireOf(ground, flat, skin),
): { re: Float64Array; im: Float64Array } {
  const { sigma, omega } = ground;
  const bins = omega.length;
  const out = { re: new Float64Array(bins), im: new Float64Array(bins) };
  const way = wayThrough(chain);
  const fades = way.map((step) => ('length' in step ? fadeOf(ground, wire, step.length) : null));
  // [v re, v im, i re, i im] on the way from the end to the tee.
  const wave = new Float64Array(4);
  for (let bin = 0; bin < bins; bin++) {
    const w = omega[bin] as number;
    const qRe = wire.qRe[bin] as number;
    const qIm = wire.qIm[bin] as number;
    beginAt(wave, chain.end.kind, qRe, qIm);
    for (let n = 0; n < way.length; n++) {
      const fade = fades[n];
      stepOver(wave, way[n] as Step, fade?.re[bin] ?? 0, fade?.im[bin] ?? 0, qRe, qIm);
    }
    // (1 + r) v / (v + r i), and what the input draws of echoes; of the launch it is part of the launch's shape.
    const vRe = wave[0] as number;
    const vIm = wave[1] as number;
    const iRe = wave[2] as number;
    const iIm = wave[3] as number;
    const cRe = sigma * input;
    const cIm = w * input;
    const dRe = vRe + source * (iRe + vRe * cRe - vIm * cIm);
    const dIm = vIm + source * (iIm + vRe * cIm + vIm * cRe);
    const d2 = dRe * dRe + dIm * dIm;
    const hRe = (vRe * dRe + vIm * dIm) / d2;
    const hIm = (vIm * dRe - vRe * dIm) / d2;
    const kRe = 1 + source + source * cRe;
    const kIm = source * cIm;
    out.re[bin] = hRe * kRe - hIm * kIm;
    out.im[bin] = hRe * kIm + hIm * kRe;
  }
  return out;
}

/** Of what a step is: the lead, a part, or the line between a part (-1: the lead or the tee) and the next. */
type Of = 'lead' | { part: number; between: boolean };

/** One step from the end to the tee. */
export type Step = { of: Of } & (
  | { does: 'line'; length: number; by: number }
  | { does: 'branch'; length: number }
  | { does: 'series'; value: number }
  | { does: 'shunt'; value: number }
);

export function wayThrough({ lead, parts, end }: Chain): Step[] {
  const way: Step[] = [];
  let here = end.kind === 'beyond' ? Infinity : end.at;
  const back = (to: number, n: number): void => {
    if (here !== Infinity)
      way.push({ of: { part: n, between: true }, does: 'line', length: here - to, by: 1 });
  };
  for (let n = parts.length - 1; n >= 0; n--) {
    const part = parts[n] as Chain['parts'][number];
    const of = { part: n, between: false };
    back(behind(part), n);
    here = part.at;
    if (part.kind === 'section')
      way.push({ of, does: 'line', length: part.length, by: Math.exp(part.value) });
    else if (part.kind === 'stub') way.push({ of, does: 'branch', length: part.length });
    else way.push({ of, does: part.kind, value: part.value });
  }
  back(lead ? lead.at : 0, -1);
  if (lead) way.push({ of: 'lead', does: 'line', length: lead.at, by: Math.exp(lead.value) });
  return way;
}

/** Takes a wave over one step; the factor e of its length and the wire's impedance q at this frequency. */
export function stepOver(
  wave: Float64Array,
  step: Step,
  eRe: number,
  eIm: number,
  qRe: number,
  qIm: number,
): void {
  if (step.does === 'line') along(wave, eRe, eIm, qRe * step.by, qIm * step.by);
  else if (step.does === 'branch') branch(wave, eRe, eIm, qRe, qIm);
  else if (step.does === 'series') {
    wave[0] = (wave[0] as number) + step.value * (wave[2] as number);
    wave[1] = (wave[1] as number) + step.value * (wave[3] as number);
  } else {
    wave[2] = (wave[2] as number) + step.value * (wave[0] as number);
    wave[3] = (wave[3] as number) + step.value * (wave[1] as number);
  }
}

export function beginAt(wave: Float64Array, end: Chain['end']['kind'], qRe: number, qIm: number): void {
  wave[0] = end === 'short' ? 0 : end === 'beyond' ? qRe : 1;
  wave[1] = end === 'beyond' ? qIm : 0;
  wave[2] = end === 'open' ? 0 : 1;
  wave[3] = 0;
}

/** The wire's impedance by its nominal one, bin by bin, and what lengths of it do to a wave. */
export interface Wire {
  qRe: Float64Array;
  qIm: Float64Array;
  /** Length -> factor on a wave there and back: most lengths are asked for again and again. */
  fades: Map<number, { re: Float64Array; im: Float64Array }>;
}

export function fadeOf(
  { sigma, omega }: Pick<Ground, 'sigma' | 'omega'>,
  { qRe, qIm, fades }: Wire,
  length: number,
): { re: Float64Array; im: Float64Array } {
  const known = fades.get(length);
  if (known) return known;
  const fade = { re: new Float64Array(omega.length), im: new Float64Array(omega.length) };
  for (let bin = 0; bin < omega.length; bin++) {
    const [x, y, w] = [qRe[bin] as number, qIm[bin] as number, omega[bin] as number];
    const size = Math.exp(-(sigma * x - w * y) * length);
    const turn = (sigma * y + w * x) * length;
    fade.re[bin] = size * Math.cos(turn);
    fade.im[bin] = -size * Math.sin(turn);
  }
  fades.set(length, fade);
  return fade;
}

export function wireOf({ sigma, omega }: Pick<Ground, 'sigma' | 'omega'>, flat: number, skin: number): Wire {
  const wire: Wire = {
    qRe: new Float64Array(omega.length),
    qIm: new Float64Array(omega.length),
    fades: new Map(),
  };
  for (let bin = 0; bin < omega.length; bin++) {
    const w = omega[bin] as number;
    // 1 / s and 1 / sqrt(s)
    const s2 = sigma * sigma + w * w;
    const size = Math.sqrt(s2);
    const rootRe = Math.sqrt((size + sigma) / 2);
    const rootIm = Math.sqrt(Math.max(0, (size - sigma) / 2));
    const re = 1 + (2 * flat * sigma) / s2 + (2 * skin * rootRe) / size;
    const im = (-2 * flat * w) / s2 - (2 * skin * rootIm) / size;
    const length = Math.sqrt(re * re + im * im);
    const qRe = Math.sqrt(Math.max(1e-12, (length + re) / 2));
    wire.qRe[bin] = qRe;
    wire.qIm[bin] = im / (2 * qRe);
  }
  return wire;
}

/** Back along a length of line of impedance z, whose way there and back is the factor e. */
function along(wave: Float64Array, eRe: number, eIm: number, zRe: number, zIm: number): void {
  const vRe = wave[0] as number;
  const vIm = wave[1] as number;
  const iRe = wave[2] as number;
  const iIm = wave[3] as number;
  const ziRe = zRe * iRe - zIm * iIm;
  const ziIm = zRe * iIm + zIm * iRe;
  const aRe = vRe + ziRe;
  const aIm = vIm + ziIm;
  const bRe = (vRe - ziRe) * eRe - (vIm - ziIm) * eIm;
  const bIm = (vRe - ziRe) * eIm + (vIm - ziIm) * eRe;
  wave[0] = (aRe + bRe) / 2;
  wave[1] = (aIm + bIm) / 2;
  const z2 = 2 * (zRe * zRe + zIm * zIm);
  wave[2] = ((aRe - bRe) * zRe + (aIm - bIm) * zIm) / z2;
  wave[3] = ((aIm - bIm) * zRe - (aRe - bRe) * zIm) / z2;
}

/** Past a branch, open at its end: i += v (1 - e) / ((1 + e) z). */
function branch(wave: Float64Array, eRe: number, eIm: number, qRe: number, qIm: number): void {
  const dRe = (1 + eRe) * qRe - eIm * qIm;
  const dIm = (1 + eRe) * qIm + eIm * qRe;
  const d2 = dRe * dRe + dIm * dIm;
  const yRe = ((1 - eRe) * dRe - eIm * dIm) / d2;
  const yIm = (-eIm * dRe - (1 - eRe) * dIm) / d2;
  const vRe = wave[0] as number;
  const vIm = wave[1] as number;
  wave[2] = (wave[2] as number) + vRe * yRe - vIm * yIm;
  wave[3] = (wave[3] as number) + vRe * yIm + vIm * yRe;
}

/** Product of two spectra. */
export function times(
  a: { re: Float64Array; im: Float64Array },
  b: { re: Float64Array; im: Float64Array },
): { re: Float64Array; im: Float64Array } {
  const bins = a.re.length;
  const out = { re: new Float64Array(bins), im: new Float64Array(bins) };
  for (let bin = 0; bin < bins; bin++) {
    const [x, y] = [a.re[bin] as number, a.im[bin] as number];
    const [u, v] = [b.re[bin] as number, b.im[bin] as number];
    out.re[bin] = x * u - y * v;
    out.im[bin] = x * v + y * u;
  }
  return out;
}

/** The volts that a launch into a chain gives, sample by sample. */
export function voltsOf(ground: Ground, model: ChainModel): Float64Array {
  const spectrum = times(launchSpectra(ground, model.launch).value, seenOf(ground, model));
  return inTime(ground, spectrum)[0].map((volt, n) => volt + model.level * (ground.one[n] as number));
}
