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

/** The ways there and back of a ground's echoes at one loss: fits ask again for most of them, while one echo moves. */
const last = new WeakMap<Ground, { loss: number; hard: Map<number, Bins>; soft: Map<number, Bins> }>();
/** Ways kept of one loss. */
const MOST_KEPT = 64;

/** What the way there and back makes of the launch, bin by bin; of a soft end with what it reflects. */
function waysOf(ground: Ground, loss: number, echoes: readonly Echo[]): Bins[] {
  let kept = last.get(ground);
  if (kept?.loss !== loss) {
    kept = { loss, hard: new Map(), soft: new Map() };
    last.set(ground, kept);
  }
  const { hard, soft } = kept;
  return echoes.map((echo) => {
    const ways = echo.soft ? soft : hard;
    const known = ways.get(echo.delay);
    if (known) return known;
    const way = wayOf(ground, loss, echo);
    if (ways.size > MOST_KEPT) ways.clear();
    ways.set(echo.delay, way);
    return way;
  });
}

function wayOf({ omega, sigma, lossRe, lossIm, offRe, offIm }: Ground, loss: number, echo: Echo): Bins {
  const bins = omega.length;
  const way: Bins = { re: new Float64Array(bins), im: new Float64Array(bins) };
  const { delay, soft } = echo;
  const out = new Float64Array(2);
  for (let bin = 0; bin < bins; bin++) {
    const rateRe = (-sigma - loss * lossRe[bin]!) * delay;
    const rateIm = (-omega[bin]! - loss * lossIm[bin]!) * delay;
    wayBack(rateRe, rateIm, soft ? [offRe[bin]!, offIm[bin]!] : null, out);
    way.re[bin] = out[0]!;
    way.im[bin] = out[1]!;
  }
  return way;
}

/** The sum of the echoes as a factor on the launch. */
function sumOf(ways: readonly Bins[], echoes: readonly Echo[], bins: number): Bins {
  const sum: Bins = { re: new Float64Array(bins), im: new Float64Array(bins) };
  ways.forEach(({ re, im }, n) => {
    const { share } = echoes[n]!;
    for (let bin = 0; bin < bins; bin++) {
      sum.re[bin]! += share * re[bin]!;
      sum.im[bin]! += share * im[bin]!;
    }
  });
  return sum;
}

/**
 * The model's spectrum without its level, and its slope by every parameter from one on (none by the level, and none by what
 * comes before that).
 */
export function spectraOf(
  ground: Ground,
  { launch, source, tail, loss, echoes }: Explanation,
  parameters: number,
  from = 0,
): { model: Bins; slopes: Bins[] } {
  const figures = figureCount(launch.shape);
  const { omega, sigma } = ground;
  const bins = omega.length;
  const room = (): Bins => ({ re: new Float64Array(bins), im: new Float64Array(bins) });
  const model = room();
  const slopes = Array.from({ length: parameters }, (_, n) => (n < from ? NONE : room()));
  const launched = launchSpectra(ground, launch);
  const ways = waysOf(ground, loss, echoes);
  const sum = sumOf(ways, echoes, bins);
  // What one more echo adds to what is seen: the launch by dG/dA.
  const adds = room();
  const seen = new Float64Array(8);
  for (let bin = 0; bin < bins; bin++) {
    const tRe = launched.value.re[bin]!;
    const tIm = launched.value.im[bin]!;
    const offRe = ground.offRe[bin]!;
    const offIm = ground.offIm[bin]!;
    seenAt(source, 1 + tail * offRe, tail * offIm, sum.re[bin]!, sum.im[bin]!, seen);
    const gRe = seen[0]!;
    const gIm = seen[1]!;
    model.re[bin] = tRe * gRe - tIm * gIm;
    model.im[bin] = tRe * gIm + tIm * gRe;
    adds.re[bin] = tRe * seen[2]! - tIm * seen[3]!;
    adds.im[bin] = tRe * seen[3]! + tIm * seen[2]!;
    if (from > figures + 3) continue;
    for (let n = from; n < figures; n++) {
      const own = launched.slopes[n]!;
      const fRe = own.re[bin]!;
      const fIm = own.im[bin]!;
      slopes[n]!.re[bin] = fRe * gRe - fIm * gIm;
      slopes[n]!.im[bin] = fRe * gIm + fIm * gRe;
    }
    slopes[figures + 1]!.re[bin] = tRe * seen[6]! - tIm * seen[7]!;
    slopes[figures + 1]!.im[bin] = tRe * seen[7]! + tIm * seen[6]!;
    // By the tail: dG/dz off.
    const zRe = seen[4]! * offRe - seen[5]! * offIm;
    const zIm = seen[4]! * offIm + seen[5]! * offRe;
    slopes[figures + 2]!.re[bin] = tRe * zRe - tIm * zIm;
    slopes[figures + 2]!.im[bin] = tRe * zIm + tIm * zRe;
  }
  const byLoss = from > figures + 3 ? null : slopes[figures + 3]!;
  ways.forEach(({ re, im }, n) => {
    const { delay, share } = echoes[n]!;
    const p = figures + 4 + 2 * n;
    if (p + 1 < from && !byLoss) return;
    const [byDelay, byShare] = [slopes[p]!, slopes[p + 1]!];
    for (let bin = 0; bin < bins; bin++) {
      const uRe = adds.re[bin]!;
      const uIm = adds.im[bin]!;
      const eRe = uRe * re[bin]! - uIm * im[bin]!;
      const eIm = uRe * im[bin]! + uIm * re[bin]!;
      const lossRe = ground.lossRe[bin]!;
      const lossIm = ground.lossIm[bin]!;
      const rateRe = -sigma - loss * lossRe;
      const rateIm = -omega[bin]! - loss * lossIm;
      byDelay.re[bin] = share * (eRe * rateRe - eIm * rateIm);
      byDelay.im[bin] = share * (eRe * rateIm + eIm * rateRe);
      byShare.re[bin] = eRe;
      byShare.im[bin] = eIm;
      if (!byLoss) continue;
      byLoss.re[bin]! -= share * delay * (eRe * lossRe - eIm * lossIm);
      byLoss.im[bin]! -= share * delay * (eRe * lossIm + eIm * lossRe);
    }
  });
  return { model, slopes };
}

/** A slope that nobody asked for. */
const NONE: Bins = { re: new Float64Array(0), im: new Float64Array(0) };

/** The volts that an explanation gives, sample by sample. */
export function modelOf(ground: Ground, explanation: Explanation): Float64Array {
  const { launch, source, tail, loss, echoes, level } = explanation;
  const bins = ground.omega.length;
  const model: Bins = { re: new Float64Array(bins), im: new Float64Array(bins) };
  const { value } = launchSpectra(ground, launch);
  const sum = sumOf(waysOf(ground, loss, echoes), echoes, bins);
  const seen = new Float64Array(8);
  for (let bin = 0; bin < bins; bin++) {
    const tRe = value.re[bin]!;
    const tIm = value.im[bin]!;
    const [offRe, offIm] = [ground.offRe[bin]!, ground.offIm[bin]!];
    seenAt(source, 1 + tail * offRe, tail * offIm, sum.re[bin]!, sum.im[bin]!, seen);
    model.re[bin] = tRe * seen[0]! - tIm * seen[1]!;
    model.im[bin] = tRe * seen[1]! + tIm * seen[0]!;
  }
  return inTime(ground, model)[0].map((volt, n) => volt + level * ground.one[n]!);
}
