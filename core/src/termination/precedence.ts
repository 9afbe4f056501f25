import { waitsFor, type Assembly, type Operation } from './assembly.js';

/** Whether the operations wait for each other in a ring, so that none can be first: what is left when all that can be done is done. */
export function goesRound(assembly: Assembly): boolean {
  const waiting = new Map(assembly.operations.map((o) => [o.id, waitsFor(assembly, o)]));
  for (let before = -1; before !== waiting.size;) {
    before = waiting.size;
    for (const [id, after] of waiting) if (!after.some((each) => waiting.has(each))) waiting.delete(id);
  }
  return waiting.size > 0;
}

/**
 * The same assembly without some operations: what waited for one of them now waits for what that
 * one waited for, so that leaving a part out loosens nothing else.
 */
export function without(assembly: Assembly, leftOut: ReadonlySet<string>): Assembly {
  const byId = new Map(assembly.operations.map((o) => [o.id, o]));
  const standIns = (ids: readonly string[], seen: ReadonlySet<string>): string[] =>
    ids.flatMap((id) => {
      if (!leftOut.has(id) || seen.has(id)) return leftOut.has(id) ? [] : [id];
      const gone = byId.get(id);
      return gone ? standIns(waitsFor(assembly, gone), new Set([...seen, id])) : [];
    });
  const operations = assembly.operations
    .filter((o) => !leftOut.has(o.id))
    .map((o): Operation => ({ ...o, after: [...new Set(standIns(waitsFor(assembly, o), new Set()))] }));
  return { ...assembly, operations };
}

/** The operations that thread or move a part. */
export const operationsOf = (assembly: Assembly, part: string): Set<string> =>
  new Set(
    assembly.operations.filter((o) => o.thread?.part === part || o.slide?.part === part).map((o) => o.id),
  );
