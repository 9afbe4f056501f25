import type { Reflected } from '../events.js';
import type { Ground } from '../ground.js';
import { edgeSpan } from '../pulse-shape.js';
import {
  behind,
  isPossible,
  reflectionOf,
  type Chain,
  type LineEnd,
  type Part,
  type PartKind,
} from './chain.js';
import { changesOf, grow, isLeakOf, strengthOf } from './chain-changes.js';
import { proposeChains } from './propose.js';
import { fitChain, type ChainFit, type ChainPrior } from './chain-fit.js';
import type { ChainModel } from './chain-model.js';

/** A chain as an explanation of a trace, with what it is worth. */
export interface Explaining {
  fit: ChainFit;
  /** Logarithm of its evidence, up to what all share. */
  evidence: number;
}

export interface ChainSearch {
  best: Explaining;
  /** All that were fitted to the end, the best first. */
  all: readonly Explaining[];
  /** Deviation of a residual by the noise's: what the best leaves. */
  scatter: number;
  /** Samples that err together where the model is not the world. */
  together: number;
}

/** Logarithms of how commonly a thing is met, a bare line being nought. */
const MET: Readonly<Record<PartKind, number>> = { series: -2.5, shunt: -2.8, section: -3.2, stub: -3.2 };
const MET_END: Readonly<Record<LineEnd['kind'], number>> = {
  open: -0.5,
  short: -1.2,
  matched: -1.2,
  beyond: -1.6,
};
/** Most things in a line's way. */
const MOST_PARTS = 5;
/** Ends, and chains, that are taken further. */
const KEPT_ENDS: readonly [LineEnd['kind'], number][] = [
  ['open', 3],
  ['short', 1],
  ['matched', 1],
  ['beyond', 1],
];
const BEAM = 3;
/** Chains that the echoes speak for best, and are glanced at. */
const PROPOSED = 24;
/** Steps of a fit that only sorts. */
const GLANCE = 2;

/** How far a search goes before it is content. */
export interface Effort {
  /** Chains that are fitted of those glanced at. */
  glanced: number;
  /** Rounds without gain after which nothing more is tried. */
  idle: number;
  /** Steps of a fit that weighs chains against each other. */
  rough: number;
}

/** Enough for most traces, and for what that does not explain. */
export const EFFORTS: Readonly<Record<'usual' | 'hard', Effort>> = {
  usual: { glanced: 6, idle: 0, rough: 6 },
  hard: { glanced: 14, idle: 0, rough: 16 },
};
/** What a thing has to gain. */
const WORTH = 2;
/** A misfit by noise alone is within so many of its deviations. */
const NOISE_ALLOWS = 4;
const FINE = 25;
/** Is told how much of the work is done, 0 to 1. */
export type Heard = (share: number) => void;

/** Where in the work its parts end: ends tried, things put in the way, changes tried. */
const DONE = { ends: 0.15, growing: 0.7, changes: [0.85, 1] } as const;

/** While chains are weighed against each other, a fit may be off by so much of a logarithm. */
const NEAR_ENOUGH = 0.1;

/** The least echo of the launch that can be a line's end. */
const LEAST_END = 0.012;

/** A chain to go on from, with the figures to begin with. */
interface Node {
  chain: Chain;
  from: ChainModel;
  fit: ChainFit;
}

/** A fit that leaves so many times the noise has bent its figures to hide what it does not have. */
const EXPLAINS_MOST = 4;
/** Bare ends that are fitted in full. */
const REFINED = 3;
/** What is so far behind the best, as a logarithm, is not fitted closer. */
const OUT_OF_REACH = 40;
/** A change that some steps leave so far behind is not followed further. */
const HOPELESS = 2000;

interface Task {
  ground: Ground;
  prior: ChainPrior;
  start: ChainModel;
  echoes: readonly Reflected[];
  /** Nearer than this two places are one, samples. */
  near: number;
}

/**
 * Explains a trace as a chain: ends are tried at the echoes that could be one, and things put in the way, one at
 * a time, while that is worth what it costs; then each thing is taken out and changed for others.
 */
export function searchChain(
  ground: Ground,
  start: ChainModel,
  prior: ChainPrior,
  echoes: readonly Reflected[],
  heard: Heard = () => undefined,
  effort: Effort = EFFORTS.usual,
): ChainSearch {
  const near = Math.max(2, 0.6 * edgeSpan(start.launch));
  const task: Task = { ground, prior, start, echoes, near };
  const room = ground.volts.length - start.launch.at;
  const quick = (chain: Chain, like: ChainModel, held: boolean, rounds = effort.rough): ChainFit | null =>
    isPossible(chain, room)
      ? fitChain(ground, { ...like, chain }, prior, {
          rounds,
          launchHeld: held,
          noiseV: ground.noiseV * slack,
          enough: rounds < FINE ? NEAR_ENOUGH : undefined,
        })
      : null;
  // What is not explained yet counts as noise.
  let slack = 1;
  const lead = start.chain.lead;
  const ends = endsOf(task).map((end): Chain => ({ lead, parts: [], end }));
  /** A chain fitted from sensible figures; what it makes of them is kept only where it explains most. */
  const nodeOf = (chain: Chain, from: ChainModel): Node | null => {
    const fit = quick(chain, from, true);
    if (!fit) return null;
    const good = fit.misfit < EXPLAINS_MOST * ground.volts.length;
    return good ? { chain: fit.chain, from: fit, fit } : { chain, from, fit };
  };
  const starts = startsOf(start, echoes, near);
  const tried = starts
    .flatMap((from) => ends.flatMap((chain) => nodeOf({ ...chain, lead: from.chain.lead }, from) ?? []))
    .sort((a, b) => worth(b.fit, task, slack, 1) - worth(a.fit, task, slack, 1));
  // Of each kind of end the likeliest: one that explains little yet may explain all with a thing before it.
  let beam = KEPT_ENDS.flatMap(([kind, most]) =>
    tried
      .filter(({ chain }) => chain.end.kind === kind)
      .filter(
        ({ chain }, n, same) =>
          same.findIndex((other) => Math.abs(other.chain.end.at - chain.end.at) < near) === n,
      )
      .slice(0, most),
  );
  // What the echoes alone speak for, fitted: mostly the whole of it.
  const proposed = starts
    .flatMap((from) =>
      proposeChains(from.chain.lead, echoes, { near, until: room })
        .slice(0, PROPOSED)
        .flatMap(({ chain }) => {
          const fit = quick(chain, from, true, GLANCE);
          return fit ? [{ chain, from, fit }] : [];
        }),
    )
    .sort((a, b) => worth(b.fit, task, slack, 1) - worth(a.fit, task, slack, 1))
    .slice(0, BEAM)
    .flatMap(({ chain, from }) => nodeOf(chain, from) ?? []);
  beam = [...proposed, ...beam].sort((a, b) => worth(b.fit, task, slack, 1) - worth(a.fit, task, slack, 1));
  const refined = beam.slice(0, REFINED).flatMap(({ fit }) => quick(fit.chain, fit, false, 8) ?? []);
  const finished: ChainFit[] = [...refined, ...beam.map(({ fit }) => fit)];
  const samples = ground.volts.length;
  heard(DONE.ends);
  let idle = 0;
  for (let round = 0; round < MOST_PARTS && beam.length > 0; round++) {
    const least = Math.min(...finished.map(({ misfit }) => misfit));
    // What is left is noise: nothing more stands in it.
    if (least < samples + NOISE_ALLOWS * Math.sqrt(2 * samples)) break;
    slack = Math.max(1, Math.sqrt(least / samples));
    const together = togetherOf(slack, near);
    const before = Math.max(...finished.map((fit) => worth(fit, task, slack, together)));
    const byWorth = (a: { fit: ChainFit }, b: { fit: ChainFit }): number =>
      worth(b.fit, task, slack, together) - worth(a.fit, task, slack, together);
    // A glance at each tells which are worth a fit.
    const glanced = beam
      .flatMap(({ chain, from }) =>
        grow(chain, task).flatMap((next) => {
          const fit = quick(next, from, true, GLANCE);
          return fit ? [{ next, from, fit }] : [];
        }),
      )
      .sort(byWorth)
      .slice(0, effort.glanced);
    const grown = glanced
      .flatMap(({ next, from }) => nodeOf(next, from) ?? [])
      .sort(byWorth)
      .slice(0, BEAM);
    const most = grown[0] ? worth(grown[0].fit, task, slack, together) : 0;
    beam = grown.flatMap((node): Node[] => {
      const { fit } = node;
      if (worth(fit, task, slack, together) < most - OUT_OF_REACH) return [node];
      const free = quick(fit.chain, fit, false, 10);
      return free ? [{ chain: free.chain, from: free, fit: free }] : [];
    });
    finished.push(...beam.map(({ fit }) => fit));
    heard(DONE.ends + ((DONE.growing - DONE.ends) * (round + 1)) / MOST_PARTS);
    const [top] = beam;
    if (top && worth(top.fit, task, slack, together) > before + WORTH) idle = 0;
    else if (++idle > effort.idle) break;
  }
  const scale = (fits: readonly ChainFit[]): [number, number] => {
    const least = Math.min(...fits.map(({ misfit }) => misfit));
    const scatter = Math.max(1, Math.sqrt(least / ground.volts.length));
    return [scatter, togetherOf(scatter, near)];
  };
  let [scatter, together] = scale(finished);
  const ranked = (fits: readonly ChainFit[]): ChainFit[] =>
    [...fits].sort((a, b) => worth(b, task, scatter, together) - worth(a, task, scatter, together));
  slack = scatter;
  let settled = ranked(finished)
    .slice(0, 3)
    .flatMap((fit) => quick(fit.chain, fit, false, FINE) ?? []);
  for (let again = 0; again < 2; again++) {
    const [top] = ranked(settled);
    if (!top) break;
    const reach = worth(top, task, scatter, together) - HOPELESS;
    const others = changesOf(top.chain, task)
      .flatMap((chain) => quick(chain, top, false, 4) ?? [])
      .filter((fit) => worth(fit, task, scatter, together) > reach)
      .flatMap((fit) => quick(fit.chain, fit, false, 6) ?? []);
    settled = ranked([...settled, ...others]);
    [scatter, together] = scale(settled);
    settled = ranked(settled);
    heard(DONE.changes[again] ?? 1);
    if (settled[0] === top) break;
    const [better] = settled;
    if (better) settled.unshift(...[quick(better.chain, better, false, FINE) ?? []].flat());
  }
  return weighed([...settled, ...ranked(finished).slice(0, BEAM)], task, scatter, together);
}

/** Explanations by what is believed of them, the likeliest first; of each the best fit alone. */
function weighed(
  fits: readonly ChainFit[],
  task: Pick<Task, 'ground' | 'near' | 'prior'>,
  scatter: number,
  together: number,
): ChainSearch {
  const excess = task.ground.volts.length * (scatter ** 2 - 1);
  const all: Explaining[] = [];
  for (const fit of [...fits].sort((a, b) => a.misfit - b.misfit))
    if (!all.some((other) => sameThings(other.fit.chain, fit.chain, task.near / 2)))
      all.push({ fit, evidence: worth(fit, task, scatter, together, excess) });
  all.sort((a, b) => b.evidence - a.evidence);
  return { best: all[0] as Explaining, all, scatter, together };
}

/** Whether two chains are the same things at the same places. */
function sameThings(one: Chain, other: Chain, near: number): boolean {
  const same = (a: { kind: string; at: number }, b: { kind: string; at: number } | undefined): boolean =>
    b !== undefined && a.kind === b.kind && Math.abs(a.at - b.at) < near;
  return (
    one.parts.length === other.parts.length &&
    one.parts.every((part, n) => same(part, other.parts[n])) &&
    (one.end.kind === 'beyond' ? other.end.kind === 'beyond' : same(one.end, other.end))
  );
}

/**
 * Chains found on a coarser record, fitted on the whole one.
 * @param models in the whole record's samples, the best first
 */
export function settleChains(
  ground: Ground,
  models: readonly ChainModel[],
  prior: ChainPrior,
  near: number,
): ChainSearch {
  const fits = models.map((model, n) =>
    fitChain(ground, model, prior, {
      rounds: n === 0 ? FINE : FINE / 2,
      launchHeld: false,
      enough: n === 0 ? undefined : NEAR_ENOUGH,
    }),
  );
  const least = Math.min(...fits.map(({ misfit }) => misfit));
  const scatter = Math.max(1, Math.sqrt(least / ground.volts.length));
  return weighed(fits, { ground, near, prior }, scatter, togetherOf(scatter, near));
}

/**
 * What the best explanation leaves over the noise is the world's, which no model has: another that leaves as much less
 * or more has this much for or against it and no more, as twice a logarithm.
 */
const EXCESS_TELLS = 24;
/** As a share of the noise's own misfit. */
const FLOOR = 1;

/** Where the model is not the world, what is left hangs together over an edge. */
const togetherOf = (scatter: number, near: number): number => 1 + (near - 1) * (1 - 1 / scatter ** 2);

/** Logarithm of the evidence for a chain: how it fits, what its figures cost, how commonly such things are met. */
function worth(
  fit: ChainFit,
  { ground, near, prior }: Pick<Task, 'ground' | 'near' | 'prior'>,
  scatter: number,
  together: number,
  excess = 0,
): number {
  const { parts, end } = fit.chain;
  const effective = ground.volts.length / together;
  const figures =
    parts.reduce((sum, { kind }) => sum + (kind === 'section' ? 3 : 2), 0) + (end.kind === 'beyond' ? 0 : 1);
  // Less than the noise is left by no truth: what fits better than that fits the noise.
  const misfit = Math.max(fit.misfit, ground.volts.length * scatter ** 2 * FLOOR);
  return (
    -(misfit / Math.max(scatter ** 2 * together, 1 + excess / EXCESS_TELLS) + Math.min(fit.strained, 200)) /
      2 -
    0.5 * figures * Math.log(Math.max(8, effective)) +
    MET_END[end.kind] +
    (prior.ends?.[end.kind] ?? 0) +
    parts.reduce(
      (sum, part, n) =>
        sum +
        (prior.loaded && end.kind === 'beyond' && n === parts.length - 1 && isLumped(part)
          ? 0
          : MET[part.kind] + smallness(part) + hiding(part) + branching(part, end)),
      0,
    ) +
    COINCIDENCE * coincidences(fit.chain, near)
  );
}

/** What an uneven line sends back of itself, and how far lines differ in that. */
const OWN = 0.05;
const OWN_DEVIATION = 0.01;

/** Faint things are the line's own unevenness more often than things. */
const smallness = (part: Part): number => {
  const size = Math.abs(reflectionOf(part));
  return size > OWN ? 0 : -0.5 * ((OWN - size) / OWN_DEVIATION) ** 2;
};

/** A resistor that hides what is behind it is far rarer than an end: from this reflection on, by its logarithm. */
const HIDES = 0.6;
const HIDING = -12;
const isLumped = ({ kind }: Part): boolean => kind === 'series' || kind === 'shunt';
const hiding = (part: Part): number => (isLumped(part) && Math.abs(reflectionOf(part)) > HIDES ? HIDING : 0);

/** Which of two ways is the line and which the branch one end cannot tell; mostly the longer is the line. */
const LONGER = -2;
const branching = (part: Part, end: LineEnd): number =>
  part.kind === 'stub' && end.kind !== 'beyond' && part.at + part.length > end.at ? LONGER : 0;

/** A lead may be of another impedance, and the source made to match it. */
function startsOf(start: ChainModel, echoes: readonly Reflected[], near: number): ChainModel[] {
  const { lead } = start.chain;
  if (!lead) return [start];
  const joint = echoes.find(({ delay }) => Math.abs(delay - lead.at) < near);
  const value = joint ? -2 * Math.atanh(Math.max(-0.6, Math.min(0.6, joint.share))) : 0;
  const sources = Math.abs(value) > 0.1 ? [Math.exp(value), 1] : [1];
  return sources.map((source) => ({ ...start, source, chain: { ...start.chain, lead: { ...lead, value } } }));
}

/** Two things at one place would have to have met there by chance. */
const COINCIDENCE = -8;

function coincidences({ lead, parts, end }: Chain, near: number): number {
  const edges = [lead?.at ?? 0, ...parts.flatMap((part) => [part.at, behind(part)])];
  if (end.kind !== 'beyond') edges.push(end.at);
  const own = new Set(
    parts.flatMap((part) => {
      if (part.kind !== 'section') return [];
      // A stretch's edges belong together, and so does its leak.
      return parts.some((leak) => isLeakOf(leak, part, near)) ? [part.at, behind(part)] : [part.at];
    }),
  );
  return edges
    .sort((a, b) => a - b)
    .filter((at, n, all) => {
      const before = all[n - 1];
      // The two edges of a short section belong together.
      return before !== undefined && at > before && at - before < 0.6 * near && !own.has(before);
    }).length;
}

function endsOf({ ground, echoes, start, near }: Task): LineEnd[] {
  const room = ground.volts.length - start.launch.at;
  const record: LineEnd = { kind: 'beyond', at: 0 };
  const own = echoes.filter(({ delay, soft }) => !soft && delay > (start.chain.lead?.at ?? 0) + near / 3);
  const strong = [...own]
    .sort((a, b) => strengthOf(b) - strengthOf(a))
    .slice(0, 5)
    .filter(({ share }) => Math.abs(share) > LEAST_END);
  return [
    record,
    ...strong.map(({ delay, share }): LineEnd => ({ kind: share > 0 ? 'open' : 'short', at: delay })),
    ...[...echoes.slice(-2).map(({ delay }) => delay), ...RECORD_SHARES.map((share) => share * room)].map(
      (at): LineEnd => ({ kind: 'matched', at }),
    ),
  ];
}

/** A matched end has no echo to be tried at: shares of the record. */
const RECORD_SHARES = [0.2, 0.6];
