import { inflict } from '../faults.js';
import type { Frame } from '../frame.js';
import { LinkState } from '../link-state.js';
import { logLikelihood } from '../observers.js';
import type { Practice } from '../practice.js';
import { carriedBy } from './carried.js';
import { Completions } from './completion.js';
import { bestBy, isAlike, Shortlist } from './shortlist.js';
import type { Happening } from './suspects.js';
import { addLogs, learnClean, learnStrays, logOfLink, mixed, mostOfLink, type Witness } from './witness.js';

/** A time of the link with its witnesses: which makes of its parts it had. */
export interface Session {
  slots: ReadonlySet<string>;
  witnesses: readonly Witness[];
}

/** A happening, with how it alone would have the evidence read, witness by witness. */
export interface Suspect extends Happening {
  index: number;
  logShare: number;
  /** Sessions it matters in, a bit each. */
  sessions: number;
  /** Witness -> logarithm of its likelihood, strays not counted. */
  ofLink: readonly number[];
  logLikelihood: number;
  /** Session -> the likelihood of its readings if this alone happened. */
  inSession: readonly number[];
  /** Whether it makes some reading likelier than nothing wrong does. */
  gains: boolean;
  /** Of what changes a whole order: how far another thing's traces are carried by it. */
  wide: Spread | null;
}

/** What a thing that changes a whole order shows, and where on it another thing could show. */
interface Spread {
  /** Witness by witness, group by group: the likelihood of the group's rows. */
  groups: Float64Array;
  /** Group of contacts -> the groups whose rows hang on its contacts and conductors, a bit each. */
  carries: readonly number[];
}

export interface Combination {
  suspects: readonly Suspect[];
  logWeight: number;
  logLikelihood: number;
}

/** Belief below this share of the heaviest is not worked through; it is counted as left out. */
export const NEGLIGIBLE = Math.log(1e-5);
/**
 * Of two things, and of three, so many are worked through: those likeliest if each shows what it shows
 * alone, and those that could at most be likeliest if they mingle.
 */
const BUDGET = {
  completed: 200,
  pairs: { apart: 600, mingled: 1500, wide: 3000 },
  thirds: { apart: 400, mingled: 3000 },
};
/** Where each costs many times as much, this share of them is. */
const SLOW_EFFORT = 0.25;
/** Things that another is tried beside: the heaviest, the best fitting, and where need be the commonest. */
const BEAM = { byWeight: 40, byFit: 40, byShare: 60 };
/** Explanations of several things in which each is exchanged for others: how many, how near the heaviest, for how many. */
const INSTEAD = { of: 6, within: 4, by: 60 };
/** One more thing is tried where it could add this share to what is explained without it (logarithm). */
const ADDS = Math.log(0.02);
/** Groups of contacts that a change of a whole order reaches at least. */
const WIDE = 3;
const bitsIn = (bits: number): number => bits.toString(2).replaceAll('0', '').length;
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
  /** Logarithm of the likelihood of the evidence if any link could be chosen for it. */
  best = 0;
  readonly suspects: readonly Suspect[];
  private readonly completions: Completions;
  private readonly witnesses: readonly Witness[];
  private readonly sessionOf: readonly number[];
  /** Whether some witness has a quick bound, for being long to work out. */
  private readonly slow: boolean;
  private readonly scratch: LinkState;
  private readonly intact: readonly number[];
  private readonly intactGroups: Float64Array;
  private readonly bestOf: readonly number[];
  private readonly bestGroups: Float64Array;
  private readonly evaluated: Combination[] = [];
  /** Session -> groups of contacts -> the most that anything in them could show. */
  private readonly anything: readonly Map<number, number>[];
  private readonly log: { none: number; one: number; two: number; three: number };
  intactLog = 0;

  constructor(
    private readonly frame: Frame,
    private readonly base: LinkState,
    private readonly sessions: readonly Session[],
    things: readonly Happening[],
    practice: Practice,
  ) {
    this.scratch = new LinkState(frame);
    this.anything = sessions.map(() => new Map<number, number>());
    this.witnesses = sessions.flatMap((s) => s.witnesses);
    this.slow = this.witnesses.some(({ likelihood }) => likelihood.most !== undefined);
    this.sessionOf = sessions.flatMap((s, i) => s.witnesses.map(() => i));
    const { groups } = frame;
    this.intact = this.witnesses.map((w) => logOfLink(w, base));
    this.bestOf = this.witnesses.map(({ likelihood }) => likelihood.best);
    this.intactGroups = new Float64Array(this.witnesses.length * groups);
    this.bestGroups = new Float64Array(this.witnesses.length * groups);
    this.witnesses.forEach((witness, i) =>
      witness.groups?.forEach((likelihood, g) => {
        this.intactGroups[i * groups + g] = logLikelihood(likelihood, base);
        this.bestGroups[i * groups + g] = likelihood.best;
      }),
    );
    const rate = things.reduce((sum, thing) => sum + thing.rate, 0);
    const wrong = practice.wrongShare ?? 1 - Math.exp(-rate);
    this.log = {
      none: Math.log(1 - wrong),
      one: Math.log(wrong * (1 - practice.second - practice.third)),
      two: Math.log(wrong * practice.second * 2),
      three: Math.log(wrong * practice.third * 6),
    };
    // Field by field: spreading hundreds of these takes longer than working them out.
    this.suspects = things.map((thing, index) => ({
      parts: thing.parts,
      rate: thing.rate,
      reach: thing.reach,
      index,
      logShare: Math.log(thing.rate / rate),
      sessions: sessions.reduce(
        (bits, { slots }, i) => (thing.parts.some((p) => slots.has(p.slot)) ? bits | (1 << i) : bits),
        0,
      ),
      ofLink: this.intact,
      logLikelihood: 0,
      inSession: [],
      gains: false,
      wide: null,
    }));
    this.completions = new Completions(frame, base, this.suspects);
  }

  run(): void {
    for (const suspect of this.suspects) this.workAlone(suspect);
    this.learnStrays();
    this.keep([], this.log.none, this.intactLog);
    for (const suspect of this.suspects) {
      const inSession = this.sessions.map(() => 0);
      for (let i = 0; i < this.witnesses.length; i++) {
        const session = this.sessionOf[i] as number;
        const ofLink = suspect.ofLink[i] as number;
        inSession[session] = (inSession[session] as number) + mixed(this.witnesses[i] as Witness, ofLink);
      }
      suspect.inSession = inSession;
      suspect.logLikelihood = inSession.reduce((sum, one) => sum + one, 0);
      this.keep([suspect], this.log.one + suspect.logShare, suspect.logLikelihood);
    }
    this.tryPairs();
    this.tryThirds();
    this.tryInstead();
  }

  /**
   * Logarithm of the likelihood of all evidence if these things happened.
   * @param worth where it must be less than this, something no less than it will do
   */
  evaluate(suspects: readonly Suspect[], worth = -Infinity): number {
    if (this.slow && worth > -Infinity) {
      const most = this.over(suspects, mostOfLink);
      if (most < worth) return most;
    }
    return this.over(suspects, logOfLink);
  }

  private over(suspects: readonly Suspect[], ofLink: (witness: Witness, state: LinkState) => number): number {
    let sum = 0;
    let at = 0;
    for (const { slots, witnesses } of this.sessions) {
      const state = this.stateIn(slots, suspects);
      for (const witness of witnesses) {
        sum += mixed(witness, state ? ofLink(witness, state) : (this.intact[at] as number));
        at++;
      }
    }
    return sum;
  }

  /** The link in some makes of its parts if these things happened; null where none of them concerns it. */
  stateIn(slots: ReadonlySet<string>, suspects: readonly Suspect[]): LinkState | null {
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

  private workAlone(suspect: Suspect): void {
    const ofLink = [...this.intact];
    const only = [suspect];
    let at = 0;
    for (const { slots, witnesses } of this.sessions) {
      const state = this.stateIn(slots, only);
      for (const witness of witnesses) {
        if (state) ofLink[at] = logOfLink(witness, state);
        if ((ofLink[at] as number) > (this.intact[at] as number) + GAIN) suspect.gains = true;
        at++;
      }
    }
    suspect.ofLink = ofLink;
    if (bitsIn(suspect.reach) >= WIDE) suspect.wide = this.spreadOf(suspect);
  }

  private spreadOf(suspect: Suspect): Spread {
    const { groups } = this.frame;
    const shown = Float64Array.from(this.intactGroups);
    const carries = Array.from({ length: groups }, (_, g) => 1 << g);
    let at = 0;
    for (const { slots, witnesses } of this.sessions) {
      const state = this.stateIn(slots, [suspect]);
      if (state) carriedBy(state).forEach((bits, g) => (carries[g] = (carries[g] as number) | bits));
      for (const witness of witnesses) {
        if (state)
          witness.groups?.forEach(
            (likelihood, g) => (shown[at * groups + g] = logLikelihood(likelihood, state)),
          );
        at++;
      }
    }
    return { groups: shown, carries };
  }

  /** How links of this kind read, wrong as this one may be, is how a stray reading reads. */
  private learnStrays(): void {
    this.witnesses.forEach((witness, i) => {
      learnClean(witness, this.intact[i] as number);
      const session = 1 << (this.sessionOf[i] as number);
      let logWrong = witness.logUnknown + RARE;
      for (const { ofLink, logShare, sessions } of this.suspects)
        if (sessions & session) logWrong = addLogs(logWrong, logShare + (ofLink[i] as number));
      learnStrays(witness, this.intact[i] as number, logWrong);
    });
    this.best = this.sumOf(this.bestOf);
    this.intactLog = this.sumOf(this.intact);
  }

  private sumOf(ofLink: readonly number[]): number {
    return this.witnesses.reduce((sum, witness, i) => sum + mixed(witness, ofLink[i] as number), 0);
  }

  private keep(suspects: readonly Suspect[], logPrior: number, logLikelihood: number): void {
    const logWeight = logPrior + logLikelihood;
    if (logWeight > this.heaviest) this.heaviest = logWeight;
    if (logWeight < this.heaviest + NEGLIGIBLE) this.skipped += Math.exp(logWeight - this.best);
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
    const alone = this.suspects.reduce((most, one) => Math.max(most, one.logLikelihood), this.intactLog);
    const common = this.isExplained(alone) ? [] : bestBy(this.suspects, BEAM.byShare, (one) => one.logShare);
    return [...new Set([...byWeight, ...byFit, ...wide, ...common])];
  }

  private isExplained(logLikelihood: number): boolean {
    const figures = this.witnesses.reduce((sum, { likelihood }) => sum + (likelihood.figures ?? 0), 0);
    return logLikelihood - this.best > UNEXPLAINED - USUAL_MISS * figures;
  }

  private sorted: readonly Suspect[] | null = null;

  /** The commonest first. */
  private byShare(): readonly Suspect[] {
    return (this.sorted ??= [...this.suspects].sort((a, b) => b.logShare - a.logShare));
  }

  private tryPairs(): void {
    const { log, best } = this;
    const byShare = this.byShare();
    const floor = this.heaviest + NEGLIGIBLE;
    const count = this.suspects.length;
    const effort = this.slow ? SLOW_EFFORT : 1;
    const apart = new Shortlist(BUDGET.pairs.apart, floor);
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
        const ifApart = logPrior + this.ifApart(a, b);
        if (ifApart > worth) apart.offer(key, ifApart);
        if (!together) continue;
        const atMost = logPrior + this.atMost(a, b);
        if (atMost > worth) (a.wide || b.wide ? wide : mingled).offer(key, atMost);
      }
    }
    const completed = new Shortlist(BUDGET.completed, -Infinity);
    for (const a of this.beginnings())
      for (const b of this.completing([a])) {
        const key = a.index < b.index ? a.index * count + b.index : b.index * count + a.index;
        completed.offer(key, log.two + a.logShare + b.logShare + best);
      }
    this.workThrough([completed, apart, mingled, wide], (key) => {
      const pair = [Math.floor(key / count), key % count].map((i) => this.suspects[i] as Suspect);
      const logPrior = pair.reduce((sum, one) => sum + one.logShare, log.two);
      const fit = this.evaluate(pair, this.heaviest + NEGLIGIBLE - logPrior);
      this.keep(pair, logPrior, fit);
      this.evaluated.push({ suspects: pair, logWeight: logPrior + fit, logLikelihood: fit });
    });
  }

  /** What would complete some things to what the maps of a session show. */
  private completing(some: readonly Suspect[]): Suspect[] {
    return this.sessions
      .flatMap((session) => this.completions.of(this.stateIn(session.slots, some) ?? this.base, session))
      .filter((one) => !some.includes(one));
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

  /** The likelihood if each of two things shows what it shows alone. */
  private ifApart(a: Suspect, b: Suspect): number {
    let sum = 0;
    for (let i = 0; i < this.witnesses.length; i++) {
      const added = (a.ofLink[i] as number) + (b.ofLink[i] as number) - (this.intact[i] as number);
      sum += mostMixed(this.witnesses[i] as Witness, Math.min(added, this.bestOf[i] as number));
    }
    return sum;
  }

  /**
   * The most it can be: what one thing does may carry what the other does over to any group that either
   * reaches, and there anything may show; where a session knows but one of them, it shows as it does alone.
   */
  private atMost(a: Suspect, b: Suspect): number {
    let sum = 0;
    for (let session = 0; session < this.sessions.length; session++) {
      const bit = 1 << session;
      if (!(a.sessions & bit)) sum += b.inSession[session] as number;
      else if (!(b.sessions & bit)) sum += a.inSession[session] as number;
      else sum += Math.min(this.beside(session, a, b), this.beside(session, b, a));
    }
    return sum;
  }

  /**
   * The most likely a session's readings can be if a thing happened beside another. Of one that changes a whole order
   * the rows stay as it alone has them, but where they hang on what the other changes.
   */
  private beside(session: number, wide: Suspect, other: Suspect): number {
    if (!wide.wide) return this.anythingIn(session, wide.reach | other.reach);
    const { groups, carries } = wide.wide;
    let touched = other.reach;
    for (let g = 0; g < carries.length; g++) if (other.reach & (1 << g)) touched |= carries[g] as number;
    return this.most(session, touched, groups);
  }

  /** The most likely a session's readings can be if in these groups of contacts anything may show. */
  private anythingIn(session: number, reach: number): number {
    const known = this.anything[session] as Map<number, number>;
    const before = known.get(reach);
    if (before !== undefined) return before;
    const sum = this.most(session, reach, this.intactGroups);
    known.set(reach, sum);
    return sum;
  }

  /** The most likely a session's readings can be if in some groups anything may show, and the others show this. */
  private most(session: number, anything: number, others: Float64Array): number {
    const { groups } = this.frame;
    let sum = 0;
    this.witnesses.forEach((witness, i) => {
      if (this.sessionOf[i] !== session) return;
      let most = this.bestOf[i] as number;
      if (witness.groups) {
        let rows = 0;
        for (let g = 0; g < groups; g++)
          rows += (anything & (1 << g) ? this.bestGroups : others)[i * groups + g] as number;
        most = Math.min(most, rows + slackOf(witness));
      }
      sum += mostMixed(witness, most);
    });
    return sum;
  }

  private tryThirds(): void {
    const { log, best } = this;
    // A pair of which one does all the explaining is no better place to begin than that one.
    const both = ({ suspects, logLikelihood }: Combination): boolean =>
      suspects.every((one) => logLikelihood > one.logLikelihood + GAIN);
    const pairs = this.found.filter((c) => c.suspects.length === 2 && both(c));
    const top = this.found.reduce((a, b) => (b.logWeight > a.logWeight ? b : a));
    const byWeight = bestBy(pairs, BESIDE.byWeight, (pair) => pair.logWeight);
    const unexplained =
      !this.isExplained(top.logLikelihood) || top.suspects.some(({ parts }) => parts.some(isAnyOrder));
    const byFit = unexplained
      ? bestBy(this.evaluated.filter(both), BESIDE.byFit, (pair) => pair.logLikelihood)
      : [];
    const byShare = this.byShare();
    const count = this.suspects.length;
    const floor = this.heaviest + NEGLIGIBLE;
    const apart = new Shortlist(BUDGET.thirds.apart, floor);
    const mingled = new Shortlist(BUDGET.thirds.mingled * (this.slow ? SLOW_EFFORT : 1), floor);
    for (const pair of [...byWeight, ...byFit]) {
      const [a, b] = pair.suspects as [Suspect, Suspect];
      const ofPair = log.three + a.logShare + b.logShare;
      for (const third of byShare) {
        const logPrior = ofPair + third.logShare;
        if (logPrior + best < floor) break;
        if (third === a || third === b) continue;
        const together = ((a.reach | b.reach) & third.reach) !== 0;
        if (!together && !third.gains) continue;
        const [i, j, k] = [a.index, b.index, third.index].sort((x, y) => x - y) as [number, number, number];
        const key = (i * count + j) * count + k;
        // Of what the third alone makes likelier, as much as the pair leaves to be explained.
        const gain = third.logLikelihood - this.intactLog;
        const worth = pair.logWeight + ADDS;
        if (logPrior + best < worth) continue;
        const ifApart = logPrior + Math.min(best, pair.logLikelihood + gain);
        if (ifApart > worth) apart.offer(key, ifApart);
        if (!together) continue;
        const atMost = logPrior + this.atMostOfThree(a, b, third);
        if (atMost > worth) mingled.offer(key, atMost);
      }
    }
    const completed = new Shortlist(BUDGET.completed, -Infinity);
    for (const { suspects, logWeight } of [...byWeight, ...byFit])
      for (const third of this.completing(suspects)) {
        const [i, j, k] = [...suspects, third].map(({ index }) => index).sort((x, y) => x - y) as [
          number,
          number,
          number,
        ];
        if (i !== j && j !== k)
          completed.offer((i * count + j) * count + k, log.three + logWeight - log.two + third.logShare);
      }
    this.workThrough([completed, apart, mingled], (key) => {
      const trio = [Math.floor(key / count / count), Math.floor(key / count) % count, key % count].map(
        (index) => this.suspects[index] as Suspect,
      );
      const logPrior = trio.reduce((sum, one) => sum + one.logShare, log.three);
      this.keep(trio, logPrior, this.evaluate(trio, this.heaviest + NEGLIGIBLE - logPrior));
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
          if (logPrior + this.best < logWeight + NEGLIGIBLE) continue;
          known.add(keyOf(some));
          this.keep(some, logPrior, this.evaluate(some, this.heaviest + NEGLIGIBLE - logPrior));
        }
      }
  }

  /** The most likely the evidence can be if a third thing happened beside two. */
  private atMostOfThree(a: Suspect, b: Suspect, third: Suspect): number {
    let sum = 0;
    for (let session = 0; session < this.sessions.length; session++)
      sum += this.anythingIn(session, a.reach | b.reach | third.reach);
    return sum;
  }
}

/** Logarithm by which rows that hang together over groups, by a common length, may fit better together. */
const slackOf = ({ reading }: Witness): number => (reading.instrument === 'pair-reflectometer' ? 3 : 0);
/** An order that was read off the readings explains any of them, so it never shows that nothing better would. */
const isAnyOrder = ({ fault }: Suspect['parts'][number]): boolean => fault.slip === 'wild-order';
/** Share of wrong links that are so in a way that no single thing explains, as a logarithm. */
const RARE = Math.log(0.02);
/** A reading this much likelier (logarithm) counts as explained better. */
const GAIN = 0.3;

/** No less than `mixed`, and quicker. */
function mostMixed({ logKept, logStray }: Witness, ofLink: number): number {
  const kept = logKept + ofLink;
  const apart = kept - logStray;
  if (apart > 4) return kept + 0.02;
  return apart < -4 ? logStray + 0.02 : Math.max(kept, logStray) + Math.LN2;
}
