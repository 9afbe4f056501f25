import { inTime, type Ground } from './ground.js';
import { launchSpectra } from './launch-spectrum.js';
import { figureCount, type PulseShape } from './pulse-shape.js';
import { seenAt, wayBack } from './tee.js';

/** One echo of the launch: delay in samples, height as a share of the launch before loss. */
export interface Echo {
  delay: number;
  share: number;
  /**
   * An end that is matched but for what loss adds to the line's impedance: it reflects only what is
   * slow, r = (1 - z) / (1 + z), of which `share` is the multiple (one for a matched resistor).
   */
  soft?: boolean;
  /** What is known of it beforehand, each with its deviation. */
  likely?: { share: number; deviation: number; delay?: { samples: number; deviation: number } };
  /** The joint at the lead's far end: always reckoned with, an event only where it stands out. */
  joint?: boolean;
}

/** The launch, the line's behaviour, and the echoes. */
export interface Explanation {
  launch: PulseShape;
  /** Level that the launch stands on, volts. */
  level: number;
  /** The source's resistance by the line's nominal impedance. */
  source: number;
  /**
   * How much of the impedance that the loss adds at low frequencies is seen, as a multiple of what
   * the cable's figures give: it draws a tail after the launch and sends echoes out again.
   */
  tail: number;
  /** Loss as a multiple of the cable's figures. */
  loss: number;
  echoes: Echo[];
}

export interface Bins {
  re: Float64Array;
  im: Float64Array;
}

/** The model's spectrum without its level, and its slope by every parameter (none by the level). */
export function spectraOf(
  ground: Ground,
  { launch, source, tail, loss, echoes }: Explanation,
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
  const launched = launchSpectra(ground, launch);
  const seen = new Float64Array(8);
  const echoed = new Float64Array(2);
  for (let bin = 0; bin < bins; bin++) {
    const tRe = launched.value.re[bin]!;
    const tIm = launched.value.im[bin]!;
    const lossRe = ground.lossRe[bin]!;
    const lossIm = ground.lossIm[bin]!;
    const rateRe = -sigma - loss * lossRe;
    const rateIm = -omega[bin]! - loss * lossIm;
    // The sum of the echoes as a factor on the launch, and its slope by the loss.
    let aRe = 0;
    let aIm = 0;
    let kRe = 0;
    let kIm = 0;
    const offRe = ground.offRe[bin]!;
    const offIm = ground.offIm[bin]!;
    for (let n = 0, p = figures + 4; n < echoes.length; n++, p += 2) {
      const { delay, share, soft } = echoes[n]!;
      wayBack(rateRe * delay, rateIm * delay, soft ? [offRe, offIm] : null, echoed);
      const eRe = echoed[0]!;
      const eIm = echoed[1]!;
      aRe += share * eRe;
      aIm += share * eIm;
      kRe -= share * delay * (eRe * lossRe - eIm * lossIm);
      kIm -= share * delay * (eRe * lossIm + eIm * lossRe);
      slopes[p]!.re[bin] = share * (eRe * rateRe - eIm * rateIm);
      slopes[p]!.im[bin] = share * (eRe * rateIm + eIm * rateRe);
      slopes[p + 1]!.re[bin] = eRe;
      slopes[p + 1]!.im[bin] = eIm;
    }
    seenAt(source, 1 + tail * offRe, tail * offIm, aRe, aIm, seen);
    const gRe = seen[0]!;
    const gIm = seen[1]!;
    model.re[bin] = tRe * gRe - tIm * gIm;
    model.im[bin] = tRe * gIm + tIm * gRe;
    for (let n = 0; n < figures; n++) {
      const own = launched.slopes[n]!;
      const fRe = own.re[bin]!;
      const fIm = own.im[bin]!;
      slopes[n]!.re[bin] = fRe * gRe - fIm * gIm;
      slopes[n]!.im[bin] = fRe * gIm + fIm * gRe;
    }
    slopes[figures + 1]!.re[bin] = tRe * seen[6]! - tIm * seen[7]!;
    slopes[figures + 1]!.im[bin] = tRe * seen[7]! + tIm * seen[6]!;
    // By the tail: dG/dz off; by loss and echoes: dG/dA dA.
    const zRe = seen[4]! * offRe - seen[5]! * offIm;
    const zIm = seen[4]! * offIm + seen[5]! * offRe;
    slopes[figures + 2]!.re[bin] = tRe * zRe - tIm * zIm;
    slopes[figures + 2]!.im[bin] = tRe * zIm + tIm * zRe;
    const uRe = tRe * seen[2]! - tIm * seen[3]!;
    const uIm = tRe * seen[3]! + tIm * seen[2]!;
    slopes[figures + 3]!.re[bin] = uRe * kRe - uIm * kIm;
    slopes[figures + 3]!.im[bin] = uRe * kIm + uIm * kRe;
    for (let p = figures + 4; p < parameters; p++) {
      const slope = slopes[p]!;
      const jRe = slope.re[bin]!;
      const jIm = slope.im[bin]!;
      slope.re[bin] = uRe * jRe - uIm * jIm;
      slope.im[bin] = uRe * jIm + uIm * jRe;
    }
  }
  return { model, slopes };
}

/** The volts that an explanation gives, sample by sample. */
export function modelOf(ground: Ground, explanation: Explanation): Float64Array {
  const { launch, source, tail, loss, echoes, level } = explanation;
  const { omega, sigma } = ground;
  const model: Bins = { re: new Float64Array(omega.length), im: new Float64Array(omega.length) };
  const { value } = launchSpectra(ground, launch);
  const seen = new Float64Array(8);
  const echoed = new Float64Array(2);
  for (let bin = 0; bin < omega.length; bin++) {
    const tRe = value.re[bin]!;
    const tIm = value.im[bin]!;
    let aRe = 0;
    let aIm = 0;
    const offRe = ground.offRe[bin]!;
    const offIm = ground.offIm[bin]!;
    for (const { delay, share, soft } of echoes) {
      const rateRe = (-sigma - loss * ground.lossRe[bin]!) * delay;
      const rateIm = (-omega[bin]! - loss * ground.lossIm[bin]!) * delay;
      wayBack(rateRe, rateIm, soft ? [offRe, offIm] : null, echoed);
      aRe += share * echoed[0]!;
      aIm += share * echoed[1]!;
    }
    seenAt(source, 1 + tail * offRe, tail * offIm, aRe, aIm, seen);
    model.re[bin] = tRe * seen[0]! - tIm * seen[1]!;
    model.im[bin] = tRe * seen[1]! + tIm * seen[0]!;
  }
  return inTime(ground, model)[0].map((volt, n) => volt + level * ground.one[n]!);
}
