import { drawNormal, seededRandom } from '../../src/quantities/random.js';

/** A line as a sweep sees it. */
export interface SweptLine {
  lengthM: number;
  /** Where something sends back a share of the wave on its way. */
  jointAtM: number;
  back: number;
  velocityFactor: number;
}

/**
 * A Touchstone file of a thousand points, by hand: what comes back of a joint and of the open end behind it, the skin's loss and
 * its lag, and a network analyser's noise.
 */
export function sweptLine(stopHz: number, { lengthM, jointAtM, back, velocityFactor }: SweptLine): string {
  const random = seededRandom(Math.round(lengthM));
  const lines = ['# HZ S RI R 75'];
  for (let n = 1; n <= 1000; n++) {
    const hertz = (n * stopHz) / 1000;
    const neper = (0.002 * Math.sqrt(hertz / 1e6)) / 8.686;
    const comes = (atM: number, share: number): [number, number] => {
      const size = share * Math.exp(-2 * neper * atM);
      const angle = -2 * atM * ((2 * Math.PI * hertz) / (velocityFactor * 299_792_458) + neper);
      return [size * Math.cos(angle), size * Math.sin(angle)];
    };
    const [a, b] = [comes(lengthM, 1 - back ** 2), comes(jointAtM, back)];
    const noise = (): number => 0.001 * drawNormal(random);
    lines.push(`${hertz} ${a[0] + b[0] + noise()} ${a[1] + b[1] + noise()}`);
  }
  return lines.join('\n');
}
