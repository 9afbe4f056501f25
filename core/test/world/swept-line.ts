import { drawNormal, seededRandom } from '../../src/quantities/random.js';

/** A line as a sweep sees it, open at its end. */
export interface SweptLine {
  lengthM: number;
  /** What is on its way, the nearest first: a resistance in it sends back a share above nought, one across it below. */
  things: readonly { atM: number; back: number }[];
  velocityFactor: number;
}

interface Complex {
  re: number;
  im: number;
}
const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
const over = (a: Complex, b: Complex): Complex => {
  const size = b.re ** 2 + b.im ** 2;
  return { re: (a.re * b.re + a.im * b.im) / size, im: (a.im * b.re - a.re * b.im) / size };
};

/**
 * A Touchstone file of a thousand points: signal flow from the open end back, past each thing all that goes to and fro behind
 * it; the skin's loss and its lag, and a network analyser's noise.
 */
export function sweptLine(stopHz: number, { lengthM, things, velocityFactor }: SweptLine): string {
  const random = seededRandom(Math.round(1000 * lengthM));
  const lines = ['# HZ S RI R 75'];
  for (let n = 1; n <= 1000; n++) {
    const hertz = (n * stopHz) / 1000;
    const neper = (0.002 * Math.sqrt(hertz / 1e6)) / 8.686;
    const along = (sent: Complex, wayM: number): Complex => {
      const size = Math.exp(-2 * neper * wayM);
      const angle = -2 * wayM * ((2 * Math.PI * hertz) / (velocityFactor * 299_792_458) + neper);
      return times(sent, { re: size * Math.cos(angle), im: size * Math.sin(angle) });
    };
    let sent: Complex = { re: 1, im: 0 };
    let behindM = lengthM;
    for (const { atM, back } of [...things].reverse()) {
      const comes = along(sent, behindM - atM);
      const passes = (1 - Math.abs(back)) ** 2;
      const through = over(comes, { re: 1 - back * comes.re, im: -back * comes.im });
      sent = { re: back + passes * through.re, im: passes * through.im };
      behindM = atM;
    }
    const { re, im } = along(sent, behindM);
    const noise = (): number => 0.001 * drawNormal(random);
    lines.push(`${hertz} ${re + noise()} ${im + noise()}`);
  }
  return lines.join('\n');
}
