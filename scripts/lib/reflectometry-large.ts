import { parentPort } from 'node:worker_threads';
import { CABLE_TYPES } from '../../core/src/cabling/cable-library.js';
import { seededRandom } from '../../core/src/quantities/random.js';
import { lineOf } from '../../core/src/reflectometry/cable-loss.js';
import { sweptLine } from '../../core/test/world/swept-line.js';
import { forFirstLook } from '../../core/src/reflectometry/first-look.js';
import { TouchstoneReader } from '../../core/src/reflectometry/import/read-touchstone.js';
import { NO_SCOPE } from '../../core/src/reflectometry/network.js';
import { readTrace } from '../../core/src/reflectometry/read-trace.js';
import { simulate } from '../../core/src/reflectometry/simulate.js';
import { imperfect } from '../../core/src/reflectometry/trace.js';

/** Times the reading of traces of 10,000 samples, of a kind that a bench sees every day. */
const SAMPLES = 10_000;
const RUNS = 40;
const ms: number[] = [];
for (let n = 0; n < RUNS + 10; n++) {
  const cable = CABLE_TYPES.find(({ id }) => id === ['rg6', 'cat6-u', 'rg58'][n % 3])!;
  const line = lineOf(cable);
  const lengthM = 20 + 3 * n;
  const shape = n % 4 === 3 ? 'step' : 'pulse';
  const tripS = (2 * lengthM) / (line.velocityFactor * 299_792_458);
  const network = {
    source: {
      shape,
      volts: 2,
      widthS: tripS / 10,
      riseS: 2e-9 + tripS / 60,
      edge: 'smooth',
      impedanceOhm: line.impedanceOhm,
    },
    scope: NO_SCOPE,
    chain: [{ kind: 'line', lengthM, line }],
    load: n % 2 ? 'open' : 'short',
  } as const;
  const clean = simulate(network, {
    intervalS: (1.6 * tripS + 1e-7) / SAMPLES,
    samples: SAMPLES,
    launchS: 5e-8,
  });
  const trace = imperfect(clean, { noiseV: 0.01, quantumV: 0.0118, offsetV: 0 }, seededRandom(n));
  const began = performance.now();
  readTrace(trace, {
    line,
    velocityDeviation: 0,
    lossKnown: true,
    shape,
    lead: { lengthM: 0, velocityFactor: 1, deviationM: 0 },
  });
  // The first ten warm the machine up.
  if (n >= 10) ms.push(performance.now() - began);
}

/** A sweep of a thousand points likewise: the first look at it, and what it settles at. */
const first: number[] = [];
const settled: number[] = [];
for (let n = 0; n < RUNS; n++) {
  const lengthM = 12 + n;
  const reader = new TouchstoneReader();
  sweptLine([5e8, 1e9][n % 2] ?? 5e8, {
    lengthM,
    things: [{ atM: (0.3 + 0.01 * (n % 13)) * lengthM, back: 0.1 + 0.01 * n }],
    velocityFactor: 0.82,
  })
    .split('\n')
    .forEach((text, line) => reader.line(text, line + 1));
  const { trace } = reader.end();
  const line = { ...lineOf(CABLE_TYPES.find(({ id }) => id === 'rg6')!), velocityFactor: 0.82 };
  const setting = {
    line,
    velocityDeviation: 0.002,
    lossKnown: true,
    lead: { lengthM: 0, velocityFactor: 1, deviationM: 0 },
  };
  const began = performance.now();
  readTrace(forFirstLook(trace), { ...setting, hasty: true });
  const looked = performance.now();
  readTrace(trace, { ...setting, thorough: true });
  if (n < 6) continue;
  first.push(looked - began);
  settled.push(performance.now() - began);
}
parentPort?.postMessage({ ms, first, settled });
