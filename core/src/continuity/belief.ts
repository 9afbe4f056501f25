import { carriedSlips, faultsAlongCable, faultsAtEnd } from './catalogue.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { inflict, type FaultPlace, type PhysicalFault } from './faults.js';
import { frameOf, type Frame } from './frame.js';
import { fromState, LinkState, toState } from './link-state.js';
import { isGrouped, likelihoodOf, logLikelihood } from './observers.js';
import type { Likelihood } from './observers/observer.js';
import { partTouches } from './observers/touches.js';
import { placesToTry, wildOrder, wiringsThatGive } from './proposals.js';
import { fewestThatTell } from './telling.js';
import { CARRIED_ALONG, TYPICAL_PRACTICE, type Practice } from './practice.js';
import type { Reading } from './readings.js';
import { erasOf, LINK_PARTS, type Era, type Evidence, type LinkPart } from './timeline.js';
import type { LinkEnd, TrueLink } from './true-link.js';

/** One way a link could be: what happened to it, and the link that makes. */
export interface Hypothesis {
  /** What is wrong with the link as it is now; nothing for a link in order. */
  faults: readonly PhysicalFault[];
  /** Share of belief. */
  weight: number;
  readonly link: TrueLink;
  readonly state: LinkState;
  /** Logarithm of how likely it makes the evidence, against the best any link could do. */
  fit: number;
}

/** All belief about one link. */
export interface Belief {
  frame: Frame;
  /** Heaviest first; weights add up to one less what is left out. */
  hypotheses: readonly Hypothesis[];
  /** Belief that nothing is wrong that the evidence could tell. */
  sound: number;
  /** What was wrong with earlier makes of the link's parts, each with its share of belief. */
  past: readonly { fault: PhysicalFault; weight: number }[];
  /** Share of belief left out: an upper estimate of what was not worked through. */
  discarded: number;
}

/** One thing that may have happened, to one or two parts of the link in one of their makes. */
interface Suspect {
  parts: readonly { fault: PhysicalFault; slot: string }[];
  logShare: number;
  /** Its place among the suspects: what happens first comes first. */
  index: number;
  /** Groups of contacts concerned, a bit each; suspects that share none do not touch each other. */
  reach: number;
  /** Logarithm of the likelihood of the evidence if this alone happened. */
  logLikelihood: number;
  /** The same, group by group of contacts; what no single group accounts for comes last. */
  byGroup: Float64Array;
}

/** An era ready to be compared with: its base, its readings, and its likelihood if nothing is wrong. */
interface ReadyEra {
  slots: ReadonlySet<string>;
  likelihoods: readonly Likelihood[];
  /** Group -> the likelihoods of its rows alone; last those of readings that cannot be parted. */
  byGroup: readonly (readonly Likelihood[])[];
  /** Of those that cannot be parted: whether it is a gang of contacts that should stay silent. */
  silent: readonly boolean[];
  intact: number;
}

interface Combination {
  suspects: readonly Suspect[];
  logWeight: number;
  logLikelihood: number;
}

/** Belief below this share of the heaviest is not worked through; it is counted as left out. */
const NEGLIGIBLE = Math.log(1e-5);
/** The most explanations kept. */
const KEPT = 2000;
/** Pairs of suspects that a third is tried with: by weight, and by fit where nothing fits yet. */
const THIRDS = { byWeight: 40, byFit: 250 };
/** A fit this far below the best possible (logarithm) means that something is not explained. */
const UNEXPLAINED = -7;

/**
 * Belief about a link after all evidence, earlier readings and the work done between them included
 * (Bayes). Suspects are what hands do at the ends and what happens along the cable, each with its
 * rate in practice; links with none, one and two of them are worked through, those with three where
 * they could matter. What is left out is estimated and stated.
 */
export function believe(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice: Practice = TYPICAL_PRACTICE,
): Belief {
  return new Inquiry(expected, evidence, practice).run();
}

class Inquiry {
  private readonly intended: TrueLink;
  private readonly frame: Frame;
  private readonly base: LinkState;
  private readonly scratch: LinkState;
  private readonly eras: readonly ReadyEra[];
  private readonly current: ReadonlySet<string>;
  private readonly suspects: Suspect[];
  private readonly best: number;
  /** Logarithm of the likelihood of the evidence if nothing is wrong. */
  private readonly intact: number;
  private readonly bestByGroup: Float64Array;
  private readonly intactByGroup: Float64Array;
  /** Whether some reading cannot be parted by groups. */
  private get whole(): boolean {
    return this.wholes > 0;
  }
  private wholes = 0;
  /** Place -> whether two things apart show there only what one of them does. */
  private readonly eitherOr: readonly boolean[];
  private readonly log: { none: number; one: number; two: number; three: number };
  private readonly found: Combination[] = [];
  private heaviest = -Infinity;
  private skipped = 0;

  constructor(
    private readonly expected: LinkExpectation,
    evidence: readonly Evidence[],
    private readonly practice: Practice,
  ) {
    this.intended = intendedLink(expected);
    this.frame = frameOf(this.intended);
    this.base = toState(this.frame, this.intended);
    this.scratch = new LinkState(this.frame);
    const eras = recent(erasOf(evidence));
    this.eras = eras.filter((era) => era.readings.length > 0).map((era) => this.ready(era));
    this.current = slotsOf(eras[eras.length - 1] as Era);
    this.best = this.eras.reduce(
      (sum, era) => sum + era.likelihoods.reduce((total, likelihood) => total + likelihood.best, 0),
      0,
    );
    this.intact = this.eras.reduce((sum, era) => sum + era.intact, 0);
    const perGroup = (of: (likelihood: Likelihood) => number): Float64Array =>
      Float64Array.from({ length: this.frame.groups + this.wholes }, (_, group) =>
        this.eras.reduce(
          (sum, era) =>
            sum + (era.byGroup[group] ?? []).reduce((total, likelihood) => total + of(likelihood), 0),
          0,
        ),
      );
    this.bestByGroup = perGroup((likelihood) => likelihood.best);

    this.intactByGroup = perGroup((likelihood) => logLikelihood(likelihood, this.base));
    this.eitherOr = [
      ...Array.from({ length: this.frame.groups }, () => false),
      ...this.eras.flatMap((era) => era.silent),
    ];
    const { suspects, rate } = this.gather(eras);
    this.suspects = suspects;
    const wrong = practice.wrongShare ?? 1 - Math.exp(-rate);
    this.log = {
      none: Math.log(1 - wrong),
      one: Math.log(wrong * (1 - practice.second - practice.third)),
      two: Math.log(wrong * practice.second * 2),
      three: Math.log(wrong * practice.third * 6),
    };
  }

  run(): Belief {
    this.keep([], this.log.none, this.intact);
    for (const suspect of this.suspects) {
      suspect.byGroup = this.evaluateByGroup([suspect], suspect.reach);
      suspect.logLikelihood = this.evaluate([suspect]);
      this.keep([suspect], this.log.one + suspect.logShare, suspect.logLikelihood);
    }
    this.tryPairs();
    this.tryThirds();
    return this.conclude();
  }

  private ready(era: Era): ReadyEra {
    const readings = era.readings.flatMap((reading): Reading[] =>
      reading.instrument === 'beeper' || reading.instrument === 'ohmmeter' ? partTouches(reading) : [reading],
    );
    const likelihoods = readings.map((reading) => likelihoodOf(this.frame, reading));
    const intact = likelihoods.reduce((sum, likelihood) => sum + logLikelihood(likelihood, this.base), 0);
    const parted = readings.filter((reading) => isGrouped(this.frame, reading));
    const byGroup = Array.from({ length: this.frame.groups }, (_, group) =>
      parted.map((reading) => likelihoodOf(this.frame, reading, group)),
    );
    const whole = likelihoods.filter((_, i) => !parted.includes(readings[i] as Reading));
    const silent = readings
      .filter((reading) => !parted.includes(reading))
      .map((reading) => {
        if (reading.instrument !== 'beeper' && reading.instrument !== 'ohmmeter') return false;
        const [touch] = reading.touches;
        const shouldClose =
          touch?.closed === logLikelihood(likelihoodOf(this.frame, reading), this.base) > LIKELY;
        return !shouldClose;
      });
    // Each takes a place of its own behind the groups, after those of the eras before.
    const places = Array.from({ length: this.wholes }, (): Likelihood[] => []);
    this.wholes += whole.length;
    return {
      slots: slotsOf(era),
      likelihoods,
      silent,
      byGroup: [...byGroup, ...places, ...whole.map((likelihood) => [likelihood])],
      intact,
    };
  }

  /** Logarithm of the likelihood of the evidence, group by group. */
  private evaluateByGroup(suspects: readonly Suspect[], reach: number): Float64Array {
    const sums = Float64Array.from(this.intactByGroup);
    for (const era of this.eras) {
      const state = this.stateIn(era.slots, suspects);
      if (!state) continue;
      era.byGroup.forEach((likelihoods, group) => {
        if (group < this.frame.groups && (reach & (1 << group)) === 0) return;
        for (const likelihood of likelihoods)
          sums[group] =
            (sums[group] as number) + logLikelihood(likelihood, state) - logLikelihood(likelihood, this.base);
      });
    }
    return sums;
  }

  /** Everything that may have happened, once for each make of each part that a reading speaks of. */
  private gather(eras: readonly Era[]): { suspects: Suspect[]; rate: number } {
    const { expected, frame, practice } = this;
    const readings = eras.flatMap((era) => era.readings);
    const at = {
      near: faultsAtEnd(expected, frame, 'near', practice),
      far: faultsAtEnd(expected, frame, 'far', practice),
    };
    const along = faultsAlongCable(expected, frame, placesToTry(frame, readings), practice);
    const makes = Object.fromEntries(LINK_PARTS.map((part) => [part, new Set<number>()])) as Record<
      LinkPart,
      Set<number>
    >;
    for (const { make } of eras) for (const part of LINK_PARTS) makes[part].add(make[part]);
    const suspects: Suspect[] = [];
    let rate = 0;
    const suspect = (parts: { fault: PhysicalFault; slot: string }[], how: number): void => {
      rate += how;
      const reach = parts.reduce((bits, { fault }) => bits | this.reachOf(fault), 0);
      suspects.push({
        parts,
        logShare: Math.log(how),
        index: suspects.length,
        reach,
        logLikelihood: -Infinity,
        byGroup: NO_GROUPS,
      });
    };
    for (const era of eras) {
      const last = era === eras[eras.length - 1];
      for (const end of ['near', 'far'] as const) {
        for (const fault of this.wildOrders(era, end))
          if (last || makes[end].size > 1) suspect([{ fault, slot: slot(end, era.make[end]) }], fault.rate);
      }
    }
    for (const [near, far] of carriedSlips(at.near, at.far)) {
      const carried = CARRIED_ALONG[near.slip] ?? 0;
      for (const n of makes.near)
        for (const f of makes.far)
          if (eras.some(({ make }) => make.near === n && make.far === f))
            suspect(
              [
                { fault: near, slot: slot('near', n) },
                { fault: far, slot: slot('far', f) },
              ],
              near.rate * carried,
            );
    }
    for (const end of ['near', 'far'] as const) {
      for (const make of makes[end]) {
        for (const fault of at[end]) {
          if (partOf(fault) !== end) continue;
          suspect([{ fault, slot: slot(end, make) }], fault.rate);
          const carried = CARRIED_ALONG[fault.slip];
          // A wrong idea of the order is made again by the same hand.
          if (carried !== undefined && makes[end].has(make + 1))
            suspect(
              [
                { fault, slot: slot(end, make) },
                { fault, slot: slot(end, make + 1) },
              ],
              fault.rate * carried,
            );
        }
      }
    }
    for (const fault of [...at.near, ...at.far, ...along]) {
      const part = partOf(fault);
      if (part === 'near' || part === 'far') continue;
      for (const make of makes[part]) {
        // What was made sure of is seldom wrong again.
        const again = part !== 'cable' && make > 0 ? CHECKED : 1;
        suspect([{ fault, slot: slot(part, make) }], fault.rate * again);
      }
    }
    const logRate = Math.log(rate);
    for (const one of suspects) one.logShare -= logRate;
    return { suspects, rate };
  }

  /** Any order at all at one end: the one that would give a map, or the colours seen. */
  private wildOrders(era: Era, end: LinkEnd): PhysicalFault[] {
    const wirings = era.readings.flatMap((reading) => wiringsThatGive(this.frame, this.base, reading, end));
    const unique = [...new Map(wirings.map((wiring) => [wiring.join(), wiring])).values()];
    const ways = factorial(unique[0]?.filter((w) => w >= 0).length ?? 1);
    const moved = unique.filter((wiring) =>
      wiring.some((w, c) => w !== this.base.cells[this.frame.at[end] + c]),
    );
    return moved.map((wiring) =>
      wildOrder(this.frame, this.base, end, wiring, this.practice.rates['wild-order'] / ways),
    );
  }

  /** Groups of contacts a fault can show in, a bit each. */
  private reachOf(fault: PhysicalFault): number {
    const { frame, base } = this;
    let bits = 0;
    const touch = (end: LinkEnd, contact: number): void => {
      bits |= 1 << (frame.group[end][contact] as number);
    };
    const touchWire = (conductor: number): void => {
      for (const end of ['near', 'far'] as const)
        frame.contacts[end].forEach((_, c) => base.cells[frame.at[end] + c] === conductor && touch(end, c));
    };
    for (const effect of fault.effects) {
      if (effect.does === 'reorder') effect.order.forEach((from, i) => from !== i && touch(effect.end, i));
      else if (effect.does === 'wire')
        effect.wiring.forEach((w, i) => w !== base.cells[frame.at[effect.end] + i] && touch(effect.end, i));
      else if (effect.does === 'seat') touch(effect.end, effect.contact);
      else if (effect.does === 'bridge') [effect.a, effect.b].forEach((c) => touch(effect.end, c));
      else if (effect.does === 'core') effect.conductors.forEach(touchWire);
      else if (effect.does === 'join' || effect.does === 'splice') [effect.a, effect.b].forEach(touchWire);
      else bits = (1 << frame.groups) - 1;
    }
    return bits;
  }

  /** Logarithm of the likelihood of all evidence if these things happened. */
  private evaluate(suspects: readonly Suspect[]): number {
    let sum = 0;
    for (const era of this.eras) {
      const state = this.stateIn(era.slots, suspects);
      if (!state) sum += era.intact;
      else for (const likelihood of era.likelihoods) sum += logLikelihood(likelihood, state);
    }
    return sum;
  }

  /** The link in some makes of its parts if these things happened; null where none of them concerns it. */
  private stateIn(slots: ReadonlySet<string>, suspects: readonly Suspect[]): LinkState | null {
    let state: LinkState | null = null;
    for (const { parts } of suspects) {
      for (const { fault, slot } of parts) {
        if (!slots.has(slot)) continue;
        state ??= this.scratch.become(this.base);
        inflict(state, fault);
      }
    }
    return state;
  }

  private keep(suspects: readonly Suspect[], logPrior: number, logLikelihood: number): void {
    const logWeight = logPrior + logLikelihood;
    if (logWeight > this.heaviest) this.heaviest = logWeight;
    if (logWeight < this.heaviest + NEGLIGIBLE) this.skipped += Math.exp(logWeight - this.best);
    else this.found.push({ suspects, logWeight, logLikelihood });
  }

  private tryPairs(): void {
    const { suspects, log, best } = this;
    const { intact } = this;
    for (let i = 0; i < suspects.length; i++) {
      const a = suspects[i] as Suspect;
      for (let j = i + 1; j < suspects.length; j++) {
        const b = suspects[j] as Suspect;
        const logPrior = log.two + a.logShare + b.logShare;
        const floor = this.heaviest + NEGLIGIBLE;
        if (logPrior + best < floor) continue;
        if (logPrior + this.boundOfPair(a, b, intact) < floor) continue;
        this.keep([a, b], logPrior, this.evaluate([a, b]));
      }
    }
  }

  /**
   * The most likely the evidence can be if two things happened. Groups that only one of them touches
   * show what it shows alone; groups that both touch might show anything.
   */
  private boundOfPair(a: Suspect, b: Suspect, intact: number): number {
    let bound = a.logLikelihood + b.logLikelihood - intact;
    const groups = this.frame.groups;
    let both = a.reach & b.reach;
    for (let whole = groups; whole < groups + this.wholes; whole++) {
      const [alone, other] = [a.byGroup[whole] as number, b.byGroup[whole] as number];
      const intactHere = this.intactByGroup[whole] as number;
      // Two things that do not touch each other close a gang only as one of them does alone.
      const most =
        both === 0 && this.eitherOr[whole]
          ? Math.max(alone, other, intactHere)
          : (this.bestByGroup[whole] as number);
      bound += most - alone - other + intactHere;
    }
    for (let group = 0; both !== 0; group++, both >>>= 1) {
      if ((both & 1) === 0) continue;
      bound +=
        (this.bestByGroup[group] as number) -
        (a.byGroup[group] as number) -
        (b.byGroup[group] as number) +
        (this.intactByGroup[group] as number);
    }
    return bound;
  }

  /** A third thing beside the pairs that are heaviest, and beside those that fit best while nothing fits. */
  private tryThirds(): void {
    const { suspects, log, best } = this;
    const pairs = this.found.filter((c) => c.suspects.length === 2);
    const top = this.found.reduce((a, b) => (b.logWeight > a.logWeight ? b : a));
    const byWeight = [...pairs].sort((a, b) => b.logWeight - a.logWeight).slice(0, THIRDS.byWeight);
    const unexplained = top.logLikelihood - best < UNEXPLAINED;
    const byFit = unexplained ? this.bestFittingPairs() : [];
    const tried = new Set<number>();
    const count = suspects.length;
    const byShare = [...suspects].sort((a, b) => b.logShare - a.logShare);
    for (const pair of [...byWeight, ...byFit]) {
      const [a, b] = pair.suspects as [Suspect, Suspect];
      const ofPair = log.three + a.logShare + b.logShare;
      for (const third of byShare) {
        const logPrior = ofPair + third.logShare;
        const floor = this.heaviest + NEGLIGIBLE;
        // The rest are rarer still.
        if (logPrior + best < floor) break;
        if (third === a || third === b || logPrior + this.boundOfThird(pair, third) < floor) continue;
        const [i, j, k] = [a.index, b.index, third.index].sort((x, y) => x - y) as [number, number, number];
        const key = (i * count + j) * count + k;
        if (tried.has(key)) continue;
        tried.add(key);
        const trio = [suspects[i], suspects[j], suspects[k]] as Suspect[];
        this.keep(trio, logPrior, this.evaluate(trio));
      }
    }
  }

  /** The most likely the evidence can be if a third thing happened beside a pair. */
  private boundOfThird(pair: Combination, third: Suspect): number {
    const [a, b] = pair.suspects as [Suspect, Suspect];
    const reach = a.reach | b.reach;
    const groups = this.frame.groups;
    if (!this.whole && (reach & third.reach) === 0)
      return pair.logLikelihood + third.logLikelihood - this.intact;
    let bound = 0;
    for (let whole = groups; whole < groups + this.wholes; whole++)
      bound += this.bestByGroup[whole] as number;
    for (let group = 0; group < groups; group++) {
      const bit = 1 << group;
      if (reach & bit) bound += this.bestByGroup[group] as number;
      else bound += (third.reach & bit ? third.byGroup[group] : this.intactByGroup[group]) as number;
    }
    return bound;
  }

  /** Pairs of suspects by how well they fit, whatever their weight. */
  private bestFittingPairs(): Combination[] {
    const { intact } = this;
    const pairs: Combination[] = [];
    const { suspects } = this;
    // A suspect that makes nothing better can only be the third of a good pair.
    const promising = suspects
      .map((suspect) => ({ suspect, gain: suspect.logLikelihood - intact }))
      .sort((a, b) => b.gain - a.gain)
      .slice(0, 90)
      .map(({ suspect }) => suspect);
    promising.forEach((a, i) => {
      for (const b of promising.slice(i + 1)) {
        const order = a.index < b.index ? [a, b] : [b, a];
        const apart = (a.reach & b.reach) === 0;
        const sure = apart && !this.whole;
        if (!sure && this.boundOfPair(a, b, intact) < this.best - 60) continue;
        const fit = sure ? a.logLikelihood + b.logLikelihood - intact : this.evaluate(order);
        pairs.push({ suspects: order, logWeight: 0, logLikelihood: fit });
      }
    });
    return pairs.sort((a, b) => b.logLikelihood - a.logLikelihood).slice(0, THIRDS.byFit);
  }

  private conclude(): Belief {
    const merged = new Map<
      string,
      { state: LinkState; faults: PhysicalFault[]; logTop: number; weight: number; fit: number }
    >();
    const past = new Map<string, { fault: PhysicalFault; weight: number }>();
    const floor = this.heaviest + NEGLIGIBLE;
    for (const { suspects: all, logWeight, logLikelihood } of this.found) {
      if (logWeight < floor) continue;
      const suspects = this.telling(all, logLikelihood);
      const found = this.stateIn(this.current, suspects);
      const state = found ?? this.base;
      const key = state.key();
      const weight = Math.exp(logWeight - this.heaviest);
      for (const { fault, slot } of suspects.flatMap(({ parts }) => parts)) {
        if (this.current.has(slot)) continue;
        const known = past.get(fault.words);
        if (known) known.weight += weight;
        else past.set(fault.words, { fault, weight });
      }
      const known = merged.get(key);
      if (!known) {
        merged.set(key, {
          state: found ? new LinkState(this.frame).become(state) : this.base,
          faults: this.faultsNow(suspects),
          logTop: logWeight,
          weight,
          fit: logLikelihood - this.best,
        });
        continue;
      }
      known.weight += weight;
      // Two descriptions of one link are one explanation; the likelier wording stays.
      if (logWeight > known.logTop)
        Object.assign(known, {
          faults: this.faultsNow(suspects),
          logTop: logWeight,
          fit: logLikelihood - this.best,
        });
    }
    const ranked = [...merged.values()].sort((a, b) => b.weight - a.weight);
    const skipped = this.skipped * Math.exp(this.best - this.heaviest);
    const total = ranked.reduce((sum, h) => sum + h.weight, 0) + skipped;
    const { intended } = this;
    const hypotheses = ranked.slice(0, KEPT).map(({ state, faults, weight, fit }): Hypothesis => {
      let link: TrueLink | null = null;
      return {
        faults,
        state,
        fit,
        weight: weight / total,
        get link() {
          return (link ??= fromState(intended, state));
        },
      };
    });
    const kept = hypotheses.reduce((sum, h) => sum + h.weight, 0);
    return {
      frame: this.frame,
      hypotheses,
      past: [...past.values()].map(({ fault, weight }) => ({ fault, weight: weight / total })),
      sound: hypotheses.find((h) => h.faults.length === 0)?.weight ?? 0,
      discarded: Math.max(0, 1 - kept),
    };
  }

  /**
   * The suspects that the evidence says something about. One whose absence makes the evidence as
   * likely is no part of an explanation: it may be there as it may be on any link.
   */
  private telling(suspects: readonly Suspect[], logLikelihood: number): readonly Suspect[] {
    return fewestThatTell(
      suspects,
      logLikelihood,
      (some) => {
        if (some.length === 0) return this.intact;
        return some.length === 1 ? (some[0] as Suspect).logLikelihood : this.evaluate(some);
      },
      (suspect) => suspect.logShare,
    );
  }

  private faultsNow(suspects: readonly Suspect[]): PhysicalFault[] {
    return suspects.flatMap(({ parts }) => parts.filter((p) => this.current.has(p.slot)).map((p) => p.fault));
  }
}

/** Likelier than not, as a logarithm. */
const LIKELY = Math.log(0.5);
/** Times between works, and readings in each, that are remembered: what lies further back tells little and costs much. */
const REMEMBERED = { eras: 3, readings: 12 };
const recent = (eras: readonly Era[]): Era[] =>
  eras.slice(-REMEMBERED.eras).map((era) => ({ ...era, readings: era.readings.slice(-REMEMBERED.readings) }));
const NO_GROUPS = new Float64Array(0);
const PARTS: readonly FaultPlace[] = ['near', 'far', 'cable'];
/** How much seldomer an outlet or a plug is wrong once somebody has made sure of it. */
const CHECKED = 0.02;
const slot = (part: LinkPart, make: number): string => `${part}${make}`;
const slotsOf = ({ make }: Era): Set<string> => new Set(LINK_PARTS.map((part) => slot(part, make[part])));
/** What has to be made anew, or made sure of, for a fault to be gone. */
const partOf = ({ kind, end }: PhysicalFault): LinkPart =>
  kind === 'equipment' ? 'unplug' : kind === 'not-connected' ? 'outlet' : end;
const factorial = (n: number): number => (n < 2 ? 1 : n * factorial(n - 1));

/** Where work would have to be done if a hypothesis is true. */
export function placesToMend(hypothesis: Pick<Hypothesis, 'faults'>): FaultPlace[] {
  return PARTS.filter((place) => hypothesis.faults.some((fault) => needsWork(fault) && fault.end === place));
}

/** Equipment left on, or a remote that is not there, is put right without mending anything. */
const needsWork = (fault: PhysicalFault): boolean =>
  fault.kind !== 'equipment' && fault.kind !== 'not-connected';
