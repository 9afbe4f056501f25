import { UNKNOWN_LOSS } from '../../src/reflectometry/cable-loss.js';
import { LIGHT_M_PER_S } from '../../src/reflectometry/line.js';
import type { FarEnd } from '../../src/reflectometry/chain/explain-by-chain.js';
import { readTrace, type TraceEvent, type TraceSetting } from '../../src/reflectometry/read-trace.js';
import { drawNormal, seededRandom, type Random } from '../../src/quantities/random.js';
import { colouredNoise, latticeTrace, unevenLine, type LatticeLine } from './lattice-line.js';

/** Something on a line of that world, in steps from the launch. */
interface Placed {
  kind: TraceEvent['kind'];
  at: number;
  /** Its other edge, where it has one. */
  until: number;
}

/** A trace whose truth is known, and nothing of core's own making. */
export interface Stranger {
  volts: Float64Array;
  things: Placed[];
  launchAt: number;
  intervalS: number;
  velocityFactor: number;
  shape: 'pulse' | 'step';
  /** What somebody sees at the far end. */
  farEnd: FarEnd;
  /** Its length by a plan, which is now and then quite wrong. */
  plannedM: number;
}

const between = (random: Random, least: number, most: number): number => least + (most - least) * random();
const KINDS = [
  'none',
  'series-resistance',
  'wet-or-shunt',
  'low-section',
  'high-section',
  'stub',
  'none',
] as const;
const ENDS = ['open', 'open', 'open', 'short', 'matched'] as const;

/** Shares of lines with something on their end, and of plans that are simply wrong. */
const LOADED = 1 / 3;
const WRONG_PLAN = 0.1;
const SPANS = [1.5, 5, 16, 50, 160];

/** Loss that rises with a power of the frequency between its root and nearly itself, a cable's order of size. */
function lossOf(random: Random, pieces: number): LatticeLine['smears'] {
  const power = between(random, 0.4, 0.8);
  const whole = between(random, 0.05, 0.6);
  const parts = SPANS.map((over) => over ** -power);
  const sum = parts.reduce((all, part) => all + part, 0);
  return SPANS.map((over, n) => ({ over, part: (whole * (parts[n] ?? 0)) / sum / (2 * pieces) }));
}

/** Loads as they hang on lines, by the line's impedance: half of them nearly right, the others anything. */
const loadOf = (random: Random): number =>
  Math.exp((random() < 0.5 ? 0.35 : 1.1) * (random() < 0.5 ? -1 : 1) * between(random, 0.3, 1));

/** One trace of a line with ripple, taper, a loss of its own law, coloured noise, and eight bits. */
export function drawStranger(seed: number, { loads = false } = {}): Stranger {
  const random = seededRandom(seed);
  const pieces = Math.round(between(random, 180, 420));
  const impedances = unevenLine(random, pieces, between(random, 0.002, 0.012), between(random, -0.03, 0.03));
  const line: LatticeLine = {
    impedances,
    keeps: 1 - between(random, 0, 6e-4),
    smears: lossOf(random, pieces),
    series: new Map(),
    shunts: new Map(),
    stubs: new Map(),
    end: ENDS[Math.floor(random() * ENDS.length)] ?? 'open',
    source: random() < 0.6 ? 1 : between(random, 0.7, 1.4),
  };
  // Drawn apart, so that the other lines stay the same.
  const other = seededRandom(7 * seed + 3);
  if (loads && other() < LOADED) line.end = { load: loadOf(other) };
  const kind = KINDS[seed % KINDS.length] ?? 'none';
  const at = Math.round(pieces * between(random, 0.3, 0.65));
  const things: Placed[] = [];
  const size = between(random, 0.3, 1.5);
  const length = Math.round(between(random, 12, 0.25 * pieces));
  if (kind === 'series-resistance') line.series.set(at, size);
  else if (kind === 'wet-or-shunt') line.shunts.set(at, size);
  else if (kind === 'low-section' || kind === 'high-section') {
    const by = kind === 'low-section' ? between(random, 0.6, 0.82) : between(random, 1.22, 1.6);
    for (let n = at; n < at + length; n++) impedances[n]! *= by;
  } else if (kind === 'stub') line.stubs.set(at, length);
  if (kind !== 'none') things.push({ kind, at, until: kind.endsWith('section') ? at + length : at });
  if (line.end !== 'matched')
    things.push({ kind: typeof line.end === 'object' ? 'loaded-end' : line.end, at: pieces, until: pieces });
  const shape = random() < 0.65 ? 'pulse' : 'step';
  const rise = between(random, 3, 8);
  const width = between(random, 8, 26);
  const launchAt = 60;
  const steps = launchAt + 2 * pieces + 160;
  const edge = (n: number): number => 1 / (1 + Math.exp((-4.4 * n) / rise));
  const launch = new Float64Array(steps).map((_, n) =>
    shape === 'step' ? edge(n - launchAt) : edge(n - launchAt) - edge(n - launchAt - width),
  );
  const seen = latticeTrace(line, launch);
  const noise = colouredNoise(random, steps, 0.5 * 10 ** (-between(random, 34, 50) / 20));
  const bit = 1.3 / 256;
  return {
    volts: seen.map((volt, n) => Math.round((volt + (noise[n] ?? 0)) / bit) * bit),
    things,
    launchAt,
    intervalS: 1e-9,
    velocityFactor: 0.7,
    shape,
    farEnd:
      typeof line.end === 'object' || line.end === 'matched'
        ? 'connected'
        : line.end === 'open'
          ? 'open'
          : 'joined',
    plannedM:
      pieces *
      1e-9 *
      0.7 *
      LIGHT_M_PER_S *
      (other() < WRONG_PLAN ? between(other, 0.75, 1.25) : Math.exp(0.02 * drawNormal(other))),
  };
}

/** An event that was told, against the truth. */
export interface Told {
  kind: TraceEvent['kind'];
  probability: number;
  right: boolean;
  /** Whether anything is there at all. */
  real: boolean;
  offM: number;
  u95M: number;
}

/** What is told of a stranger's trace, and how many of its things were found. */
export function tellStranger(
  stranger: Stranger,
  known: Pick<TraceSetting, 'farEnd' | 'planned'> = {},
): {
  told: Told[];
  things: number;
  found: number;
  ms: number;
} {
  const { volts, intervalS, velocityFactor, shape, things } = stranger;
  const from = performance.now();
  const { events, resolutionM } = readTrace(
    { volts, intervalS, startS: 0 },
    {
      line: { impedanceOhm: 75, velocityFactor, ...UNKNOWN_LOSS },
      velocityDeviation: 0.002,
      lossKnown: false,
      lead: { lengthM: 0, velocityFactor, deviationM: 0 },
      shape,
      thorough: true,
      ...known,
    },
  );
  const ms = performance.now() - from;
  // A piece is one step long each way: an echo from behind n of them comes after 2 n.
  const metres = (steps: number): number => steps * intervalS * velocityFactor * LIGHT_M_PER_S;
  const near = Math.max(resolutionM, 0.6);
  const offOf = (event: TraceEvent, { at, until }: Placed): number =>
    Math.min(Math.abs(event.distanceM - metres(at)), Math.abs(event.distanceM - metres(until)));
  const told = events
    .filter(({ kind }) => kind !== 'ghost' && kind !== 'matched-end')
    .map((event): Told => {
      const [best] = [...things].sort((a, b) => offOf(event, a) - offOf(event, b));
      const offM = best ? offOf(event, best) : Infinity;
      const real = offM < near + 0.01 * event.distanceM;
      return {
        kind: event.kind,
        probability: event.probability,
        real,
        right: real && best?.kind === event.kind,
        offM,
        u95M: event.u95M,
      };
    });
  const found = things.filter((thing) =>
    events.some((event) => event.kind !== 'ghost' && offOf(event, thing) < near + 0.01 * event.distanceM),
  ).length;
  return { told, things: things.length, found, ms };
}
