import { HOP_S, LONG_S, SHORT_S, Spectrogram, type Frame } from './spectrogram.js';
import type { Tone } from './tone.js';

/** What an ear makes of a moment. */
export interface Moment {
  atS: number;
  /** How clear the tone stands, by what it takes to count: from 1 on it may be it. */
  clear: number;
  /** Its power by that of the tone as taught. */
  level: number;
  sounding: boolean;
}

/** The tone came or went: when, and when that could be said, both on the sound's own time. */
export interface Edge {
  kind: 'on' | 'off';
  atS: number;
  saidS: number;
}

/** A steady line has to stand over the mean of the bins about it by this factor. */
const LINE_STANDS = 9;
/** Bins about a line that tell its noise: from and to, either side. */
const NOISE_BINS = [5, 20] as const;
/**
 * Of a voice's overtones or a gear's no line stands alone: it has to have so many times the second strongest other within so
 * many hertz. The strongest may be another meter.
 */
const STANDS_ALONE = 2.2;
const OTHERS_HZ = 520;
/** A beeper's pitch wanders by so much as its cell runs down. */
const WANDERS = 0.006;
/** A moving tone's bins have to stand over the others by this factor, by what they do without it; frames taken together. */
const BAND_STANDS = 2.6;
const TOGETHER = 6;
/** Over so many frames a moving tone goes through all of its bins: their powers are alike to this cosine of what was taught. */
const SHAPED = 0.55;
/** A tone is never fainter than this share of what was taught. */
const FAINTEST = 0.04;
/** Frames of the last so many that have to have it. */
const ON_FRAMES = 3;
const OF_FRAMES = 4;
/** Frames in a row without it that end it; within these it counts from this share of what it takes. */
const OFF_FRAMES = 3;
const STAYS = 0.5;
/** Where a tone comes or goes, the frame at its edge has this share of its power: half the amplitude. */
const AT_EDGE = 0.25;
/** How fast the background of a moving tone is followed, by frame. */
const FOLLOWS = 0.01;

/**
 * Hears one taught tone in whatever else is heard. Of a steady tone one narrow line is held against the bins about it, so that
 * voices, drills and fans, which fill those too, count as its noise; of a moving one its bins against the others.
 */
export class Ear {
  private readonly frames: Spectrogram;
  private readonly recent: Moment[] = [];
  private readonly shorts: Frame[] = [];
  private background: Float64Array | null = null;
  private sounding = false;
  /** Power of this sounding, as far as it has gone. */
  private plateau = 0;

  constructor(
    private readonly tone: Tone,
    sampleHz: number,
  ) {
    this.frames = new Spectrogram(sampleHz, tone.kind === 'steady' ? LONG_S : SHORT_S);
  }

  /** Takes samples in; gives moments, one each hundredth of a second, and the edges among them. */
  hear(samples: Float32Array): { moments: Moment[]; edges: Edge[] } {
    const moments: Moment[] = [];
    const edges: Edge[] = [];
    for (const frame of this.frames.add(samples)) {
      const { clear, power } = this.tone.kind === 'steady' ? this.line(frame) : this.band(frame);
      const moment: Moment = {
        atS: frame.atS,
        clear,
        level: power / this.tone.power,
        sounding: this.sounding,
      };
      this.recent.push(moment);
      if (this.recent.length > MOST_RECENT) this.recent.shift();
      const edge = this.edge(frame.atS + this.frames.window / 2 / (this.frames.hop / HOP_S));
      if (edge) edges.push(edge);
      moment.sounding = this.sounding;
      moments.push(moment);
    }
    return { moments, edges };
  }

  private line({ powers }: Frame): { clear: number; power: number } {
    const { binHz, lowest } = this.frames;
    let [power, noise, least] = [0, 0, Infinity];
    const own: number[] = [];
    for (const hz of this.tone.kind === 'steady' ? this.tone.pitchesHz : []) {
      const middle = hz / binHz - lowest;
      const reach = Math.max(1, (WANDERS * hz) / binHz);
      let [best, at] = [0, Math.round(middle)];
      for (let bin = Math.round(middle - reach); bin <= Math.round(middle + reach); bin++) {
        const sum = (powers[bin - 1] ?? 0) + (powers[bin] ?? 0) + (powers[bin + 1] ?? 0);
        if (sum > best) [best, at] = [sum, bin];
      }
      let [about, count] = [0, 0];
      for (let by = NOISE_BINS[0]; by <= NOISE_BINS[1]; by++)
        for (const each of [powers[at - by], powers[at + by]])
          if (each !== undefined) {
            about += each;
            count++;
          }
      power += best;
      noise += (3 * about) / Math.max(1, count);
      least = Math.min(least, best);
      own.push(at);
    }
    const clear = Math.min(
      power / Math.max(1e-14, LINE_STANDS * noise),
      least / Math.max(1e-14, STANDS_ALONE * this.secondOther(powers, own)),
    );
    return { clear, power };
  }

  /** Power of the second strongest line near those that are its own. */
  private secondOther(powers: Float64Array, own: readonly number[]): number {
    const reach = Math.round(OTHERS_HZ / this.frames.binHz);
    const apart = NOISE_BINS[0];
    let first = { at: -1, power: 0 };
    let second = 0;
    const lineAt = (bin: number): number =>
      (powers[bin - 1] as number) + (powers[bin] as number) + (powers[bin + 1] as number);
    const from = Math.max(1, Math.min(...own) - reach);
    const to = Math.min(powers.length - 2, Math.max(...own) + reach);
    const other = (bin: number): boolean => own.every((mine) => Math.abs(bin - mine) >= apart);
    for (let bin = from; bin <= to; bin++)
      if (other(bin) && lineAt(bin) > first.power) first = { at: bin, power: lineAt(bin) };
    for (let bin = from; bin <= to; bin++)
      if (other(bin) && Math.abs(bin - first.at) >= apart) second = Math.max(second, lineAt(bin));
    return second;
  }

  private band(frame: Frame): { clear: number; power: number } {
    if (this.tone.kind !== 'moving') return { clear: 0, power: 0 };
    const { shares } = this.tone;
    this.shorts.push(frame);
    if (this.shorts.length > TOGETHER) this.shorts.shift();
    const mean = frame.powers.map(
      (_, bin) =>
        this.shorts.reduce((sum, { powers }) => sum + (powers[bin] as number), 0) / this.shorts.length,
    );
    const before = (this.background ??= Float64Array.from(mean));
    const [inside, outside] = insideAndOutside(mean, shares);
    const [insideBefore, outsideBefore] = insideAndOutside(before, shares);
    const clear =
      inside / Math.max(1e-16, outside) / Math.max(1e-6, insideBefore / Math.max(1e-16, outsideBefore));
    const own = shares.reduce(
      (sum, share, bin) => (share > 0 ? sum + (mean[bin] as number) - (before[bin] as number) : sum),
      0,
    );
    if (!this.sounding && clear < BAND_STANDS)
      for (let bin = 0; bin < before.length; bin++)
        before[bin] = (before[bin] as number) + FOLLOWS * ((mean[bin] as number) - (before[bin] as number));
    const shaped = likeness(
      mean.map((power, bin) => Math.max(0, power - (before[bin] as number))),
      shares,
    );
    return { clear: shaped < SHAPED ? 0 : clear / BAND_STANDS, power: Math.max(0, own) };
  }

  private edge(saidS: number): Edge | null {
    const has = ({ clear, level }: Moment, share: number): boolean =>
      clear >= share && level >= share * FAINTEST;
    if (!this.sounding) {
      const last = this.recent.slice(-OF_FRAMES);
      if (last.filter((moment) => has(moment, 1)).length < ON_FRAMES) return null;
      this.sounding = true;
      this.plateau = Math.max(...last.map(({ level }) => level));
      return { kind: 'on', atS: this.cameAt(), saidS };
    }
    const now = this.recent.at(-1) as Moment;
    this.plateau = Math.max(this.plateau, now.level);
    const last = this.recent.slice(-OFF_FRAMES);
    const gone = last.every((moment) => !has(moment, STAYS) || moment.level < AT_EDGE * this.plateau);
    if (!gone) return null;
    this.sounding = false;
    let at = this.recent.length - 1;
    while (at > 0 && (this.recent[at] as Moment).level < AT_EDGE * this.plateau) at--;
    return { kind: 'off', atS: (this.recent[at] as Moment).atS, saidS };
  }

  /** When the tone came, as far as that is known yet. */
  private cameAt(): number {
    let at = this.recent.length - 1;
    while (at > 0 && (this.recent[at - 1] as Moment).level > AT_EDGE * this.plateau) at--;
    return (this.recent[at] as Moment).atS;
  }
}

/** Moments looked back at. */
const MOST_RECENT = 60;

function likeness(powers: Float64Array, shares: readonly number[]): number {
  let [both, one, other] = [0, 0, 0];
  powers.forEach((power, bin) => {
    const share = shares[bin] ?? 0;
    both += power * share;
    one += power * power;
    other += share * share;
  });
  return both / Math.sqrt(Math.max(1e-30, one * other));
}

/** Mean power of the tone's bins and of the others. */
function insideAndOutside(
  powers: Float64Array,
  shares: readonly number[],
): [inside: number, outside: number] {
  let [inside, outside, count, others] = [0, 0, 0, 0];
  powers.forEach((power, bin) => {
    if ((shares[bin] ?? 0) > 0) {
      inside += power;
      count++;
    } else {
      outside += power;
      others++;
    }
  });
  return [inside / Math.max(1, count), outside / Math.max(1, others)];
}
