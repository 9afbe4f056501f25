import type { DrillAnswer } from '@near-spoke/contracts';
import { DRILL_KINDS, type DrillKind } from '@near-spoke/core/drills';
import { createEmptyCard, fsrs, Rating, type Card } from 'ts-fsrs';

/** Where a person stands with one kind of drill. */
export interface Standing {
  kind: DrillKind;
  /** When it is to be asked again; null where it never was. */
  due: Date | null;
  answered: number;
  /** Of the last ten. */
  lately: number;
  right: number;
}

const LATELY = 10;

/** What is asked again when, by the answers so far: spaced by how well each kind was remembered. */
export function standingsOf(answers: readonly DrillAnswer[]): Standing[] {
  // The same answers give the same dates, on whichever device.
  const scheduler = fsrs({ enable_fuzz: false });
  return DRILL_KINDS.map((kind): Standing => {
    const own = answers.filter((answer) => answer.kind === kind);
    const [first] = own;
    if (!first) return { kind, due: null, answered: 0, lately: 0, right: 0 };
    let card: Card = createEmptyCard(new Date(first.at));
    for (const { at, right } of own)
      card = scheduler.next(card, new Date(at), right ? Rating.Good : Rating.Again).card;
    const last = own.slice(-LATELY);
    return {
      kind,
      due: card.due,
      answered: own.length,
      lately: last.length,
      right: last.filter(({ right }) => right).length,
    };
  });
}

/**
 * The kind to ask next: what is due longest; then what is new, called for by work first; then what is due soonest. The one just
 * asked only where there is no other.
 */
export function nextKind(
  standings: readonly Standing[],
  called: Readonly<Record<DrillKind, number>>,
  now: Date,
  justAsked: DrillKind | null = null,
): DrillKind {
  const others = standings.filter(({ kind }) => kind !== justAsked);
  const time = ({ due }: Standing): number => due?.getTime() ?? 0;
  const due = others.filter((each) => each.due !== null && each.due <= now).sort((a, b) => time(a) - time(b));
  const fresh = others.filter((each) => each.due === null).sort((a, b) => called[b.kind] - called[a.kind]);
  const later = others
    .filter((each) => each.due !== null && each.due > now)
    .sort((a, b) => time(a) - time(b));
  // What was missed at work goes before what was remembered well.
  const [urgent] = fresh.filter(({ kind }) => called[kind] > 0);
  return (due[0] ?? urgent ?? fresh[0] ?? later[0] ?? standings[0])?.kind ?? 'order-of-eight';
}
