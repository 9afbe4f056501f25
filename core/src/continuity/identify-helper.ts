import { JoiningMistake } from './identify-walk.js';
import type { IdentifyPlan } from './identify.js';
import type { Told } from './two-ends.js';

type HelperPlan = Extract<IdentifyPlan, { way: 'helper' }>;

/** One round with a helper at A: what is joined there while B sees which beep. */
export interface HelperRound {
  /** Numbers given at A. */
  join: readonly number[];
  /** What they are joined to: the known return, each other, or the conductor that turned out to serve as return. */
  to: 'return' | 'each-other' | 'second';
}

/** The number that serves as return where there is none: it is joined in both of the first two rounds. */
const SECOND = 2;

/** The rounds of a plan with a helper, in their order. */
export function helperRoundsOf({ rounds, withReturn, count }: HelperPlan): HelperRound[] {
  if (withReturn) return rounds.map((join) => ({ join, to: 'return' }));
  return [
    { join: [1, SECOND], to: 'each-other' },
    { join: [SECOND, Math.min(3, count)], to: 'each-other' },
    ...rounds.map((join) => ({ join: join.filter((n) => n !== SECOND), to: 'second' as const })),
  ];
}

/**
 * The name at B of each number at A, once every round is read: the rounds that a conductor beeps in are the digits of
 * its number.
 *
 * @param names what the conductors are called at B, all of them
 * @param found the names that beep, round by round
 * @throws JoiningMistake where two conductors read alike, or as a number that there is not: a join was missed or is loose,
 *   or a conductor is open
 */
export function namesByRounds(
  plan: HelperPlan,
  names: readonly string[],
  found: readonly (readonly string[])[],
): Readonly<Record<number, string>> {
  const serving = plan.withReturn ? null : servingAsReturn(found);
  if (serving === null && !plan.withReturn)
    throw new JoiningMistake(
      'In each of the first two rounds two conductors beep with each other, and one of them in both. Have the joins looked at, and begin again.',
    );
  const rounds = plan.withReturn ? found : found.slice(2);
  const told: Record<number, string> = serving === null ? {} : { [SECOND]: serving };
  for (const name of names) {
    if (name === serving) continue;
    const number = 1 + rounds.reduce((sum, beeping, k) => sum + (beeping.includes(name) ? 1 << k : 0), 0);
    const other = told[number];
    if (number > plan.count)
      throw new JoiningMistake(
        `${name} beeps as number ${number} would, and there are ${plan.count}. A join too many, or two conductors touch: go through the rounds again.`,
      );
    if (other !== undefined)
      throw new JoiningMistake(
        `${other} and ${name} beep in the same rounds. A join of one was missed or is loose, or it is open: go through the rounds again.`,
      );
    told[number] = name;
  }
  return told;
}

/** The name at B of the conductor that serves as return: of two that beep together in the first round, the one that does in the second too. */
export function servingAsReturn([first = [], second = []]: readonly (readonly string[])[]): string | null {
  const both = first.filter((name) => second.includes(name));
  return first.length === 2 && second.length === 2 && both.length === 1 ? (both[0] ?? null) : null;
}

/** How far two people have come with unmarked conductors. */
export interface WiresByTwo {
  /** What they are called at B; null until that is told. */
  names: readonly string[] | null;
  /** Rounds that were joined at A, and those that were read at B. */
  joined: number;
  found: readonly (readonly string[])[];
}

const BEGUN: WiresByTwo = { names: null, joined: 0, found: [] };

/** Whether something about unmarked conductors can be told now; names are those that were given. */
export function isTimelyOfWires(
  { names, joined, found }: WiresByTwo,
  { doing }: Pick<Told, 'doing'>,
): boolean {
  switch (doing.does) {
    case 'named':
      return found.length === 0;
    case 'joined':
      return names !== null && doing.round === joined && joined === found.length;
    case 'found':
      return (
        doing.round === found.length && joined > found.length && doing.names.every((n) => names?.includes(n))
      );
    case 'took-back':
      // From any round on.
      return doing.touch < found.length;
    case 'came':
    case 'called':
      return true;
    default:
      return false;
  }
}

/** How far two people have come, after all that was told, oldest first. */
export function wiresByTwo(told: readonly Told[]): WiresByTwo {
  return told.reduce((state, one): WiresByTwo => {
    const { doing } = one;
    if (!isTimelyOfWires(state, one)) return state;
    if (doing.does === 'named') return { ...BEGUN, names: doing.names };
    if (doing.does === 'joined') return { ...state, joined: state.joined + 1 };
    if (doing.does === 'found') return { ...state, found: [...state.found, doing.names] };
    // A round that is read again is joined again first.
    if (doing.does === 'took-back')
      return { ...state, joined: doing.touch, found: state.found.slice(0, doing.touch) };
    return state;
  }, BEGUN);
}
