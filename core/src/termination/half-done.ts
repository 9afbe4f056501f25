import { solveOrder } from './order.js';
import { noOrderInWords } from './part-verdicts.js';
import { operationsOf, without } from './precedence.js';
import { layOut, type Termination, type TerminationInput, type ThreadedPart } from './termination.js';
import type { PartKind } from '../connectors/connector-types.js';
import type { Assembly } from './assembly.js';

/** One way on from a half-done end, with what it costs. */
export interface WayOn {
  kind: 'continue' | 'undo' | 'split part' | 'leave out' | 'start again';
  words: string;
  /** Operations still to do, in order. */
  order: readonly string[];
  connectors: number;
  minutes: number;
  /** Cable lost at this end. */
  cableMm: number;
}

/** What can still be done with an end that is not as it should be. */
export interface HalfDone {
  /** Whether the work can simply go on. */
  goesOn: boolean;
  /** Why it cannot; empty when it can. */
  why: string;
  /** Parts that were left out and cannot be threaded any more. */
  missing: readonly string[];
  /** Best first. */
  ways: readonly WayOn[];
}

/** What closes over a cable afterwards in place of a ring. */
const SPLIT_VERSIONS: Partial<Record<PartKind, string>> = {
  boot: 'a split boot, clipped on afterwards',
  'heat-shrink': 'self-amalgamating tape, wound on with half its width overlapping',
  'strain-relief': 'a clip-on strain relief',
};

/** Taking something apart costs about half of what putting it together did. */
const UNDO_SHARE = 0.5;
const CUT_OFF_MINUTES = 0.5;
/** What goes with the connector when an end is cut off, beyond the opened length. */
const CUT_OFF_MM = 10;
/** For ranking only: a connector is worth some minutes; so is doing it properly. */
const WORTH = { connector: 6, split: 3, leftOut: 15 };

/**
 * What can still be done with an end. The steps before the last one done are taken as done too;
 * threaded parts only where they are named.
 *
 * @param done operation ids: recipe steps and `thread-…`
 * @throws RangeError for an operation this end does not have
 */
export function waysOn(input: TerminationInput, done: readonly string[]): HalfDone {
  const termination = layOut(input);
  const { assembly } = termination;
  const known = assembly.operations.map((o) => o.id);
  const unknown = done.find((id) => !known.includes(id));
  if (unknown !== undefined) {
    throw new RangeError(`There is no step "${unknown}" at this end. Its steps are ${known.join(', ')}.`);
  }
  const soFar = withStepsBefore(termination, done);
  const solved = solveOrder(assembly, soFar);
  if (solved.found) {
    const words = solved.order.length === 0 ? 'Everything is done.' : 'Nothing is lost: go on.';
    const way = { kind: 'continue' as const, words, order: solved.order, connectors: 0, cableMm: 0 };
    return {
      goesOn: true,
      why: '',
      missing: [],
      ways: [{ ...way, minutes: minutesOf(termination, solved.order) }],
    };
  }
  const lost = lostRings(termination, soFar);
  const ways = [
    undo(termination, soFar),
    splitPart(termination, soFar, lost),
    leaveOut(termination, soFar, lost),
    startAgain(termination, soFar),
  ];
  return {
    goesOn: false,
    why: noOrderInWords(termination, solved.why),
    missing: lost.map((ring) => ring.part.name),
    ways: ways.filter((way) => way !== null).sort((a, b) => worth(a, termination) - worth(b, termination)),
  };
}

function withStepsBefore({ steps }: Termination, done: readonly string[]): Set<string> {
  const last = steps.findLastIndex((step) => done.includes(step.id));
  return new Set([...done, ...steps.slice(0, last + 1).map((step) => step.id)]);
}

/** Rings that are not on and have no way on any more, each taken alone. */
function lostRings({ assembly, rings }: Termination, done: ReadonlySet<string>): ThreadedPart[] {
  const absent = rings.filter((ring) => !done.has(ring.operationId));
  return absent.filter((ring) => {
    const others = absent
      .filter((r) => r !== ring)
      .flatMap((r) => [...operationsOf(assembly, r.operationId)]);
    return !solveOrder(withoutRings(assembly, others), done).found;
  });
}

/** A part that was left out takes with it the steps that work it and nothing else. */
const worksOnly =
  ({ rings, steps }: Termination, lost: readonly string[]) =>
  (id: string): boolean => {
    const works = steps.find((step) => step.id === id)?.works;
    const its = rings.filter(({ part }) => part.kind === works).map(({ operationId }) => operationId);
    return its.length > 0 && its.every((ring) => lost.includes(ring));
  };

/** Leaves threadings out; a step that would have brought the part forward stays, without the part. */
function withoutRings(assembly: Assembly, operations: readonly string[]): Assembly {
  const gone = new Set(operations.filter((id) => assembly.operations.find((o) => o.id === id)?.thread));
  const rest = without(assembly, gone);
  return {
    ...rest,
    operations: rest.operations.map((o) =>
      o.slide && gone.has(o.slide.part) ? { ...o, slide: undefined } : o,
    ),
  };
}

function minutesOf({ steps }: Termination, order: readonly string[]): number {
  const sum = order.reduce((total, id) => total + (steps.find((s) => s.id === id)?.minutes ?? 0.3), 0);
  return Math.round(sum * 10) / 10;
}

const title = ({ steps, figures }: Termination, id: string): string =>
  steps.find((step) => step.id === id)?.title(figures) ?? id;

/** Where each conductor has a joint and a sleeve of its own, they are taken one after another. */
const oneByOne = ({ steps, figures }: Termination, back: string): boolean =>
  figures.connector.group === 'solder cup' && steps.find(({ id }) => id === back)?.verb === 'solder';

/** Goes back step by step, as long as no step is beyond recall, until an order exists. */
function undo(termination: Termination, done: ReadonlySet<string>): WayOn | null {
  const { steps, assembly } = termination;
  const left = new Set(done);
  const undone: string[] = [];
  for (const step of steps.filter((s) => done.has(s.id)).reverse()) {
    // What is cut off, struck flat or closed for good does not come back.
    if (step.noWayBack || step.verb === 'cut') return null;
    left.delete(step.id);
    undone.push(step.id);
    const solved = solveOrder(assembly, left);
    if (!solved.found) continue;
    const back = undone[undone.length - 1] as string;
    return {
      kind: 'undo',
      words: oneByOne(termination, back)
        ? 'Unsolder one conductor at a time: its sleeve on, solder it again, then the next. The order in the cups stays.'
        : `Go back to before “${title(termination, back)}”, thread what is missing, and go on.`,
      order: solved.order,
      connectors: 0,
      minutes:
        Math.round(
          (minutesOf(termination, undone) * UNDO_SHARE + minutesOf(termination, solved.order)) * 10,
        ) / 10,
      cableMm: 0,
    };
  }
  return null;
}

function goOnWithout(
  termination: Termination,
  done: ReadonlySet<string>,
  lost: readonly ThreadedPart[],
): readonly string[] | null {
  if (lost.length === 0) return null;
  const fewer = withoutRings(
    termination.assembly,
    lost.map((ring) => ring.operationId),
  );
  const solved = solveOrder(fewer, done);
  if (!solved.found) return null;
  const gone = worksOnly(
    termination,
    lost.map((ring) => ring.operationId),
  );
  return solved.order.filter((id) => !gone(id));
}

function splitPart(
  termination: Termination,
  done: ReadonlySet<string>,
  lost: readonly ThreadedPart[],
): WayOn | null {
  const versions = lost.map(({ part }) => SPLIT_VERSIONS[part.kind]);
  const order = goOnWithout(termination, done, lost);
  if (!order || versions.some((v) => v === undefined)) return null;
  return {
    kind: 'split part',
    words: `Go on, and use ${versions.join(' and ')}.`,
    order,
    connectors: 0,
    minutes: Math.round((minutesOf(termination, order) + 0.5 * lost.length) * 10) / 10,
    cableMm: 0,
  };
}

function leaveOut(
  termination: Termination,
  done: ReadonlySet<string>,
  lost: readonly ThreadedPart[],
): WayOn | null {
  const order = goOnWithout(termination, done, lost);
  if (!order || lost.some(({ part }) => !part.optional)) return null;
  const names = lost.map(({ part }) => part.name).join(' and ');
  return {
    kind: 'leave out',
    words: `Go on without the ${names}, if the lead agrees; it is noted on the record.`,
    order,
    connectors: 0,
    minutes: minutesOf(termination, order),
    cableMm: 0,
  };
}

function startAgain(termination: Termination, done: ReadonlySet<string>): WayOn {
  const { steps, assembly, rings, figures } = termination;
  // What is already threaded stays on the cable.
  const threaded = new Set(rings.map((r) => r.operationId).filter((id) => done.has(id)));
  const solved = solveOrder(assembly, threaded);
  const order = solved.found ? solved.order : [];
  const spent = steps.some((step) => step.noWayBack && done.has(step.id));
  const stays = threaded.size > 0 ? ' What is threaded stays on.' : '';
  return {
    kind: 'start again',
    words: spent
      ? `Cut off and start again with a new connector.${stays}`
      : `Cut off and start again; the connector can be used again.${stays}`,
    order,
    connectors: spent ? 1 : 0,
    minutes: Math.round((CUT_OFF_MINUTES + minutesOf(termination, order)) * 10) / 10,
    cableMm:
      Math.max(figures.connector.strip.jacketMm, figures.connector.strip.insulationMm ?? 0) + CUT_OFF_MM,
  };
}

const worth = (way: WayOn, { figures }: Termination): number => {
  // Tape between cups a millimetre apart is no sleeve.
  const split = figures.connector.group === 'solder cup' ? WORTH.leftOut : WORTH.split;
  return (
    way.minutes +
    way.connectors * WORTH.connector +
    (way.kind === 'split part' ? split : way.kind === 'leave out' ? WORTH.leftOut : 0)
  );
};
