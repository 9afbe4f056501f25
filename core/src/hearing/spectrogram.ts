import { powerOfTwoFrom, transformOf } from '../reflectometry/spectrum.js';

/** Seconds from frame to frame. */
export const HOP_S = 0.01;
/** Beepers sound in this band, Hz; voices and motors have most of theirs below it. */
export const LOWEST_HZ = 1200;
export const HIGHEST_HZ = 6500;

/** One frame's powers, bin by bin from `LOWEST_HZ`; its time is the middle of its window. */
export interface Frame {
  atS: number;
  powers: Float64Array;
}

/**
 * Cuts samples into frames as they come, and gives the power of each in the band of beepers: mean square by bin, so that a
 * sine's bins add up to half its amplitude squared.
 */
export class Spectrogram {
  readonly window: number;
  readonly hop: number;
  /** Width of a bin, Hz, and number of the lowest one kept. */
  readonly binHz: number;
  readonly lowest: number;
  readonly bins: number;
  private readonly shape: Float64Array;
  private readonly scale: number;
  private readonly spectrum: Float64Array;
  private readonly held: Float64Array;
  private readonly shaped: Float64Array;
  /** Samples held, and samples that went before them. */
  private filled = 0;
  private before = 0;

  /** @param windowS length of a frame, seconds; the next power of two of samples is taken */
  constructor(
    private readonly sampleHz: number,
    windowS: number,
  ) {
    this.window = powerOfTwoFrom(windowS * sampleHz * 0.75);
    this.hop = Math.round(HOP_S * sampleHz);
    this.binHz = sampleHz / this.window;
    this.lowest = Math.ceil(LOWEST_HZ / this.binHz);
    this.bins = Math.floor(Math.min(HIGHEST_HZ, 0.45 * sampleHz) / this.binHz) - this.lowest + 1;
    this.shape = Float64Array.from(
      { length: this.window },
      (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / this.window),
    );
    const squares = this.shape.reduce((sum, w) => sum + w * w, 0);
    this.scale = 2 / (this.window * squares);
    this.spectrum = new Float64Array(2 * this.window);
    this.held = new Float64Array(this.window);
    this.shaped = new Float64Array(this.window);
  }

  /** Takes samples in; gives the frames that they complete. */
  add(samples: Float32Array): Frame[] {
    const frames: Frame[] = [];
    for (const sample of samples) {
      this.held[this.filled++] = sample;
      if (this.filled < this.window) continue;
      frames.push({ atS: (this.before + this.window / 2) / this.sampleHz, powers: this.powers() });
      this.held.copyWithin(0, this.hop);
      this.filled -= this.hop;
      this.before += this.hop;
    }
    return frames;
  }

  private powers(): Float64Array {
    for (let n = 0; n < this.window; n++)
      this.shaped[n] = (this.held[n] as number) * (this.shape[n] as number);
    transformOf(this.window).realTransform(this.spectrum, this.shaped);
    return Float64Array.from({ length: this.bins }, (_, n) => {
      const bin = this.lowest + n;
      const [re, im] = [this.spectrum[2 * bin] as number, this.spectrum[2 * bin + 1] as number];
      return this.scale * (re * re + im * im);
    });
  }
}

/** Windows: long for a tone that stays, short for one that moves. */
export const LONG_S = 0.085;
export const SHORT_S = 0.021;
