import type { Reflected } from '../events.js';
import { groundOf, type Ground } from '../ground.js';
import { reachOf } from '../launch-shape.js';
import { edgeSpan, type PulseShape } from '../pulse-shape.js';
import { averaged } from '../trace.js';
import type { Part } from './chain.js';
import type { ChainPrior } from './chain-fit.js';
import type { ChainModel } from './chain-model.js';
import { searchChain, settleChains, type ChainSearch, type Effort, type Heard } from './chain-search.js';

/** A search goes through so many samples quickly; edges keep so many. */
const QUICK_SAMPLES = 500;
const EDGE_SAMPLES = 1.5;
/** A lower band is worth it where it leaves half of the samples, or less. */
const LEAST_SAVED = 2;
/** Explanations that are fitted on the whole record. */
const SETTLED = 4;
/** Echoes nearer to one another than so many samples of a lower band are not told apart in it. */
const TOLD_APART = 2;
/** Where the whole record leaves so many times what fewer samples did, it shows what they do not: it is searched itself. */
const SHOWS_MORE = 1.25;

/** What is searched, and with what. */
export interface Search {
  ground: Ground;
  /** The noise that was heard, volts: the ground's own holds what lines and launches are off as well. */
  heardV: number;
  start: ChainModel;
  prior: ChainPrior;
  /** Samples of a launch's edge. */
  edge: number;
  /** Echoes that were found, in the ground's samples. */
  echoes: readonly Reflected[];
}

/** A record with fewer samples. */
interface Coarse {
  volts: Float64Array;
  noiseV: number;
  /** Samples of the whole record in one of these, and where the first of these lies among those. */
  by: number;
  first: number;
  /** Deviation of the band limit that was put on it, in the whole record's samples. */
  softness: number;
}

/**
 * Searches a long record with fewer samples, and fits what was found on the whole one; a short record is searched as it is.
 *
 * @param heard is told how much of the work is done
 */
export function searchQuickly(search: Search, effort: Effort, heard: Heard): ChainSearch {
  const { ground, start, prior, echoes } = search;
  const coarse = coarsened(search);
  const searched = (told: Heard): ChainSearch => searchChain(ground, start, prior, echoes, told, effort);
  if (!coarse) return searched(heard);
  const { volts, noiseV, by, softness } = coarse;
  const launch = launchSeenIn(coarse, start.launch);
  const { scatter, all } = searchChain(
    groundOf({ volts, noiseV, intervalS: ground.intervalS * by, line: ground.line }, reachOf(launch)),
    { ...scaled(start, by), launch },
    {
      ...prior,
      flat: prior.flat * by,
      skin: prior.skin * Math.sqrt(by),
      lead: prior.lead && { at: prior.lead.at / by, deviation: prior.lead.deviation / by },
      input: { mean: prior.input.mean / by, deviation: prior.input.deviation / by },
    },
    echoes.map((echo) => ({ ...echo, delay: echo.delay / by, delayDeviation: echo.delayDeviation / by })),
    (share) => heard(0.8 * share),
    effort,
  );
  const models = all.slice(0, SETTLED).map(({ fit }): ChainModel => ({
    ...scaled(fit, 1 / by),
    // In a lower band a launch's own form is no longer seen.
    launch: softness > 0 ? start.launch : launchFrom(coarse, fit.launch),
  }));
  const settled = settleChains(ground, models, prior, Math.max(2, 0.6 * edgeSpan(start.launch)));
  if (softness === 0 || settled.scatter < SHOWS_MORE * scatter) return settled;
  const whole = searched(() => undefined);
  return whole.scatter < settled.scatter ? whole : settled;
}

/**
 * Means of so many samples where edges keep enough of them, and else a lower band; null where the record is short already.
 */
function coarsened({ ground, heardV, edge, echoes }: Search): Coarse | null {
  const { volts, noiseV, intervalS } = ground;
  const wanted = Math.ceil(volts.length / QUICK_SAMPLES);
  const by = Math.min(wanted, Math.floor(edge / EDGE_SAMPLES));
  // Of so many samples the mean stands in their middle.
  if (by > 1)
    return {
      volts: averaged({ intervalS, startS: 0, volts }, by).volts,
      noiseV,
      by,
      first: (by - 1) / 2,
      softness: 0,
    };
  const lower = Math.min(wanted, Math.floor(leastBetween(echoes) / TOLD_APART));
  return lower < LEAST_SAVED ? null : inLowerBand(volts, lower, { noiseV, heardV });
}

/** Samples between the launch and two echoes that are nearest to one another. */
function leastBetween(echoes: readonly Reflected[]): number {
  const places = [0, ...echoes.filter(({ soft }) => !soft).map(({ delay }) => delay)].sort((a, b) => a - b);
  return Math.min(...places.slice(1).map((place, n) => place - (places[n] as number)));
}

/** How far a normal curve reaches, in its deviations. */
const REACHES = 3.5;

/** Every so many samples of a record seen through a normal curve of that deviation, as far as the record has all of it. */
function inLowerBand(
  volts: Float64Array,
  by: number,
  { noiseV, heardV }: { noiseV: number; heardV: number },
): Coarse {
  const reach = Math.ceil(REACHES * by);
  const curve = Array.from({ length: 2 * reach + 1 }, (_, n) => Math.exp(-0.5 * ((n - reach) / by) ** 2));
  const sum = curve.reduce((all, weight) => all + weight, 0);
  const seen = Float64Array.from({ length: Math.floor((volts.length - 1 - reach) / by) + 1 }, (_, n) =>
    // The line was at rest before the record.
    curve.reduce(
      (all, weight, k) => all + (weight / sum) * (volts[Math.max(0, n * by + k - reach)] as number),
      0,
    ),
  );
  // Noise is averaged; what a line is off goes with what it sends back.
  const heardThrough = heardV / Math.sqrt(2 * by * Math.sqrt(Math.PI));
  const off = (Math.sqrt(Math.max(0, noiseV ** 2 - heardV ** 2)) * greatest(seen)) / greatest(volts);
  return { volts: seen, noiseV: Math.hypot(heardThrough, off), by, first: 0, softness: by };
}

const greatest = (volts: Float64Array): number =>
  volts.reduce((most, volt) => Math.max(most, Math.abs(volt)), 0);

/** A launch in a coarser record's samples. */
function launchSeenIn({ by, first, softness }: Coarse, launch: PulseShape): PulseShape {
  const soft = { ...launch, logDeviation: Math.log(Math.hypot(Math.exp(launch.logDeviation), softness)) };
  return { ...scaledTimes(soft, by), at: (launch.at - first) / by };
}

/** The same launch in the whole record's samples, where nothing was softened. */
const launchFrom = ({ by, first }: Coarse, launch: PulseShape): PulseShape => ({
  ...scaledTimes(launch, 1 / by),
  at: launch.at * by + first,
});

/** A launch's times by its place in samples that are `by` times as long. */
function scaledTimes(launch: PulseShape, by: number): PulseShape {
  const log = Math.log(by);
  return {
    ...launch,
    logDeviation: launch.logDeviation - log,
    logLag: launch.logLag - log,
    logRamp: launch.logRamp - log,
    logWidth: launch.shape === 'pulse' ? launch.logWidth - log : launch.logWidth,
  };
}

/** A chain, and what its wire and source are, in samples that are `by` times as long. */
function scaled(model: ChainModel, by: number): Omit<ChainModel, 'launch'> {
  const { lead, parts, end } = model.chain;
  return {
    level: model.level,
    source: model.source,
    input: model.input / by,
    flat: model.flat * by,
    skin: model.skin * Math.sqrt(by),
    chain: {
      lead: lead && { ...lead, at: lead.at / by },
      parts: parts.map((part): Part =>
        'length' in part
          ? { ...part, at: part.at / by, length: part.length / by }
          : { ...part, at: part.at / by },
      ),
      end: { ...end, at: end.at / by },
    },
  };
}
