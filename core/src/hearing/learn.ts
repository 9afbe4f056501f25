import { LONG_S, SHORT_S, Spectrogram, type Frame } from './spectrogram.js';
import type { Tone } from './tone.js';

/** What teaching has come to. */
export type Taught =
  | { say: 'taught'; tone: Tone }
  /** Touches heard so far, of three; what is amiss with them, if anything. */
  | { say: 'waiting'; touches: number; trouble: 'too short' | 'not alike' | 'too faint' | null };

const TOUCHES = 3;
/** A touch that teaches, seconds, and gaps within one that are bounces. */
const LEAST_S = 0.15;
const MOST_S = 4;
const BOUNCE_S = 0.06;
/** A bin counts as sounding from this many times its background on. */
const SOUNDS = 6;
/** A frame is part of a touch from this share of the tone's own power on. */
const PART = 1 / 6;
/** The tone's own power is what so many frames have at least: three touches of a fifth of a second. */
const TONE_FRAMES = 60;
/** Three touches sound alike from this cosine of their spectra on. */
const ALIKE = 0.8;
/** Power by that of the background in its bins, from which on a tone can be told. */
const CLEAR = 6;
/** Share of the power in one or two narrow lines that makes a tone a steady one; how near its pitches have to be. */
const NARROW = 0.55;
const SAME_PITCH = 0.006;
/** A second line counts from this share of the first. */
const SECOND_LINE = 0.12;
/** The fifth of exponentially spread powers lies at this share of their mean. */
const FIFTH = 0.223;

/**
 * Learns a beeper's tone from three touches of its leads among whatever else is heard.
 *
 * @param samples the last seconds of sound, from -1 to 1
 */
export function learnTone(samples: Float32Array, sampleHz: number): Taught {
  const short = new Spectrogram(sampleHz, SHORT_S);
  const frames = short.add(samples);
  const waiting = (touches: number, trouble: (Taught & { say: 'waiting' })['trouble'] = null): Taught => ({
    say: 'waiting',
    touches,
    trouble,
  });
  if (frames.length < TONE_FRAMES) return waiting(0);
  const background = backgroundOf(frames, short.bins);
  const over = frames.map(({ powers }) =>
    powers.reduce((sum, power, n) => {
      const more = power - SOUNDS * (background[n] as number);
      return more > 0 ? sum + more : sum;
    }, 0),
  );
  const tonePower = [...over].sort((a, b) => b - a)[TONE_FRAMES] as number;
  if (!(tonePower > 0)) return waiting(0);
  const all = runsOf(over.map((power) => power > PART * tonePower));
  const long = all.filter(({ from, to }) => (to - from) * 0.01 >= LEAST_S && (to - from) * 0.01 <= MOST_S);
  // The last one may still be going on.
  const ended = long.filter(({ to }) => to < frames.length);
  const touches = ended.slice(-TOUCHES);
  const tooShort = touches.length < TOUCHES && all.length > long.length + 2 ? ('too short' as const) : null;
  if (touches.length < TOUCHES) return waiting(touches.length, tooShort);
  const spectra = touches.map(({ from, to }) => meanOver(frames.slice(from, to), background));
  if (!spectra.every((one) => spectra.every((other) => cosine(one, other) > ALIKE)))
    return waiting(TOUCHES - 1, 'not alike');
  const mean = spectra[0]?.map(
    (_, n) => spectra.reduce((sum, each) => sum + (each[n] as number), 0) / TOUCHES,
  );
  if (!mean) return waiting(0);
  const power = mean.reduce((sum, each) => sum + each, 0);
  const top = Math.max(...mean);
  const beneath = mean.reduce((sum, each, n) => sum + (each > 0.05 * top ? (background[n] as number) : 0), 0);
  const overNoise = power / beneath;
  if (overNoise < CLEAR) return waiting(TOUCHES, 'too faint');
  const lines = touches.map(({ from, to }) => linesOf(samples, sampleHz, from, to, short));
  const pitchesHz = steadyPitches(lines, power);
  return {
    say: 'taught',
    tone: pitchesHz
      ? { kind: 'steady', pitchesHz, power, overNoise }
      : {
          kind: 'moving',
          shares: [...mean].map((each) => (each > 0.05 * top ? each / power : 0)),
          power,
          overNoise,
        },
  };
}

/** What is always there, bin by bin. */
function backgroundOf(frames: readonly Frame[], bins: number): Float64Array {
  return Float64Array.from({ length: bins }, (_, bin) => {
    const sorted = Float64Array.from(frames, ({ powers }) => powers[bin] as number).sort();
    return Math.max(1e-14, (sorted[Math.floor(sorted.length / 5)] as number) / FIFTH);
  });
}

/** Runs of frames that sound, bounces closed. */
function runsOf(sounds: readonly boolean[]): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  sounds.forEach((on, n) => {
    if (!on) return;
    const last = runs.at(-1);
    if (last && (n - last.to) * 0.01 <= BOUNCE_S) last.to = n + 1;
    else runs.push({ from: n, to: n + 1 });
  });
  return runs;
}

const meanOver = (frames: readonly Frame[], background: Float64Array): Float64Array =>
  background.map((beneath, bin) =>
    Math.max(
      0,
      frames.reduce((sum, { powers }) => sum + (powers[bin] as number), 0) / frames.length - beneath,
    ),
  );

function cosine(one: Float64Array, other: Float64Array): number {
  let [both, a, b] = [0, 0, 0];
  for (let n = 0; n < one.length; n++) {
    const [x, y] = [one[n] as number, other[n] as number];
    both += x * y;
    a += x * x;
    b += y * y;
  }
  return both / Math.sqrt(Math.max(1e-30, a * b));
}

interface Line {
  hz: number;
  power: number;
}

/** The one or two strongest narrow lines of a touch. */
function linesOf(
  samples: Float32Array,
  sampleHz: number,
  from: number,
  to: number,
  short: Spectrogram,
): Line[] {
  const long = new Spectrogram(sampleHz, LONG_S);
  const middle = ((from + to) / 2) * short.hop + short.window / 2;
  const begin = Math.max(0, Math.min(samples.length - long.window, Math.round(middle - long.window / 2)));
  const powers = long.add(samples.subarray(begin, begin + long.window))[0]?.powers;
  if (!powers) return [];
  const lineAt = (bin: number): Line => {
    const [a, b, c] = [-1, 0, 1].map((by) => Math.log(Math.max(1e-30, powers[bin + by] ?? 0))) as [
      number,
      number,
      number,
    ];
    const shift = a + c - 2 * b === 0 ? 0 : (0.5 * (a - c)) / (a + c - 2 * b);
    let power = 0;
    for (let by = -2; by <= 2; by++) power += powers[bin + by] ?? 0;
    return { hz: (long.lowest + bin + Math.max(-1, Math.min(1, shift))) * long.binHz, power };
  };
  const strongest = (but: number): number => {
    let best = -1;
    powers.forEach((power, n) => {
      if ((but < 0 || Math.abs(n - but) > 5) && power > (powers[best] ?? -1)) best = n;
    });
    return best;
  };
  const first = strongest(-1);
  const second = strongest(first);
  const lines = [lineAt(first), lineAt(second)];
  return lines[1] && lines[0] && lines[1].power > SECOND_LINE * lines[0].power ? lines : lines.slice(0, 1);
}

/** The pitches of a tone that is the same narrow lines in every touch; null where it is not. */
function steadyPitches(touches: readonly (readonly Line[])[], power: number): number[] | null {
  const [first] = touches;
  if (!first) return null;
  const held = first.filter(({ hz }) =>
    touches.every((lines) => lines.some((line) => Math.abs(line.hz / hz - 1) < SAME_PITCH)),
  );
  if (held.length === 0) return null;
  const pitches = held.map(({ hz }) => {
    const same = touches.map(
      (lines) => lines.find((line) => Math.abs(line.hz / hz - 1) < SAME_PITCH) as Line,
    );
    return {
      hz: same.reduce((sum, line) => sum + line.hz, 0) / touches.length,
      power: same.reduce((sum, line) => sum + line.power, 0) / touches.length,
    };
  });
  const inLines = pitches.reduce((sum, line) => sum + line.power, 0);
  return inLines > NARROW * power ? pitches.map(({ hz }) => hz) : null;
}
