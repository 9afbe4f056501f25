import { EDGE, TIP, type Blocked } from './assembly.js';
import { deadlineOf, solveOrder, type NoOrder } from './order.js';
import { without } from './precedence.js';
import type { ConnectorPart } from '../connectors/connector-types.js';
import type { Termination, ThreadedPart } from './termination.js';

/** When a part can go on, and why. */
export interface PartVerdict {
  part: ConnectorPart;
  /** `first`: before the end is opened. `later`: after it is opened and before it closes. */
  when: 'first' | 'later' | 'any time' | 'never';
  words: string;
}

/** An order of work, with the verdict on every part that comes with the connector. */
export interface WorkOrder {
  /** Operation ids, threading included. */
  order: readonly string[];
  verdicts: readonly PartVerdict[];
  /** Parts for which there is no order at all; they are left out of `order`. */
  impossible: readonly ThreadedPart[];
}

const figure = (mm: number): string => (mm === Infinity ? 'closed' : `${mm.toFixed(1)} mm`);

/** What a ring runs into, in words. */
export function blockedInWords(termination: Termination, blocked: Blocked): string {
  const { figures, steps, rings } = termination;
  const name = rings.find((r) => r.operationId === blocked.part)?.part.name ?? blocked.part;
  const bore = `The ${name}’s bore (${blocked.boreMm.toFixed(1)} mm)`;
  if (blocked.by === null) {
    return `${bore} does not pass this jacket (${figures.cable.jacketMm.toFixed(1)} mm): take a bigger one.`;
  }
  const other = rings.find((r) => r.operationId === blocked.by);
  if (other)
    return `${bore} cannot pass the ${other.part.name} (${figure(blocked.girthMm)}), which is in front of it.`;
  const step = steps.find((s) => s.id === blocked.by);
  const after = step ? `after “${step.title(figures)}”` : 'then';
  if (blocked.girthMm === Infinity) return `The ${name} cannot go on ${after}: the way is closed for good.`;
  const what =
    blocked.zone === TIP ? 'the connector' : blocked.zone === EDGE ? 'the folded screen' : 'the opened core';
  return `${bore} cannot pass ${what} (${figure(blocked.girthMm)}) ${after}.`;
}

/** Why no order exists, in words. */
export function noOrderInWords(termination: Termination, why: NoOrder): string {
  return why.reason === 'waits in a ring'
    ? 'The steps of this recipe wait for each other: none can be first.'
    : why.blocked.map((b) => blockedInWords(termination, b)).join(' ');
}

/** The order for an untouched end. A part that can never go on is named and left out. */
export function orderWork(termination: Termination): WorkOrder {
  const impossible: ThreadedPart[] = [];
  const never: PartVerdict[] = [];
  let { assembly } = termination;
  let solved = solveOrder(assembly);
  while (!solved.found) {
    const { why } = solved;
    const blamed = why.reason === 'cannot pass' ? why.parts[0] : undefined;
    const ring = termination.rings.find((r) => r.operationId === blamed);
    if (!ring) throw new RangeError(noOrderInWords(termination, why));
    impossible.push(ring);
    never.push({ part: ring.part, when: 'never', words: noOrderInWords(termination, why) });
    assembly = without(assembly, new Set([ring.operationId]));
    // Its slide goes with it: what is not on the cable is not brought forward.
    assembly = {
      ...assembly,
      operations: assembly.operations.map((o) =>
        o.slide?.part === ring.operationId ? { ...o, slide: undefined } : o,
      ),
    };
    solved = solveOrder(assembly);
  }
  const { order } = solved;
  const verdicts = termination.rings
    .filter((ring) => !impossible.includes(ring))
    .map((ring) => verdictOn(termination, order, ring));
  const opening = termination.opening.filter(({ split }) => split);
  const split = opening.map((part): PartVerdict => ({
    part,
    when: 'any time',
    words: `The ${part.name} opens along its length: it can go on at any time.`,
  }));
  return { order, impossible, verdicts: [...never, ...verdicts, ...split] };
}

function verdictOn(termination: Termination, order: readonly string[], ring: ThreadedPart): PartVerdict {
  const { figures, steps, assembly } = termination;
  const { part, operationId } = ring;
  const title = (id: string | null | undefined): string => {
    const step = steps.find((s) => s.id === id);
    return step ? `“${step.title(figures)}”` : 'the last step';
  };
  const deadline = deadlineOf(assembly, order, operationId);
  const bore = `Bore ${part.boreMm.toFixed(1)} mm`;
  const opening = order.findIndex((id) => steps.some((s) => s.id === id && s.verb !== 'inspect'));
  const beforeWork = order.indexOf(operationId) < opening;
  if (deadline === null) {
    return {
      part,
      when: 'any time',
      words: `${bore} passes the finished connector (${figure(figures.connector.bodyMm)}).`,
    };
  }
  if (beforeWork) {
    const passes = `${bore} goes over the jacket (${figures.cable.jacketMm.toFixed(1)} mm)`;
    return {
      part,
      when: 'first',
      words: `${passes}, but no longer once ${title(deadline)} is done: put it on first.`,
    };
  }
  const opened = order.slice(0, order.indexOf(operationId)).findLast((id) => steps.some((s) => s.id === id));
  return { part, when: 'later', words: `${bore}: on after ${title(opened)} and before ${title(deadline)}.` };
}
