import type { Suspect, Weighing } from './weighing.js';
import type { Witness } from './witness.js';

/**
 * The most that evidence can weigh if two or three things happened together, told without working them through: groups
 * of contacts that only one thing touches show what it shows alone, groups that several touch might show anything.
 */
export class Bounds {
  /** Session -> groups of contacts -> the most that anything in them could show. */
  private readonly anything: readonly Map<number, number>[];

  constructor(private readonly weighing: Weighing) {
    this.anything = weighing.sessions.map(() => new Map<number, number>());
  }

  /** The likelihood if each of two things shows what it shows alone. */
  ifApart(a: Suspect, b: Suspect): number {
    return this.ifApartFrom(a.ofLink, b);
  }

  /** The same of a third beside two that were worked through together: what it alone makes likelier, it makes likelier here. */
  ifApartFrom(pair: readonly number[], third: Suspect): number {
    const { witnesses, intact, bestOf } = this.weighing;
    let sum = 0;
    for (let i = 0; i < witnesses.length; i++) {
      const added = (pair[i] as number) + (third.ofLink[i] as number) - (intact[i] as number);
      sum += mostMixed(witnesses[i] as Witness, Math.min(added, bestOf[i] as number));
    }
    return sum;
  }

  /**
   * The most it can be: what one thing does may carry what the other does over to any group that either
   * reaches, and there anything may show; where a session knows but one of them, it shows as it does alone.
   */
  atMost(a: Suspect, b: Suspect): number {
    let sum = 0;
    for (let session = 0; session < this.weighing.sessions.length; session++) {
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
    const sum = this.most(session, reach, this.weighing.intactGroups);
    known.set(reach, sum);
    return sum;
  }

  /** The most likely a session's readings can be if in some groups anything may show, and the others show this. */
  private most(session: number, anything: number, others: Float64Array): number {
    const { frame, witnesses, sessionOf, bestOf, bestGroups } = this.weighing;
    const { groups } = frame;
    let sum = 0;
    witnesses.forEach((witness, i) => {
      if (sessionOf[i] !== session) return;
      let most = bestOf[i] as number;
      if (witness.groups) {
        let rows = 0;
        for (let g = 0; g < groups; g++)
          rows += (anything & (1 << g) ? bestGroups : others)[i * groups + g] as number;
        most = Math.min(most, rows + slackOf(witness));
      }
      sum += mostMixed(witness, most);
    });
    return sum;
  }

  /** The most likely the evidence can be if a third thing happened beside two. */
  atMostOfThree(a: Suspect, b: Suspect, third: Suspect): number {
    let sum = 0;
    for (let session = 0; session < this.weighing.sessions.length; session++)
      sum += this.anythingIn(session, a.reach | b.reach | third.reach);
    return sum;
  }
}

/** Logarithm by which rows that hang together over groups, by a common length, may fit better together. */
const slackOf = ({ reading }: Witness): number =>
  reading.instrument === 'pair-reflectometer' || reading.instrument === 'capacitance-meter' ? 3 : 0;

/** No less than `mixed`, and quicker. */
function mostMixed({ logKept, logStray }: Witness, ofLink: number): number {
  const kept = logKept + ofLink;
  const apart = kept - logStray;
  if (apart > 4) return kept + 0.02;
  return apart < -4 ? logStray + 0.02 : Math.max(kept, logStray) + Math.LN2;
}
