import { blockedBy, waitsFor, type Assembly, type Blocked } from './assembly.js';
import { goesRound } from './precedence.js';

/** An order in which everything can be done, or why there is none. */
export type Order = { found: true; order: readonly string[] } | { found: false; why: NoOrder };

/** A proof that no order exists. */
export type NoOrder =
  | { reason: 'waits in a ring' }
  /** These parts, taken together, cannot all get where they belong; leaving any one out would do. */
  | { reason: 'cannot pass'; parts: readonly string[]; blocked: readonly Blocked[] };

/** Operations beyond which a search by sets of 32 bits cannot go. */
const MOST_OPERATIONS = 31;

/**
 * Finds the order nearest to the assembly's own list in which every ring passes everything before
 * the place where it rests. The search is complete: it tries every set of operations that can be
 * reached, so that an order is found whenever one exists.
 *
 * @param done operations already done, in whatever order that was
 * @throws RangeError for more than 31 operations
 */
export function solveOrder(assembly: Assembly, done: ReadonlySet<string> = new Set()): Order {
  const order = search(assembly, done, null);
  if (order) return { found: true, order };
  return { found: false, why: proveNone(assembly, done) };
}

/**
 * Depth first over sets of operations done, in list order. Whether an operation is possible
 * depends on the set alone, so a set that led nowhere once never will.
 * @param minded rings that have to pass; null for all
 */
function search(
  assembly: Assembly,
  done: ReadonlySet<string>,
  minded: ReadonlySet<string> | null,
): string[] | null {
  const { operations } = assembly;
  if (operations.length > MOST_OPERATIONS) {
    throw new RangeError(
      `An end of ${operations.length} operations is too long: at most ${MOST_OPERATIONS}.`,
    );
  }
  const index = new Map(operations.map((o, i) => [o.id, i]));
  const needs = operations.map((o) =>
    waitsFor(assembly, o).reduce((bits, id) => bits | (index.has(id) ? 1 << (index.get(id) ?? 0) : 0), 0),
  );
  const all = operations.length === 0 ? 0 : (2 ** operations.length - 1) | 0;
  const dead = new Set<number>();
  const possible = (i: number, bits: number): boolean => {
    const operation = operations[i];
    if (!operation || ((needs[i] ?? 0) & ~bits) !== 0) return false;
    const part = operation.thread?.part ?? operation.slide?.part;
    if (part === undefined || (minded && !minded.has(part))) return true;
    const before = new Set(operations.filter((_, k) => bits & (1 << k)).map((o) => o.id));
    return blockedBy(assembly, before, operation) === null;
  };
  const walk = (bits: number): string[] | null => {
    if (bits === all) return [];
    if (dead.has(bits)) return null;
    for (let i = 0; i < operations.length; i++) {
      if (bits & (1 << i) || !possible(i, bits)) continue;
      const rest = walk(bits | (1 << i));
      if (rest) return [operations[i]?.id as string, ...rest];
    }
    dead.add(bits);
    return null;
  };
  const start = operations.reduce((bits, o, i) => (done.has(o.id) ? bits | (1 << i) : bits), 0);
  return walk(start);
}

/** A smallest set of rings that already makes it impossible: each is dropped that is not needed for that. */
function proveNone(assembly: Assembly, done: ReadonlySet<string>): NoOrder {
  if (goesRound(assembly)) return { reason: 'waits in a ring' };
  const parts = [...new Set(assembly.operations.flatMap((o) => (o.thread ? [o.thread.part] : [])))];
  let core = parts;
  for (const part of parts) {
    const fewer = core.filter((p) => p !== part);
    if (!search(assembly, done, new Set(fewer))) core = fewer;
  }
  return { reason: 'cannot pass', parts: core, blocked: witness(assembly, done, new Set(core)) };
}

/** Where the rings of a proof are stopped when the rest of the work goes its usual way. */
function witness(assembly: Assembly, done: ReadonlySet<string>, core: ReadonlySet<string>): Blocked[] {
  const order = search(assembly, done, new Set()) ?? [];
  const soFar = new Set(done);
  const found: Blocked[] = [];
  for (const id of order) {
    const operation = assembly.operations.find((o) => o.id === id);
    const part = operation?.thread?.part ?? operation?.slide?.part;
    if (operation && part !== undefined && core.has(part)) {
      const blocked = blockedBy(assembly, soFar, operation);
      if (blocked && !found.some((b) => b.part === part)) found.push(blocked);
    }
    soFar.add(id);
  }
  return found;
}

/** The first operation of an order after which a part could not be threaded any more; null when it always could. */
export function deadlineOf(assembly: Assembly, order: readonly string[], part: string): string | null {
  const threading = assembly.operations.find((o) => o.thread?.part === part);
  if (!threading) return null;
  const moves = new Set(
    assembly.operations.filter((o) => o.slide?.part === part || o === threading).map((o) => o.id),
  );
  const soFar = new Set<string>();
  let deadline: string | null = null;
  for (const id of order) {
    if (moves.has(id)) continue;
    soFar.add(id);
    const blocked = blockedBy(assembly, soFar, threading) !== null;
    if (!blocked) deadline = null;
    else if (deadline === null) deadline = id;
  }
  return deadline;
}
