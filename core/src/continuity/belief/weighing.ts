import type { Frame } from '../frame.js';
import { inflict } from '../faults.js';
import { LinkState } from '../link-state.js';
import { logLikelihood } from '../observers.js';
import { carriedBy } from './carried.js';
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
  /** Witness -> logarithm of its likelihood, strays not counted; where it was worked out for its own sake. */
  ofLink?: readonly number[];
}

/** Groups of contacts that a change of a whole order reaches at least. */
const WIDE = 3;
/** Share of wrong links that are so in a way that no single thing explains, as a logarithm. */
const RARE = Math.log(0.02);
/** Rows that fall so far short of their best (logarithm) are not those of a link with nothing wrong. */
const ASTRAY = 3;
/** A reading this much likelier (logarithm) counts as explained better. */
export const GAIN = 0.3;
const bitsIn = (bits: number): number => bits.toString(2).replaceAll('0', '').length;

/** What the evidence weighs: the link as it was meant, each thing alone, and several together. */
export class Weighing {
  /** Logarithm of the likelihood of the evidence if any link could be chosen for it. */
  best = 0;
  /** The same for a link with nothing wrong. */
  intactLog = 0;
  readonly witnesses: readonly Witness[];
  readonly sessionOf: readonly number[];
  /** Whether some witness has a quick bound, for being long to work out. */
  readonly slow: boolean;
  readonly intact: readonly number[];
  readonly intactGroups: Float64Array;
  readonly bestOf: readonly number[];
  readonly bestGroups: Float64Array;
  /** Groups of contacts, a bit each, whose rows are not as on a link with nothing wrong. */
  readonly astray: number;
  private readonly scratch: LinkState;
  private readonly each: number[] = [];

  constructor(
    readonly frame: Frame,
    readonly base: LinkState,
    readonly sessions: readonly Session[],
  ) {
    this.scratch = new LinkState(frame);
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
    this.astray = this.groupsAstray();
  }

  private groupsAstray(): number {
    const { groups } = this.frame;
    return this.witnesses.reduce((bits, witness, i) => {
      const off = (best: number, intact: number): boolean => best - intact > ASTRAY;
      if (!witness.groups) return off(this.bestOf[i] as number, this.intact[i] as number) ? -1 : bits;
      return witness.groups.reduce((some, _, g) => {
        const at = i * groups + g;
        return off(this.bestGroups[at] as number, this.intactGroups[at] as number) ? some | (1 << g) : some;
      }, bits);
    }, 0);
  }

  /** Things as suspects: nothing worked out yet. */
  suspectsOf(things: readonly Happening[]): Suspect[] {
    const rate = things.reduce((sum, thing) => sum + thing.rate, 0);
    // Field by field: spreading hundreds of these takes longer than working them out.
    return things.map((thing, index) => ({
      parts: thing.parts,
      rate: thing.rate,
      reach: thing.reach,
      index,
      logShare: Math.log(thing.rate / rate),
      sessions: this.sessions.reduce(
        (bits, { slots }, i) => (thing.parts.some((p) => slots.has(p.slot)) ? bits | (1 << i) : bits),
        0,
      ),
      ofLink: this.intact,
      logLikelihood: 0,
      inSession: [],
      gains: false,
      wide: null,
    }));
  }

  /** How a thing alone has the evidence read, session by session, once it is known how stray readings read. */
  sumAlone(suspect: Suspect): void {
    const inSession = this.sessions.map(() => 0);
    for (let i = 0; i < this.witnesses.length; i++) {
      const session = this.sessionOf[i] as number;
      const ofLink = suspect.ofLink[i] as number;
      inSession[session] = (inSession[session] as number) + mixed(this.witnesses[i] as Witness, ofLink);
    }
    suspect.inSession = inSession;
    suspect.logLikelihood = inSession.reduce((sum, one) => sum + one, 0);
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
        const one = state ? ofLink(witness, state) : (this.intact[at] as number);
        this.each[at] = one;
        sum += mixed(witness, one);
        at++;
      }
    }
    return sum;
  }

  /** Witness by witness what was worked out last, strays not counted. */
  lastOfLink(): readonly number[] {
    return [...this.each];
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

  workAlone(suspect: Suspect): void {
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
  learnStrays(suspects: readonly Suspect[]): void {
    this.witnesses.forEach((witness, i) => {
      learnClean(witness, this.intact[i] as number);
      const session = 1 << (this.sessionOf[i] as number);
      let logWrong = witness.logUnknown + RARE;
      for (const { ofLink, logShare, sessions } of suspects)
        if (sessions & session) logWrong = addLogs(logWrong, logShare + (ofLink[i] as number));
      learnStrays(witness, this.intact[i] as number, logWrong);
    });
    this.best = this.sumOf(this.bestOf);
    this.intactLog = this.sumOf(this.intact);
  }

  private sumOf(ofLink: readonly number[]): number {
    return this.witnesses.reduce((sum, witness, i) => sum + mixed(witness, ofLink[i] as number), 0);
  }
}
