import { drawNormal, type Random } from '../quantities/random.js';

/** A sampled voltage over time: sample n is at `startS + n * intervalS`. */
export interface Trace {
  intervalS: number;
  startS: number;
  volts: Float64Array;
}

/** What an oscilloscope adds to what is there. */
export interface Imperfections {
  /** Deviation of the white noise, volts. */
  noiseV: number;
  /** Step of the converter, volts; 0 for none. */
  quantumV: number;
  offsetV: number;
}

/** A trace as an oscilloscope would hand it over. */
export function imperfect(trace: Trace, { noiseV, quantumV, offsetV }: Imperfections, random: Random): Trace {
  const volts = trace.volts.map((volt) => {
    const noisy = volt + offsetV + noiseV * drawNormal(random);
    return quantumV > 0 ? Math.round(noisy / quantumV) * quantumV : noisy;
  });
  return { ...trace, volts };
}
