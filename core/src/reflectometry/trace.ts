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

/** A trace with every so many samples made one, their mean; what is left over at its end is dropped. */
export function averaged(trace: Trace, by: number): Trace {
  if (by === 1) return trace;
  const volts = new Float64Array(Math.floor(trace.volts.length / by)).map((_, n) => {
    let sum = 0;
    for (let k = n * by; k < (n + 1) * by; k++) sum += trace.volts[k]!;
    return sum / by;
  });
  return { intervalS: trace.intervalS * by, startS: trace.startS + ((by - 1) / 2) * trace.intervalS, volts };
}
