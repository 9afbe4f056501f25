import { powerOfTwoFrom, signalOf, type Spectrum } from '../spectrum.js';
import { BadTrace } from './bad-trace.js';
import type { ReadTraceFile } from './read-csv.js';

/** How a sweep's end is softened before it is turned into time. */
export const SWEEP_WINDOWS = ['hann', 'gauss', 'none'] as const;
export type SweepWindow = (typeof SWEEP_WINDOWS)[number];

const FACTORS: Readonly<Record<string, number>> = { HZ: 1, KHZ: 1e3, MHZ: 1e6, GHZ: 1e9 };
const MOST_POINTS = 200_001;
/** The sweep's own steps may be off by this share. */
const GRID_ALLOWS = 0.01;
/** Room before the launch, as a share of the record. */
const BEFORE = 1 / 16;
/** What is left off at its end, where the launch begins to come round again. */
const AFTER = 0.7 * BEFORE;
/**
 * Samples made of each point of the sweep, by the two that it takes. A window that fades to nothing at the sweep's end
 * leaves nothing between them; one that does not rings on from sample to sample, and is followed more closely.
 */
const FINER: Readonly<Record<SweepWindow, number>> = { hann: 1, gauss: 1, none: 4 };

/**
 * Reads a one-port Touchstone file (any of its units; RI, MA or DB) and turns it into the trace that
 * a pulse with the sweep's own window would draw: launch and echoes, 1 + S11, at the port.
 */
export class TouchstoneReader {
  private option: { factor: number; form: string; ohm: number } | null = null;
  private readonly hertz: number[] = [];
  private readonly re: number[] = [];
  private readonly im: number[] = [];
  private firstData = 1;

  constructor(private readonly window: SweepWindow = 'hann') {}

  line(text: string, line: number): void {
    const clean = text.replace(/!.*$/, '').trim();
    if (clean === '' || clean.startsWith('[')) return;
    if (clean.startsWith('#')) {
      this.options(clean, line);
      return;
    }
    const numbers = clean.split(/\s+/).map(Number);
    if (numbers.length !== 3 || !numbers.every(Number.isFinite))
      throw new BadTrace(
        'a frequency and two numbers are expected: a one-port sweep has three numbers on each line.',
        line,
      );
    const { factor, form } = this.option ?? { factor: 1e9, form: 'MA' };
    const [f, a, b] = numbers as [number, number, number];
    if (this.hertz.length === 0) this.firstData = line;
    if (this.hertz.length > 0 && f * factor <= this.hertz[this.hertz.length - 1]!)
      throw new BadTrace('the frequency does not go up. Export one sweep.', line);
    if (this.hertz.length >= MOST_POINTS) throw new BadTrace(`more than ${MOST_POINTS} points.`, line);
    const size = form === 'DB' ? 10 ** (a / 20) : a;
    const angle = (b * Math.PI) / 180;
    this.hertz.push(f * factor);
    this.re.push(form === 'RI' ? a : size * Math.cos(angle));
    this.im.push(form === 'RI' ? b : size * Math.sin(angle));
  }

  private options(text: string, line: number): void {
    const words = text.slice(1).trim().toUpperCase().split(/\s+/);
    const factor = words.map((word) => FACTORS[word]).find((found) => found !== undefined) ?? 1e9;
    const form = words.find((word) => word === 'RI' || word === 'MA' || word === 'DB') ?? 'MA';
    if (words.some((word) => word === 'Y' || word === 'Z' || word === 'G' || word === 'H'))
      throw new BadTrace('only S parameters are read. Export S11.', line);
    const at = words.indexOf('R');
    this.option = { factor, form, ohm: at >= 0 ? Number(words[at + 1]) : 50 };
  }

  end(): ReadTraceFile {
    const points = this.hertz.length;
    if (points < 16) throw new BadTrace(`only ${points} points. Sweep at least a hundred.`, this.firstData);
    const step = (this.hertz[points - 1]! - this.hertz[0]!) / (points - 1);
    const off = this.hertz.findIndex(
      (f, n) => Math.abs(f - this.hertz[0]! - n * step) > GRID_ALLOWS * step + 1,
    );
    if (off >= 0)
      throw new BadTrace(
        'the steps between frequencies change. Sweep with even steps.',
        this.firstData + off,
      );
    const first = Math.round(this.hertz[0]! / step);
    if (Math.abs(this.hertz[0]! / step - first) > 0.02 || first > 12)
      throw new BadTrace(
        'the sweep starts too high. Start it at its own step (or as low as the instrument goes), so that the zero can be drawn on.',
        this.firstData,
      );
    const top = first + points - 1;
    const size = powerOfTwoFrom(2 * top * FINER[this.window]);
    const spectrum = this.launchAndEchoes(first, top, size);
    const signal = signalOf(spectrum);
    const intervalS = 1 / (size * step);
    // The gain of the window's own pulse is one volt at its peak.
    const launch = signalOf(this.launchAlone(top, size));
    const peak = launch.reduce((most, value) => Math.max(most, value), 0);
    const samples = Math.floor(size * (1 - AFTER));
    const volts = signal.slice(0, samples).map((value) => value / peak);
    const startS = -BEFORE * size * intervalS;
    return {
      trace: { intervalS, startS, volts },
      understood: {
        format: 'touchstone',
        samples,
        intervalS,
        startS,
        time: `from ${points} points to ${(this.hertz[points - 1]! / 1e6).toFixed(0)} MHz, ${this.window} window`,
        channel: 'S11',
        channels: ['S11'],
        notes: [
          `Reference ${this.option?.ohm ?? 50} ohm, ${this.option?.form ?? 'MA'}.`,
          first > 0
            ? `${first} point${first === 1 ? '' : 's'} below the sweep drawn on to zero frequency.`
            : 'From zero frequency.',
        ],
      },
    };
  }

  private weight(bin: number, top: number): number {
    const x = bin / top;
    if (x > 1) return 0;
    if (this.window === 'hann') return (1 + Math.cos(Math.PI * x)) / 2;
    return this.window === 'gauss' ? Math.exp(-4.5 * x * x) : 1;
  }

  private launchAlone(top: number, size: number): Spectrum {
    const re = new Float64Array(size / 2 + 1);
    const im = new Float64Array(size / 2 + 1);
    for (let bin = 0; bin <= top; bin++) {
      const turn = -2 * Math.PI * bin * BEFORE;
      re[bin] = this.weight(bin, top) * Math.cos(turn);
      im[bin] = this.weight(bin, top) * Math.sin(turn);
    }
    return { re, im };
  }

  private launchAndEchoes(first: number, top: number, size: number): Spectrum {
    const { re, im } = this.launchAlone(top, size);
    for (let bin = 0; bin <= top; bin++) {
      const [sRe, sIm] = this.reflection(bin, first);
      const a = re[bin]!;
      const b = im[bin]!;
      re[bin] = a * (1 + sRe) - b * sIm;
      im[bin] = a * sIm + b * (1 + sRe);
    }
    return { re, im };
  }

  /** S11 at a bin; under the sweep drawn on by its first points, real at zero. */
  private reflection(bin: number, first: number): [number, number] {
    if (bin >= first) return [this.re[bin - first]!, this.im[bin - first]!];
    // Size as at the first point, angle in proportion to the frequency.
    const size = Math.hypot(this.re[0]!, this.im[0]!);
    const slope = this.angleAt(1) - this.angleAt(0);
    const angle = this.angleAt(0) - slope * (first - bin);
    const atZero = this.angleAt(0) - slope * first;
    const snapped = Math.round(atZero / Math.PI) * Math.PI;
    return [size * Math.cos(angle - atZero + snapped), size * Math.sin(angle - atZero + snapped)];
  }

  private angleAt(n: number): number {
    const angle = Math.atan2(this.im[n]!, this.re[n]!);
    if (n === 0) return angle;
    const before = Math.atan2(this.im[0]!, this.re[0]!);
    return before + Math.atan2(Math.sin(angle - before), Math.cos(angle - before));
  }
}
