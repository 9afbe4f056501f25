import type { Frame } from '../frame.js';
import type { LinkState } from '../link-state.js';
import type { Practice } from '../practice.js';
import { Bounds } from './bounds.js';
import { Completions } from './completion.js';
import { bestBy, isAlike, Shortlist } from './shortlist.js';
import type { Happening } from './suspects.js';
import { GAIN, Weighing, type Combination, type Session, type Suspect } from './weighing.js';

/** Belief below this share of the heaviest is not worked through; it is counted as left out. */
export const NEGLIGIBLE = Math.log(1e-5);
/**
 * Of two things, and of three, so many are worked through: those likeliest if each shows what it shows alone, and
 * those that could at most be likeliest if they mingle; of these first such as concern no contacts that read right.
 */
const BUDGET = {
  completed: 200,
  pairs: { apart: 600, astray: 400, ordered: 300, mingled: 1500, wide: 3000 },
  thirds: { apart: 400, astray: 200, mingled: 3000 },
};
/** Where each costs many times as much, this share of them is. */
const SLOW_EFFORT = 0.25;
/** Things that another is tried beside: the heaviest, the best fitting, and where need be the commonest. */
const BEAM = { byWeight: 40, byFit: 40, byShare: 60 };
/** Explanations of several things in which each is exchanged for others: how many, how near the heaviest, for how many. */
const INSTEAD = { of: 6, within: 4, by: 60 };
/** One more thing is tried where it could add this share to what is explained without it (logarithm). */
const ADDS = Math.log(0.02);
/** Pairs a third thing is tried beside: the heaviest, and where nothing fits yet the best fitting. */
const BESIDE = { byWeight: 30, byFit: 60 };
/** A fit this far below the best possible (logarithm) means that something is not explained. */
const UNEXPLAINED = -7;
/** By so much a measured figure falls short of its best (logarithm), the length and the copper being off by what is usual. */
const USUAL_MISS = 1.5;

/**
 * All that evidence says of what may have happened: none, one, two or three things at once. Bounds say
 * beforehand which two and three could matter: groups of contacts that only one thing touches show
 * what it shows alone, groups that several touch might show anything. Those that could matter most are
 * worked through first, until no other could.
 */
export class Search {
  readonly found: Combination[] = [];
  heaviest = -Infinity;
  /** Weight worked out and left out as negligible, against `best`. */
  skipped = 0;
  readonly suspects: readonly Suspect[];
  readonly weighing: Weighing;
  private readonly bounds: Bounds;
  private readonly completions: Completions;
  private readonly evaluated: Combination[] = [];
  private readonly log: { none: number; one: number; two: number; three: number };

  constructor(
    frame: Frame,
    base: LinkState,
    sessions: readonly Session[],
    things: readonly Happening[],
    practice: Practice,
  ) {
    this.weighing = new Weighing(frame, base, sessions);
    this.bounds = new Bounds(this.weighing);
    const rate = things.reduce((sum, thing) => sum + thing.rate, 0);
    const wrong = practice.wrongShare ?? 1 - Math.exp(-rate);
    this.log = {
      none: Math.log(1 - wrong),
      one: Math.log(wrong * (1 - practice.second - practice.third)),
      two: Math.log(wrong * practice.second * 2),
      three: Math.log(wrong * practice.third * 6),
    };
    this.suspects = this.weighing.suspectsOf(things);
    this.completions = new Completions(frame, base, this.suspects);
  }

  run(): void {
    const { weighing, suspects, log } = this;
    for (const suspect of suspects) weighing.workAlone(suspect);
    weighing.learnStrays(suspects);
    this.keep([], log.none, weighing.intactLog);
    for (const suspect of suspects) {
      weighing.sumAlone(suspect);
      this.keep([suspect], log.one + suspect.logShare, suspect.logLikelihood);
    }
    this.tryPairs();
    this.tryThirds();
    this.tryInstead();
  }

  private keep(suspects: readonly Suspect[], logPrior: number, logLikelihood: number): void {
    const logWeight = logPrior + logLikelihood;
    if (logWeight > this.heaviest) this.heaviest = logWeight;
    if (logWeight < this.heaviest + NEGLIGIBLE) this.skipped += Math.exp(logWeight - this.weighing.best);
    else this.found.push({ suspects, logWeight, logLikelihood });
  }

  /**
   * Things that explain something, the heaviest and the best fitting, and what changes a whole order: of two
   * or three that happened, one at least is among them. Where no one thing explains the evidence, two may that
   * explain nothing each alone, and the commonest are begun with as well.
   */
  private beginnings(): Suspect[] {
    const gaining = this.suspects.filter((one) => one.gains);
    const byWeight = bestBy(gaining, BEAM.byWeight, (one) => one.logShare + one.logLikelihood);
    const byFit = bestBy(gaining, BEAM.byFit, (one) => one.logLikelihood);
    const wide = this.suspects.filter((one) => one.wide);
    const alone = this.suspects.reduce(
      (most, one) => Math.max(most, one.logLikelihood),
      this.weighing.intactLog,
    );
    const common = this.isExplained(alone) ? [] : bestBy(this.suspects, BEAM.byShare, (one) => one.logShare);
    return [...new Set([...byWeight, ...byFit, ...wide, ...common])];
  }

  private isExplained(logLikelihood: number): boolean {
    const { witnesses, best } = this.weighing;
    const figures = witnesses.reduce((sum, { likelihood }) => sum + (likelihood.figures ?? 0), 0);
    return logLikelihood - best > UNEXPLAINED - USUAL_MISS * figures;
  }

  private sorted: readonly Suspect[] | null = null;

  /** The commonest first. */
  private byShare(): readonly Suspect[] {
    return (this.sorted ??= [...this.suspects].sort((a, b) => b.logShare - a.logShare));
  }

  private tryPairs(): void {
    const { log } = this;
    const { best, slow } = this.weighing;
    const byShare = this.byShare();
    const floor = this.heaviest + NEGLIGIBLE;
    const count = this.suspects.length;
    const effort = slow ? SLOW_EFFORT : 1;
    const orders = new Set(this.suspects.filter(({ parts }) => parts.some(isAnyOrder)));
    const apart = new Shortlist(BUDGET.pairs.apart, floor);
    const astray = new Shortlist(BUDGET.pairs.astray, floor);
    // Orders that readings propose are rare, and would come last of many that explain far less.
    const ordered = new Shortlist(BUDGET.pairs.ordered, floor);
    const mingled = new Shortlist(BUDGET.pairs.mingled * effort, floor);
    const wide = new Shortlist(BUDGET.pairs.wide * effort, floor);
    for (const a of this.beginnings()) {
      const ofA = log.two + a.logShare;
      for (const b of byShare) {
        const logPrior = ofA + b.logShare;
        // The rest are rarer still.
        if (logPrior + best < floor) break;
        if (a === b) continue;
        const together = (a.reach & b.reach) !== 0 && (a.sessions & b.sessions) !== 0;
        // Apart, one that explains nothing stays as untold beside the other as it is everywhere.
        if (!together && !(a.gains && b.gains)) continue;
        // What could hardly add to one of the two alone is that one, as far as anybody can tell.
        const worth = Math.max(this.aloneWeight(a), this.aloneWeight(b)) + ADDS;
        if (logPrior + best < worth) continue;
        const key = a.index < b.index ? a.index * count + b.index : b.index * count + a.index;
        const ifApart = logPrior + this.bounds.ifApart(a, b);
        if (ifApart > worth) apart.offer(key, ifApart);
        if (!together) continue;
        const atMost = logPrior + this.bounds.atMost(a, b);
        if (atMost <= worth) continue;
        (a.wide || b.wide ? wide : mingled).offer(key, atMost);
        if (this.isAstray(a.reach | b.reach)) astray.offer(key, atMost);
        if (orders.has(a) || orders.has(b)) ordered.offer(key, atMost);
      }
    }
    const completed = new Shortlist(BUDGET.completed, -Infinity);
    for (const a of this.beginnings())
      for (const b of this.completing([a])) {
        const key = a.index < b.index ? a.index * count + b.index : b.index * count + a.index;
        completed.offer(key, log.two + a.logShare + b.logShare + best);
      }
    this.workThrough([completed, apart, astray, ordered, mingled, wide], (key) => {
      const pair = [Math.floor(key / count), key % count].map((i) => this.suspects[i] as Suspect);
      const logPrior = pair.reduce((sum, one) => sum + one.logShare, log.two);
      const fit = this.weighing.evaluate(pair, this.heaviest + NEGLIGIBLE - logPrior);
      this.keep(pair, logPrior, fit);
      const ofLink = this.weighing.lastOfLink();
      this.evaluated.push({ suspects: pair, logWeight: logPrior + fit, logLikelihood: fit, ofLink });
    });
  }

  /** What would complete some things to what the maps of a session show. */
  private completing(some: readonly Suspect[]): Suspect[] {
    const { sessions, base } = this.weighing;
    return sessions
      .flatMap((session) => this.completions.of(this.weighing.stateIn(session.slots, some) ?? base, session))
      .filter((one) => !some.includes(one));
  }

  private isAstray(reach: number): boolean {
    return (reach & ~this.weighing.astray) === 0;
  }

  private aloneWeight({ logShare, logLikelihood: fit }: Suspect): number {
    return this.log.one + logShare + fit;
  }

  /** Works through what was kept of many, list by list, as long as it could matter beside what was found meanwhile. */
  private workThrough(lists: readonly Shortlist[], work: (key: number) => void): void {
    const done = new Set<number>();
    for (const list of lists) {
      let [before, least] = [Infinity, -Infinity];
      for (const [key, figure] of list.best()) {
        // Those alike are all worked through or none: which of them was first decides nothing.
        if (!isAlike(figure, before)) least = this.heaviest + NEGLIGIBLE;
        before = figure;
        if (figure < least) break;
        if (done.has(key)) continue;
        done.add(key);
        work(key);
      }
    }
  }

  private tryThirds(): void {
    const { log } = this;
    const { best, slow } = this.weighing;
    const floor = this.heaviest + NEGLIGIBLE;
    // A pair of which one does all the explaining is no better place to begin than that one.
    const both = (pair: Combination): boolean => pair.suspects.every((one) => isMore(pair, one));
    const pairs = this.evaluated.filter((c) => c.logWeight >= floor && both(c));
    const top = this.found.reduce((a, b) => (b.logWeight > a.logWeight ? b : a));
    const byWeight = bestBy(pairs, BESIDE.byWeight, (pair) => pair.logWeight);
    const unexplained =
      !this.isExplained(top.logLikelihood) || top.suspects.some(({ parts }) => parts.some(isAnyOrder));
    const byFit = unexplained
      ? bestBy(this.evaluated.filter(both), BESIDE.byFit, (pair) => pair.logLikelihood)
      : [];
    const byShare = this.byShare();
    const count = this.suspects.length;
    const apart = new Shortlist(BUDGET.thirds.apart, floor);
    const astray = new Shortlist(BUDGET.thirds.astray, floor);
    const mingled = new Shortlist(BUDGET.thirds.mingled * (slow ? SLOW_EFFORT : 1), floor);
    for (const pair of [...byWeight, ...byFit]) {
      const [a, b] = pair.suspects as [Suspect, Suspect];
      const ofPair = log.three + a.logShare + b.logShare;
      for (const third of byShare) {
        const logPrior = ofPair + third.logShare;
        if (logPrior + best < floor) break;
        if (third === a || third === b) continue;
        const together = ((a.reach | b.reach) & third.reach) !== 0;
        if (!together && !third.gains) continue;
        const worth = pair.logWeight + ADDS;
        if (logPrior + best < worth) continue;
        const key = keyOfThree(a.index, b.index, third.index, count);
        const ifApart = logPrior + this.bounds.ifApartFrom(pair.ofLink ?? [], third);
        if (ifApart > worth) apart.offer(key, ifApart);
        if (!together) continue;
        const atMost = logPrior + this.bounds.atMostOfThree(a, b, third);
        if (atMost <= worth) continue;
        mingled.offer(key, atMost);
        if (this.isAstray(a.reach | b.reach | third.reach)) astray.offer(key, atMost);
      }
    }
    const completed = new Shortlist(BUDGET.completed, -Infinity);
    for (const { suspects, logWeight } of [...byWeight, ...byFit])
      for (const third of this.completing(suspects)) {
        const [a, b] = suspects as [Suspect, Suspect];
        if (third === a || third === b) continue;
        const key = keyOfThree(a.index, b.index, third.index, count);
        completed.offer(key, log.three + logWeight - log.two + third.logShare);
      }
    this.workThrough([completed, apart, astray, mingled], (key) => {
      const trio = [Math.floor(key / count / count), Math.floor(key / count) % count, key % count].map(
        (index) => this.suspects[index] as Suspect,
      );
      const logPrior = trio.reduce((sum, one) => sum + one.logShare, log.three);
      this.keep(trio, logPrior, this.weighing.evaluate(trio, this.heaviest + NEGLIGIBLE - logPrior));
    });
  }

  /**
   * Of several things that explain the evidence together, each may have happened elsewhere: what would show the same
   * in its stead is tried, so that no place is certain only because the others were not come upon.
   */
  private tryInstead(): void {
    const keyOf = (some: readonly Suspect[]): string =>
      some
        .map(({ index }) => index)
        .sort((a, b) => a - b)
        .join();
    const known = new Set(this.found.map(({ suspects }) => keyOf(suspects)));
    const several = bestBy(
      this.found.filter(
        ({ suspects, logWeight }) => suspects.length > 1 && logWeight > this.heaviest - INSTEAD.within,
      ),
      INSTEAD.of,
      ({ logWeight }) => logWeight,
    );
    for (const { suspects, logWeight } of several)
      for (const one of suspects) {
        const rest = suspects.filter((other) => other !== one);
        const alike = bestBy(
          this.suspects.filter(({ reach }) => reach === one.reach),
          INSTEAD.by,
          ({ logShare }) => logShare,
        );
        for (const other of new Set([...this.completing(rest), ...alike])) {
          const some = [...rest, other];
          if (suspects.includes(other) || known.has(keyOf(some))) continue;
          const logPrior = some.reduce(
            (sum, s) => sum + s.logShare,
            some.length > 2 ? this.log.three : this.log.two,
          );
          if (logPrior + this.weighing.best < logWeight + NEGLIGIBLE) continue;
          known.add(keyOf(some));
          this.keep(some, logPrior, this.weighing.evaluate(some, this.heaviest + NEGLIGIBLE - logPrior));
        }
      }
  }
}

/** A number for three of so many, whatever their order. */
function keyOfThree(a: number, b: number, c: number, count: number): number {
  const least = Math.min(a, b, c);
  const most = Math.max(a, b, c);
  return (least * count + (a + b + c - least - most)) * count + most;
}

/** An order that was read off the readings explains any of them, so it never shows that nothing better would. */
const isAnyOrder = ({ fault }: Suspect['parts'][number]): boolean => fault.slip === 'wild-order';

/** Whether a pair tells more than one of it, be it hidden behind readings that might be of something else. */
const isMore = ({ logLikelihood, ofLink = [] }: Combination, one: Suspect): boolean =>
  logLikelihood > one.logLikelihood + GAIN ||
  ofLink.reduce((sum, each, i) => sum + each - (one.ofLink[i] as number), 0) > GAIN;
