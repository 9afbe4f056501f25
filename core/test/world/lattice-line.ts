import { drawNormal, type Random } from '../../src/quantities/random.js';

/**
 * A line that core did not make: waves that run to and fro between short pieces, each of an impedance of its own,
 * scattered at every joint as Kirchhoff has it, step of time by step of time. What the wire takes of a wave is
 * a share and a smoothing per piece, which follows neither the root of the frequency nor the frequency. It
 * shares no formula with the spectra that core works with.
 */
export interface LatticeLine {
  /** Of each piece, by the nominal impedance; one step of time long each way. */
  impedances: Float64Array;
  /** Share of a wave that is left after a piece. */
  keeps: number;
  /**
   * Parts of a wave that come out of each piece smeared, each over so many steps. Over spans far apart, with parts
   * that fall as a power of the span, loss rises with that power of the frequency.
   */
  smears: readonly { part: number; over: number }[];
  /** Resistance in series in front of a piece, and conductance across it, by the nominal impedance. */
  series: Map<number, number>;
  shunts: Map<number, number>;
  /** Branches in front of a piece: length in steps, open at their ends. */
  stubs: Map<number, number>;
  /** Or a resistance across it, by the nominal impedance. */
  end: 'open' | 'short' | 'matched' | { load: number };
  /** The source's resistance by the nominal impedance. */
  source: number;
}

/** Two ports' waves in, and what leaves: a joint with a resistor in series and one across. */
function scatter(
  a: number,
  b: number,
  za: number,
  zb: number,
  series: number,
  shunt: number,
): [number, number] {
  // Node voltage on the right of the series resistor by nodal analysis: Thevenin 2a behind za + series, 2b behind zb.
  const ga = 1 / (za + series);
  const gb = 1 / zb;
  const node = (2 * a * ga + 2 * b * gb) / (ga + gb + shunt);
  const current = (2 * a - node) * ga;
  return [2 * a - current * za - a, node - b];
}

/** What an end sends back; one called matched is so to whatever the line is there. */
function reflectsAt(end: LatticeLine['end'], impedance: number): number {
  if (typeof end === 'object') return (end.load - impedance) / (end.load + impedance);
  return end === 'open' ? 1 : end === 'short' ? -1 : 0;
}

/** A branch's own waves. */
interface Branch {
  out: Float64Array;
  back: Float64Array;
}

/**
 * What an oscilloscope at the source sees of a launch, step by step.
 *
 * @param launch open-circuit volts of the source at each step
 */
export function latticeTrace(line: LatticeLine, launch: Float64Array): Float64Array {
  const { impedances, keeps, smears, source } = line;
  const pieces = impedances.length;
  let right = new Float64Array(pieces);
  let left = new Float64Array(pieces);
  const slow = smears.map(() => ({ right: new Float64Array(pieces), left: new Float64Array(pieces) }));
  const whole = 1 - smears.reduce((sum, { part }) => sum + part, 0);
  const branches = new Map<number, Branch>(
    [...line.stubs].map(([at, length]) => [
      at,
      { out: new Float64Array(length), back: new Float64Array(length) },
    ]),
  );
  const seen = new Float64Array(launch.length);
  for (let step = 0; step < launch.length; step++) {
    // Through each piece: a share of the wave comes at once, the rest as a slow average.
    const outRight = new Float64Array(pieces);
    const outLeft = new Float64Array(pieces);
    for (let n = 0; n < pieces; n++) {
      let [r, l] = [whole * right[n]!, whole * left[n]!];
      smears.forEach(({ part, over }, i) => {
        const state = slow[i]!;
        state.right[n]! += (right[n]! - state.right[n]!) / over;
        state.left[n]! += (left[n]! - state.left[n]!) / over;
        r += part * state.right[n]!;
        l += part * state.left[n]!;
      });
      outRight[n] = keeps * r;
      outLeft[n] = keeps * l;
    }
    const nextRight = new Float64Array(pieces);
    const nextLeft = new Float64Array(pieces);
    // The source: a voltage behind its resistance, against the first piece.
    const z = impedances[0]!;
    const volts = (launch[step]! * z + 2 * outLeft[0]! * source) / (z + source);
    seen[step] = volts;
    nextRight[0] = volts - outLeft[0]!;
    for (let n = 1; n < pieces; n++) {
      let shunt = line.shunts.get(n) ?? 0;
      let incoming = 0;
      const branch = branches.get(n);
      // A branch is a conductance of 1 with its own wave coming back.
      if (branch) {
        shunt += 1;
        incoming = 2 * branch.back[0]!;
      }
      const [toLeft, toRight] = scatter(
        outRight[n - 1]!,
        outLeft[n]!,
        impedances[n - 1]!,
        impedances[n]!,
        line.series.get(n) ?? 0,
        shunt,
      );
      let [l, r] = [toLeft, toRight];
      if (branch) {
        const ga = 1 / (impedances[n - 1]! + (line.series.get(n) ?? 0));
        const more = incoming / (ga + 1 / impedances[n]! + shunt);
        l += more * (1 - (line.series.get(n) ?? 0) * ga);
        r += more;
        const node = r + outLeft[n]!;
        branch.out.copyWithin(1, 0);
        branch.out[0] = node - branch.back[0]!;
        branch.back.copyWithin(0, 1);
        branch.back[branch.back.length - 1] = branch.out[branch.out.length - 1]!;
      }
      nextLeft[n - 1] = l;
      nextRight[n] = r;
    }
    const reflects = reflectsAt(line.end, impedances[pieces - 1]!);
    nextLeft[pieces - 1] = reflects * outRight[pieces - 1]!;
    right = nextRight;
    left = nextLeft;
  }
  return seen;
}

/** Impedances of an uneven line: a ripple that wanders, and a slow taper from end to end. */
export function unevenLine(random: Random, pieces: number, ripple: number, taper: number): Float64Array {
  const out = new Float64Array(pieces);
  let wander = 0;
  for (let n = 0; n < pieces; n++) {
    wander = 0.97 * wander + Math.sqrt(1 - 0.97 ** 2) * drawNormal(random);
    out[n] = Math.exp(ripple * wander + taper * (n / pieces - 0.5));
  }
  return out;
}

/** Noise that hangs together over a few samples, with a slow drift below it. */
export function colouredNoise(random: Random, samples: number, deviation: number): Float64Array {
  const out = new Float64Array(samples);
  let [fast, slow] = [0, 0];
  for (let n = 0; n < samples; n++) {
    fast = 0.6 * fast + 0.8 * drawNormal(random);
    slow = 0.998 * slow + Math.sqrt(1 - 0.998 ** 2) * drawNormal(random);
    out[n] = deviation * (0.9 * fast + 0.45 * slow);
  }
  return out;
}
