import { bestCandidate, type Candidate } from './echo-search.js';
import { fitEchoes, misfitOf, type Fit, type LossPrior } from './echo-fit.js';
import { modelOf, type Echo, type Explanation } from './echo-model.js';
import { groundOf, type Ground, type Stretch } from './ground.js';
import { findLaunch, type Launch } from './launch.js';
import { learnLaunch, reachOf, type LearnedLaunch } from './launch-shape.js';
import type { LineFigures } from './line.js';
import { readClosely } from './long-trace.js';
import { median, noiseLevel, quantumOf } from './noise-level.js';
import { edgeSpan, type PulseShape } from './pulse-shape.js';
import { averaged, type Trace } from './trace.js';

/** What is known of a trace beforehand. */
export interface Known {
  /** The cable's figures; its loss may be far off. */
  line: LineFigures;
  loss: LossPrior;
  /** Round trip of the lead and its deviation, seconds; nought where there is none. */
  leadS?: { delayS: number; deviationS: number };
  shape?: 'pulse' | 'step';
  /** For a glance: fits end sooner. */
  hasty?: boolean;
}

/** A trace taken apart into launch and echoes. */
export interface Explained {
  /** The trace as it was fitted, with as many samples as its edges need. */
  trace: Trace;
  launch: Launch;
  learned: LearnedLaunch;
  fit: Fit;
  ground: Ground;
  noiseV: number;
  quantumV: number;
  /** What the fit gives and what it leaves, volts, sample by sample. */
  modelV: Float64Array;
}

/**
 * An echo has to stand out by this many deviations: with some thousand places to look at and nothing
 * there, one trace in a thousand shows one.
 */
const STANDS_OUT = 5.2;
/** Nothing under this share of what lies at the same place is claimed: shapes are not known better. */
const SHAPE_KNOWN_TO = 0.035;
/** An echo fainter than this may be a matched end. */
const FAINT = 0.15;
/** Two echoes nearer than this share of the launch's edge are one. */
const LEAST_APART = 0.2;
/** No passive line sends back so much of a launch. */
const MOST_SHARE = 2.2;
/** How long a level is remembered while a step's echoes are looked for: rises, or a share of the record. */
const FORGETS_RISES = 16;
const FORGETS_SHARE = 12;
/** A launch's edge is followed by so many samples; more say nothing new. */
export const SAMPLES_PER_RISE = 4;
/** A joint's reflection, before it is seen: leads are of the cable's impedance, or half or twice it. */
const JOINT_DEVIATION = 0.2;
/** A lead's delay is known to this share; a shorter one than this part of the launch's rise is part of it. */
const LEAD_KNOWN_TO = 0.03;
const LEAST_LEAD = 0.3;
/** A lead's far end does not move by more deviations than this. */
const LEAD_MOVES = 4;
/** No bench set-up is quieter, by the launch: a trace without noise is still a model's. */
const LEAST_NOISE = 7e-4;
/** An echo has to be higher than what a converter's steps can feign, by this factor. */
const STEPS_BY = 3;
/** A matched end is followed that explains this share of what an echo explains, before all else moves. */
const MAY_YET = 0.25;
/** Steps of a fit while echoes are still looked for, and how far the last one of all together goes. */
const PATIENT = { adding: 12, all: {} } as const;
const HASTY = { adding: 3, all: { rounds: 6, enough: 0.3 } } as const;
/** While echoes are still looked for, a fit may be off by so much of a logarithm. */
const NEAR_ENOUGH = 0.3;
/** Places refused before the search is given up. */
const MOST_REFUSED = 3;
/** The most echoes looked for in one trace. */
const MOST_ECHOES = 12;
/** No line is even: what sends back less may be the line's own, of which so many echoes are told apart and no more. */
const LINES_OWN = 0.02;
const MOST_OWN = 3;

/**
 * Takes a trace apart: finds and learns the launch, then adds one echo at a time where most is left
 * unexplained, fitting all of them together after each, until nothing stands out of the noise.
 *
 * @throws NoLaunch where there is none
 */
export function explainTrace(given: Trace, known: Known): Explained {
  const quantumV = quantumOf(given.volts);
  const sampleNoiseV = noiseLevel(given.volts, quantumV);
  const { rise } = findLaunch(given, sampleNoiseV, known.shape);
  const close = readClosely(given, Math.max(1, Math.floor(rise / SAMPLES_PER_RISE)));
  const { by } = close;
  const trace = averaged(close.trace, by);
  const heard = Math.max(noiseLevel(trace.volts, 0), quantumV / Math.sqrt(12 * by));
  const launch = findLaunch(trace, heard, known.shape);
  const noiseV = Math.max(heard, LEAST_NOISE * Math.abs(launch.heightV));
  const whole: Stretch = {
    volts: trace.volts.map((volt) => volt - launch.baselineV),
    noiseV,
    intervalS: trace.intervalS,
    line: known.line,
  };
  const joint = jointOf(known, trace.intervalS, launch.rise);
  const learned = learnLaunch(whole, launch, known.loss, joint);
  const extra = learned.extra ? placed(learned, trace.volts.length) : undefined;
  const reach = reachOf(learned.shape);
  const ground = groundOf(whole, reach, { extra });
  // A step that is not explained yet lifts all that follows: while echoes are looked for, levels fade.
  const forgets = Math.max(FORGETS_RISES * launch.rise, trace.volts.length / FORGETS_SHARE);
  const rough = launch.shape === 'step' ? groundOf(whole, reach, { extra, forgets }) : ground;
  const { shape, loss, tail, near } = learned;
  const start = {
    launch: shape,
    level: launch.shape === 'pulse' ? levelUnder(ground, shape) : 0,
    source: 1,
    tail,
    loss,
    echoes: near,
  };
  const leastV = STEPS_BY * stepError(quantumV, sampleNoiseV);
  // What is not found yet must not bend launch or line: they stay as learned.
  const begun = near.length > 0 ? fitEchoes(rough, start, known.loss, { rounds: 0 }) : start;
  const effort = known.hasty ? HASTY : PATIENT;
  const found = addEchoes(rough, begun, known.loss, { leastV, rounds: effort.adding });
  const fit = fitEchoes(ground, found, known.loss, effort.all);
  const modelV = modelOf(ground, fit).map((volt) => volt + launch.baselineV);
  return { trace, launch, learned, fit, ground, noiseV, quantumV, modelV };
}

/**
 * How far a quantised level may be off: a converter's steps, unless noise moves the signal to and fro
 * over them, are no noise but an error that stays.
 */
function stepError(quantumV: number, noiseV: number): number {
  if (quantumV === 0) return 0;
  const moves = Math.max(0, noiseV ** 2 - quantumV ** 2 / 12) / quantumV ** 2;
  return (quantumV / Math.PI) * Math.exp(-2 * Math.PI ** 2 * moves);
}

/** The level that most of a pulse's record lies on. */
const levelUnder = (ground: Ground, launch: PulseShape): number => {
  const alone = modelOf(ground, { launch, level: 0, source: 1, tail: 0, loss: 1, echoes: [] });
  return median(alone.map((volt, n) => ground.volts[n]! - volt));
};

/** The joint at the lead's far end, whose delay is known and whose height is not. */
function jointOf({ leadS }: Known, intervalS: number, rise: number): Echo[] {
  if (!leadS || !(leadS.delayS > 0)) return [];
  const samples = leadS.delayS / intervalS;
  if (samples < LEAST_LEAD * rise) return [];
  const deviation = Math.max(leadS.deviationS / intervalS, LEAD_KNOWN_TO * samples, 0.02);
  return [
    {
      delay: samples,
      share: 0,
      joint: true,
      likely: { share: 0, deviation: JOINT_DEVIATION, delay: { samples, deviation } },
    },
  ];
}

/** The launch's extra in the whole trace's samples. */
function placed({ extra, from }: LearnedLaunch, samples: number): Float64Array {
  const out = new Float64Array(samples);
  if (extra) out.set(extra.subarray(0, Math.max(0, samples - from)), from);
  return out;
}

function addEchoes(
  ground: Ground,
  start: Explanation,
  prior: LossPrior,
  { leastV, rounds }: { leastV: number; rounds: number },
): Explanation {
  const samples = ground.volts.length;
  let fit = start;
  let misfit = misfitOf(ground, start);
  const refused: number[] = [];
  while (fit.echoes.length < MOST_ECHOES && refused.length < MOST_REFUSED) {
    const claim = claimable(ground, fit);
    const near = edgeSpan(fit.launch);
    const own = fit.echoes.filter(({ share }) => Math.abs(share) < LINES_OWN).length;
    const leastShare = own < MOST_OWN ? 0 : LINES_OWN;
    const candidate = bestCandidate(
      ground,
      fit,
      (delay, share, heightV) =>
        heightV > leastV &&
        Math.abs(share) > leastShare &&
        refused.every((place) => Math.abs(place - delay) > near) &&
        claim(delay, share),
    );
    if (!candidate || candidate.standsOut < STANDS_OUT) return fit;
    const next = withEcho(ground, fit, candidate, prior, rounds);
    // The gain must be what a true echo gives, and every echo must have a place of its own.
    if (next.misfit > misfit - STANDS_OUT ** 2 || !apart(next, samples)) {
      refused.push(candidate.delay);
      continue;
    }
    fit = next;
    misfit = next.misfit;
  }
  return fit;
}

/** The fit with one more echo; a faint one may also be a matched end, seen only by what is slow. */
function withEcho(
  ground: Ground,
  fit: Explanation,
  { delay, share }: Candidate,
  prior: LossPrior,
  rounds: number,
): Fit {
  const samples = ground.volts.length;
  const placed = fit.echoes.length;
  /** An echo finds its place while all else stays; then all move. */
  const placedAt = (echo: Echo): Fit =>
    fitEchoes(ground, { ...fit, echoes: [...fit.echoes, echo] }, prior, {
      rounds: 0,
      enough: NEAR_ENOUGH,
      placed,
    });
  const letGo = (found: Fit): Fit =>
    fitEchoes(ground, found, prior, { rounds, enough: NEAR_ENOUGH, placed: placed + 1 });
  const echo = placedAt({ delay, share });
  const free = letGo(echo);
  // Where launch or line had to bend, more is missing than one echo: they stay as they were.
  const plain = sane(free, prior) ? free : echo;
  if (Math.abs(share) > FAINT || fit.echoes.some(({ soft }) => soft)) return plain;
  const edge = edgeSpan(fit.launch);
  const end = placedAt({ delay: Math.max(delay - edge / 2, edge), share: -Math.sign(share), soft: true });
  // What explains far less than the echo while all else stays does not explain more afterwards.
  const before = misfitOf(ground, fit);
  if (before - end.misfit < MAY_YET * (before - echo.misfit)) return plain;
  const matched = letGo(end);
  const holds = sane(matched, prior) && apart(matched, samples);
  return holds && matched.misfit < plain.misfit ? matched : plain;
}

/** Whether launch, source, line and lead are still what such things are. */
const sane = ({ loss, tail, source, echoes }: Fit, prior: LossPrior): boolean =>
  Math.abs(loss - prior.mean) < 4 * prior.deviation &&
  Math.abs(tail - 0.7) < 2 &&
  source > 0.3 &&
  source < 3 &&
  echoes.every(
    ({ delay, likely }) =>
      !likely?.delay || Math.abs(delay - likely.delay.samples) < LEAD_MOVES * likely.delay.deviation,
  );

/** Whether every echo lies in the record, is no larger than can be, and is told from every other. */
function apart({ launch, echoes, covariance }: Fit, samples: number): boolean {
  const least = LEAST_APART * edgeSpan(launch);
  const places = [0, ...echoes.filter(({ joint }) => !joint).map(({ delay }) => delay)].sort((a, b) => a - b);
  return (
    echoes.every(
      ({ delay, share, soft }) =>
        delay > 0 && delay + launch.at < samples && Math.abs(share) < MOST_SHARE * (soft ? 2 : 1),
    ) &&
    places.every((place, n) => n === 0 || place - places[n - 1]! > least) &&
    covariance() !== null
  );
}

/** Whether an echo is large enough beside what else lies where it would be. */
function claimable(ground: Ground, fit: Explanation): (delay: number, share: number) => boolean {
  const model = modelOf(ground, { ...fit, level: 0 });
  const samples = model.length;
  const length = fit.launch.shape === 'pulse' ? Math.exp(fit.launch.logWidth) : 0;
  const reach = Math.ceil(length + edgeSpan(fit.launch));
  // A step counts where it goes up or down, not where it stands.
  const height = fit.launch.shape === 'pulse' ? model : model.map((volt, n) => volt - (model[n - 1] ?? volt));
  const sums = new Float64Array(samples + 1);
  for (let n = 0; n < samples; n++) sums[n + 1] = sums[n]! + height[n]! ** 2;
  const launchFrom = Math.max(0, Math.floor(fit.launch.at - reach / 2));
  const own = sums[Math.min(samples, launchFrom + 2 * reach)]! - sums[launchFrom]!;
  return (delay, share) => {
    const from = Math.max(0, Math.floor(fit.launch.at + delay - reach / 2));
    const there = sums[Math.min(samples, from + 2 * reach)]! - sums[Math.min(from, samples)]!;
    return share * share * own > SHAPE_KNOWN_TO ** 2 * there && delay > edgeSpan(fit.launch) / 3;
  };
}
