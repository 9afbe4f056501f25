import { CABLE_TYPES } from '../../core/src/cabling/cable-library.js';
import { seededRandom, type Random } from '../../core/src/quantities/random.js';
import { lowerBound, slopeOf } from '../../core/src/reflectometry/bound.js';
import { lineOf } from '../../core/src/reflectometry/cable-loss.js';
import { LIGHT_M_PER_S, type LineFigures } from '../../core/src/reflectometry/line.js';
import type { Element, Load, Network } from '../../core/src/reflectometry/network.js';
import { readTrace, type TraceReading } from '../../core/src/reflectometry/read-trace.js';
import { simulate, type Sampling } from '../../core/src/reflectometry/simulate.js';
import { imperfect } from '../../core/src/reflectometry/trace.js';

/** A bench set-up whose answer is known. */
export interface Trial {
  name: string;
  network: Network;
  sampling: Sampling;
  line: LineFigures;
  /** What is in the line, and where; none on a matched line. */
  kind: string;
  distanceM: number | null;
  farEnd: boolean;
  snrDb: number;
  noiseV: number;
  quantumV: number;
}

const CABLES = ['rg6', 'rg59', 'rg58', 'rg213', 'cat5e-u', 'cat6-u', 'cat6a-f', 'tel-2'];
const KINDS = ['series-resistance', 'wet-or-shunt', 'low-section', 'high-section', 'joint', 'stub'];

const NEARLY = 0.96;

const between = (random: Random, least: number, most: number): number => least + (most - least) * random();
const pick = <T>(random: Random, things: readonly T[]): T => things[Math.floor(random() * things.length)]!;

/** Set-ups drawn from a seed: first single echoes, then matched lines, then every other kind. */
export function drawTrials(
  seed: number,
  counts: { single: number; matched: number; kinds: number },
): Trial[] {
  const random = seededRandom(seed);
  const out: Trial[] = [];
  const make = (kind: string): void => {
    const cableId = pick(random, CABLES);
    const cable = CABLE_TYPES.find(({ id }) => id === cableId)!;
    const typical = lineOf(cable);
    // The cable's own loss is not its kind's.
    const off = between(random, 0.8, 1.25);
    const line = {
      ...typical,
      skinDb: typical.skinDb * off,
      dielectricDb: typical.dielectricDb * off,
      loopOhmPerM: typical.loopOhmPerM * off,
    };
    // What lies in the way of a line needs room for its echoes to come apart.
    const single = kind === 'open' || kind === 'short' || kind === 'matched-end';
    const lengthM = Math.exp(between(random, single ? 0 : Math.log(12), Math.log(300)));
    const shape = random() < 0.6 ? 'pulse' : 'step';
    const widthS = Math.max(
      4e-9,
      ((lengthM / (LIGHT_M_PER_S * line.velocityFactor)) *
        (single ? between(random, 0.2, 0.8) : between(random, 0.1, 0.2))) /
        2,
    );
    const riseS = Math.max(1.5e-9, widthS * between(random, 0.15, 0.4));
    const snrDb = between(random, 20, 50);
    const matchedOff = random() < 0.5 ? 1 : between(random, 0.85, 1.2);
    const launchV = 1;
    const source: Network['source'] = {
      shape,
      volts: 2 * launchV,
      widthS,
      riseS,
      edge: random() < 0.5 ? 'smooth' : 'ramp',
      impedanceOhm: line.impedanceOhm * matchedOff,
    };
    const tripS = (2 * lengthM) / (LIGHT_M_PER_S * line.velocityFactor);
    const intervalS = Math.max(0.5e-9, riseS / between(random, 5, 16));
    const beforeS = 30 * intervalS + 2 * riseS;
    const samples = Math.ceil((beforeS + tripS * 1.5 + 3 * widthS + 40 * intervalS) / intervalS);
    const { chain, load, distanceM, farEnd } = built(kind, lengthM, line, random);
    out.push({
      name: `${shape} ${cable.id} ${lengthM.toFixed(1)} m ${kind} ${snrDb.toFixed(0)} dB`,
      network: { source, scope: { inputOhm: 1e6, inputF: 0 }, chain, load },
      sampling: { intervalS, samples, launchS: beforeS },
      line: typical,
      kind,
      distanceM,
      farEnd,
      snrDb,
      noiseV: launchV * 10 ** (-snrDb / 20),
      quantumV: (launchV * between(random, 2.2, 4)) / 256,
    });
  };
  for (let n = 0; n < counts.single; n++) make(random() < 0.5 ? 'open' : 'short');
  for (let n = 0; n < counts.matched; n++) make('matched-end');
  for (let n = 0; n < counts.kinds; n++) make(KINDS[n % KINDS.length]!);
  return out;
}

function built(
  kind: string,
  lengthM: number,
  line: LineFigures,
  random: Random,
): { chain: Element[]; load: Load; distanceM: number | null; farEnd: boolean } {
  const run = (metres: number): Element => ({ kind: 'line', lengthM: metres, line });
  const matched: Load = { ohm: line.impedanceOhm };
  if (kind === 'open' || kind === 'short')
    return { chain: [run(lengthM)], load: kind, distanceM: lengthM, farEnd: true };
  if (kind === 'matched-end') return { chain: [run(lengthM)], load: matched, distanceM: null, farEnd: true };
  const near = lengthM * between(random, 0.4, 0.7);
  const rest = run(lengthM - near);
  const end = random() < 0.5 ? matched : ('open' as const);
  const z = line.impedanceOhm;
  const through = Math.min(between(random, 0.12, 0.3) * lengthM, lengthM - near);
  const other = (ratio: number): Element => ({
    kind: 'line',
    lengthM: through,
    line: { ...line, impedanceOhm: z * ratio },
  });
  const parts: Record<string, Element[]> = {
    'series-resistance': [{ kind: 'series', ohm: z * between(random, 0.3, 2) }],
    'wet-or-shunt': [{ kind: 'shunt', ohm: z / between(random, 0.3, 2) }],
    'low-section': [other(between(random, 0.6, 0.8))],
    'high-section': [other(between(random, 1.25, 1.6))],
    joint: [{ kind: 'series', ohm: z * between(random, 0.06, 0.12) }],
    stub: [{ kind: 'stub', chain: [run(through)], load: 'open' }],
  };
  return { chain: [run(near), ...parts[kind]!, rest], load: end, distanceM: near, farEnd: false };
}

/** The smallest deviation that a reading of a single echo's distance can have, metres. */
export function distanceBound(trial: Trial): number {
  const { network, sampling } = trial;
  const first = network.chain[0] as Extract<Element, { kind: 'line' }>;
  const volts = (network_: Network, sampling_ = sampling): Float64Array =>
    simulate(network_, sampling_).volts;
  const withLine = (change: Partial<typeof first>): Network => ({
    ...network,
    chain: [{ ...first, ...change }],
  });
  const lossy = (factor: number): Network =>
    withLine({
      line: {
        ...first.line,
        skinDb: first.line.skinDb * factor,
        dielectricDb: first.line.dielectricDb * factor,
        loopOhmPerM: first.line.loopOhmPerM * factor,
      },
    });
  const clean = volts(network);
  // The end's reflection is not known beforehand: from nearly whole to whole.
  const z = first.line.impedanceOhm;
  const nearly = network.load === 'open' ? (1 + NEARLY) / (1 - NEARLY) : (1 - NEARLY) / (1 + NEARLY);
  const less = volts({ ...network, load: { ohm: z * nearly } });
  const slopes = [
    slopeOf((lengthM) => volts(withLine({ lengthM })), first.lengthM, 0.002),
    slopeOf(
      (launchS) => volts(network, { ...sampling, launchS }),
      sampling.launchS,
      sampling.intervalS / 20,
    ).map((v) => v * 1e-9),
    clean,
    clean.map((volt, n) => (volt - less[n]!) / (1 - NEARLY)),
    new Float64Array(clean.length).fill(1),
    slopeOf((factor) => volts(lossy(factor)), 1, 0.01),
  ];
  const noise = Math.sqrt(trial.noiseV ** 2 + trial.quantumV ** 2 / 12);
  return lowerBound(slopes, noise)?.[0] ?? Infinity;
}

/** Reads one noisy draw of a trial. */
export function readDraw(trial: Trial, clean: ReturnType<typeof simulate>, seed: number): TraceReading {
  const random = seededRandom(seed);
  const offsetV = (random() - 0.5) * 0.1;
  const trace = imperfect(clean, { noiseV: trial.noiseV, quantumV: trial.quantumV, offsetV }, random);
  return readTrace(trace, {
    line: trial.line,
    velocityDeviation: 0,
    lossKnown: true,
    shape: trial.network.source.shape,
    lead: { lengthM: 0, velocityFactor: trial.line.velocityFactor, deviationM: 0 },
  });
}
