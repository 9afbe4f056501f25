import type { Explained } from '../explain-trace.js';
import type { LossPrior } from '../echo-fit.js';
import { type EventKind, type KindShare, type Named, type Reflected } from '../events.js';
import { edgeSpan } from '../pulse-shape.js';
import { behind, reflectionOf, type Chain, type Part } from './chain.js';
import { chainAt, type ChainPrior } from './chain-fit.js';
import { voltsOf, type ChainModel } from './chain-model.js';
import { isLeakOf } from './chain-changes.js';
import { EFFORTS, type ChainSearch, type Effort, type Heard } from './chain-search.js';
import { searchQuickly } from './quick-search.js';

/** What a chain says of a trace. */
export interface ByChain {
  named: Named[];
  search: ChainSearch;
  /** No chain that was tried explains it: kinds are guesses. */
  unexplained: boolean;
  /** What the chain would show, volts over the trace's ground. */
  modelV: Float64Array;
  /** The source's resistance by the impedance of what it feeds, lead or line. */
  source: number;
}

/** No line is even, and no launch and loss follow a law, to better than this share of the launch. */
const UNEVEN = 0.0025;
/** Less than this is a joint, more a resistance. */
const JOINT = 0.07;
/** Where the best explanation leaves so many times the noise, it is none; its kinds are believed this much at most. */
const UNEXPLAINED = 4;
const GUESSED = 0.5;
/** Some lines have what no chain of ours has (measured on lines of another world): nothing is surer than this. */
const MOST_SURE = 0.965;
/** No line is even: what sends back less is the line's own. */
const LINES_OWN = 0.02;
/** What sends back so much is as good as an end: a short of some ohms, an open that leaks. */
const AS_GOOD_AS = 0.88;
/** The lead's joint is listed where it sends back so much. */
const LEAD_SEEN = 0.02;
/** How sure it is that a reflection at the lead's far end is its joint. */
const LEAD_SURE = 0.97;
/** An echo is a thing's own where it is nearer than this share of the launch's edge. */
const SAME_PLACE = 0.25;
/** Less belief than this in another kind is not worth a word. */
const WORTH_NAMING = 0.02;
/** How the far end is, as a person sees it there. */
export const FAR_ENDS = ['open', 'joined', 'connected'] as const;
export type FarEnd = (typeof FAR_ENDS)[number];

/**
 * What is seen at the far end speaks for and against what the line ends in, as logarithms. A break or a dead short on the
 * way ends it before that, whatever hangs at its end.
 */
const TOLD_END: Readonly<Record<FarEnd, ChainPrior['ends']>> = {
  open: { matched: -5 },
  joined: { matched: -5 },
  connected: { matched: 1.5, beyond: 0.5, open: -3, short: -3 },
};

/** Frequencies that an edge of so many samples speaks of most. */
const SPEAKS_OF = 2;

/** Explains a trace, taken apart into launch and echoes, by a chain of physical things. */
export function explainByChain(
  { fit, ground: given, learned }: Explained,
  echoes: readonly Reflected[],
  loss: LossPrior,
  {
    lead,
    input,
    farEnd,
  }: {
    lead: { at: number; deviation: number } | null;
    input: { mean: number; deviation: number };
    farEnd?: FarEnd | undefined;
  },
  heard: Heard = () => undefined,
): ByChain {
  // A launch's extra was learned beside echoes alone: what a chain makes of them may be in it.
  const ground = {
    ...given,
    extraRe: given.extraRe.map(() => 0),
    extraIm: given.extraIm.map(() => 0),
    noiseV: Math.hypot(given.noiseV, UNEVEN * fit.launch.height),
  };
  const edge = edgeSpan(fit.launch);
  const omega = Math.min(Math.PI / 2, SPEAKS_OF / Math.max(1, edge));
  const bin = Math.min(ground.omega.length - 1, Math.round((omega * ground.size) / (2 * Math.PI)));
  const per = Math.max(1e-7, ground.lossRe[bin] as number);
  const prior: ChainPrior = {
    flat: per,
    skin: per / Math.sqrt(omega / 2),
    mean: loss.mean,
    deviation: loss.deviation,
    lead,
    input,
    ...(farEnd ? { ends: TOLD_END[farEnd], loaded: farEnd === 'connected' } : {}),
  };
  const start: ChainModel = {
    launch: learned.near.length > 0 ? fit.launch : learned.shape,
    level: fit.level,
    source: 1,
    input: Math.max(input.mean, 0.1 * input.deviation),
    flat: 0.2 * prior.flat * loss.mean,
    skin: 0.25 * prior.skin * loss.mean,
    chain: { lead: lead ? { at: lead.at, value: 0 } : null, parts: [], end: { kind: 'beyond', at: 0 } },
  };
  const searched = (effort: Effort, told: Heard): ChainSearch =>
    searchQuickly({ ground, heardV: given.noiseV, start, prior, edge, echoes }, effort, told);
  let search = searched(EFFORTS.usual, heard);
  // What is not explained is looked for harder, before it is called so.
  if (search.scatter > UNEXPLAINED) {
    const harder = searched(EFFORTS.hard, () => undefined);
    if (harder.scatter < search.scatter) search = harder;
  }
  const { source, chain } = search.best.fit;
  return {
    // What the input makes late is known where it was told; fitted, it may stand for what the loss does.
    named: nameChain(search, echoes, edge, (input.mean * source) / (1 + source)),
    search,
    unexplained: search.scatter > UNEXPLAINED,
    modelV: voltsOf(ground, search.best.fit),
    source: source / Math.exp(chain.lead?.value ?? 0),
  };
}

const PART_KINDS: Readonly<Record<Part['kind'], (reflection: number) => EventKind>> = {
  series: (r) => (r < JOINT ? 'joint' : r > AS_GOOD_AS ? 'open' : 'series-resistance'),
  shunt: (r) => (r > -JOINT ? 'joint' : r < -AS_GOOD_AS ? 'short' : 'wet-or-shunt'),
  section: (r) => (r < 0 ? 'low-section' : 'high-section'),
  stub: () => 'stub',
};

function nameChain(
  { best, all, scatter, together }: ChainSearch,
  echoes: readonly Reflected[],
  edge: number,
  late: number,
): Named[] {
  const { fit } = best;
  const { chain } = fit;
  const covariance = fit.covariance();
  const total = all.reduce((sum, { evidence }) => sum + Math.exp(evidence - best.evidence), 0);
  const size = covariance ? Math.round(Math.sqrt(covariance.length)) : 0;
  const widened = scatter * Math.sqrt(together);
  const deviationOf = (index: number): number =>
    covariance ? widened * Math.sqrt(Math.max(0, covariance[index * size + index] as number)) : Infinity;
  /** Belief in a thing of a kind about a place. */
  const shareOf = (kind: EventKind, at: number): number =>
    all.reduce(
      (sum, { fit: other, evidence }) =>
        sum +
        (kindsOf(other.chain).some((each) => each.kind === kind && Math.abs(each.at - at) < edge)
          ? Math.exp(evidence - best.evidence)
          : 0),
      0,
    ) / total;
  /** What else a thing of a kind about a place could be. */
  const othersThan = (kind: EventKind, at: number): KindShare[] =>
    [...new Set(all.flatMap(({ fit: other }) => kindsOf(other.chain)).map((each) => each.kind))]
      .filter((other) => other !== kind)
      .map((other) => ({ kind: other, probability: shareOf(other, at) }))
      .filter(({ probability }) => probability > WORTH_NAMING)
      .sort((a, b) => b.probability - a.probability);
  let index = chainAt(fit);
  const named: Named[] = [];
  const add = (
    kind: EventKind,
    at: number,
    reflection: number,
    deviation: number,
    through: number | null,
  ): void => {
    const echo = echoes.find(
      ({ delay, soft }) => !soft && Math.abs(delay - at) < Math.max(SAME_PLACE * edge, 1),
    );
    // An echo of its own is timed by itself, best.
    const own = echo && !('length' in echo) ? echo.delay - late : at;
    named.push({
      delay: own,
      delayDeviation: echo ? Math.hypot(echo.delayDeviation, (own - at) / 2) : deviation,
      share: echo?.share ?? reflection,
      shareDeviation: echo?.shareDeviation ?? 0.05,
      kind,
      // The lead's far end is where it was told to be.
      probability:
        chain.lead && at === chain.lead.at
          ? LEAD_SURE
          : Math.min(scatter > UNEXPLAINED ? GUESSED : MOST_SURE, shareOf(kind, at)),
      reflection,
      ghostOf: null,
      through,
      or: chain.lead && at === chain.lead.at ? [] : othersThan(kind, at),
    });
  };
  if (chain.lead) {
    const r = Math.tanh(-chain.lead.value / 2);
    const deviation = deviationOf(index + 1);
    if (Math.abs(r) > Math.max(LEAD_SEEN, 2.5 * deviation))
      add('joint', chain.lead.at, r, deviationOf(index), null);
    index += 2;
  }
  const hidden = chain.parts.findIndex(hides);
  for (const [n, part] of chain.parts.entries()) {
    if (hidden >= 0 && n > hidden) break;
    const r = reflectionOf(part);
    const through = part.kind === 'section' || part.kind === 'stub' ? part.length : null;
    // A part that a fit has shrunk to less than a line's own unevenness is none; a stretch's leak is of the stretch.
    const ofStretch = chain.parts.some((section) => isLeakOf(part, section, edge));
    if (Math.abs(r) >= LINES_OWN && !ofStretch)
      add(PART_KINDS[part.kind](r), part.at, r, deviationOf(index), through);
    index += part.kind === 'section' ? 3 : 2;
  }
  const { end } = chain;
  // Behind what is as good as an end nothing can be told.
  if (chain.parts.some(hides)) return withGhosts(named, echoes, chain, edge);
  if (end.kind === 'open') add('open', end.at, 1, deviationOf(index), null);
  else if (end.kind === 'short') add('short', end.at, -1, deviationOf(index), null);
  else if (end.kind === 'matched') add('matched-end', end.at, 0, deviationOf(index), null);
  return withGhosts(named, echoes, chain, edge);
}

const hides = (part: Part): boolean =>
  (part.kind === 'series' || part.kind === 'shunt') && Math.abs(reflectionOf(part)) > AS_GOOD_AS;

function kindsOf({ parts, end }: Chain): { kind: EventKind; at: number }[] {
  const ends: { kind: EventKind; at: number }[] =
    end.kind === 'beyond' ? [] : [{ kind: end.kind === 'matched' ? 'matched-end' : end.kind, at: end.at }];
  return [
    ...parts.map((part) => ({ kind: PART_KINDS[part.kind](reflectionOf(part)), at: part.at })),
    ...ends,
  ];
}

/** Echoes that are no thing of the chain go to and fro between two of them. */
function withGhosts(
  named: readonly Named[],
  echoes: readonly Reflected[],
  { parts }: Chain,
  edge: number,
): Named[] {
  const edges = [...named.map(({ delay }) => delay), ...parts.map(behind)];
  const out = [...named];
  for (const echo of echoes) {
    if (echo.soft || edges.some((at) => Math.abs(at - echo.delay) < edge / 2)) continue;
    const makers = named
      .flatMap((second, b) =>
        named
          .slice(0, b)
          .map((first, a) => ({ a, b, off: Math.abs(2 * second.delay - first.delay - echo.delay) })),
      )
      .sort((one, other) => one.off - other.off)[0];
    if (!makers || makers.off > edge) continue;
    out.push({
      ...echo,
      kind: 'ghost',
      probability: 0.9,
      reflection: echo.share,
      ghostOf: [makers.a, makers.b],
      through: null,
    });
  }
  return out
    .sort((one, other) => one.delay - other.delay)
    .map((event, _n, sorted) => ({
      ...event,
      ghostOf: event.ghostOf
        ? [sorted.indexOf(named[event.ghostOf[0]] as Named), sorted.indexOf(named[event.ghostOf[1]] as Named)]
        : null,
    }));
}
