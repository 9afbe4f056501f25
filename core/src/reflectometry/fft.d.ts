declare module 'fft.js' {
  /** Radix-4 transform of a power-of-two length; complex numbers are interleaved (re, im). */
  export default class FFT {
    constructor(size: number);
    readonly size: number;
    createComplexArray(): number[];
    transform(out: ArrayLike<number>, input: ArrayLike<number>): void;
    /** Fills the first half of the spectrum only, from 0 to the Nyquist frequency. */
    realTransform(out: ArrayLike<number>, input: ArrayLike<number>): void;
    completeSpectrum(spectrum: ArrayLike<number>): void;
    inverseTransform(out: ArrayLike<number>, input: ArrayLike<number>): void;
  }
}
