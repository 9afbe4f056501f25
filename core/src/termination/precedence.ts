import { DirectedGraph } from 'graphology';
import { hasCycle } from 'graphology-dag';
import { waitsFor, type Assembly, type Operation } from './assembly.js';

/** What must come before what, as a graph of operation ids; edges point forward in time. */
export function precedence(assembly: Assembly): DirectedGraph {
  const graph = new DirectedGraph();
  for (const { id } of assembly.operations) graph.addNode(id);
  for (const operation of assembly.operations) {
    for (const before of waitsFor(assembly, operation)) {
      if (graph.hasNode(before)) graph.mergeEdge(before, operation.id);
    }
  }
  return graph;
}

/** Whether the operations wait for each other in a ring, so that none can be first. */
export const goesRound = (assembly: Assembly): boolean => hasCycle(precedence(assembly));

/** Everything that can only be done after an operation. */
export function followers(graph: DirectedGraph, id: string): Set<string> {
  const found = new Set<string>();
  const waiting = [id];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    for (const follower of graph.outNeighbors(next)) {
      if (found.has(follower)) continue;
      found.add(follower);
      waiting.push(follower);
    }
  }
  return found;
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
