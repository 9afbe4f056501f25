/**
 * The end of a cable as a row of places from its tip backwards, what each operation makes of them,
 * and the rings that have to pass. Pure geometry: it knows no connector and no words.
 */

/** A place along the end, counted from the tip: a ring that rests at a place has passed all before it. */
export type Zone = number;

/** The tip, the opened core behind it, and the jacket's edge. */
export const TIP: Zone = 0;
export const CORE: Zone = 1;
export const EDGE: Zone = 2;
/** Where parts wait on the jacket: the first behind the edge, each further one behind the last. */
export const JACKET: Zone = 3;

/** How thick the end is at a place, in millimetres; Infinity where something closes it for good. */
export interface Girth {
  zone: Zone;
  mm: number;
}

/** A closed part, threaded from the tip to the place where it rests. */
export interface Ring {
  part: string;
  boreMm: number;
  outsideMm: number;
  rest: Zone;
}

/**
 * A ring pushed forward to the place where it is wanted. Rings that are brought forward rest in
 * front of those that stay, as they do on a real cable.
 */
export interface Slide {
  part: string;
  to: Zone;
}

/** One thing done to the end. */
export interface Operation {
  id: string;
  /** Operations that must be done before this one. */
  after: readonly string[];
  /** What the end measures once it is done, where it changes. */
  girths?: readonly Girth[];
  thread?: Ring;
  slide?: Slide;
}

/**
 * What has to be done to one end. The list is the order a practised hand would like best; where
 * two operations speak of the same place, the later one in the list has the last word. List rings
 * deepest first: a ring that rests further back never stands in the way of one in front of it.
 */
export interface Assembly {
  /** Thickness of the untouched cable, in millimetres. */
  cableMm: number;
  operations: readonly Operation[];
}

/** Why a ring cannot pass. */
export interface Blocked {
  part: string;
  zone: Zone;
  boreMm: number;
  girthMm: number;
  /** The operation that made the end so thick; null when the cable itself is. */
  by: string | null;
}

/** The thickest thing at or before a place, seen by a ring of one part, after some operations. */
function thickest(
  assembly: Assembly,
  done: ReadonlySet<string>,
  from: Zone,
  to: Zone,
  part: string,
): { zone: Zone; mm: number; by: string | null } {
  const at = new Map<Zone, { mm: number; by: string | null }>();
  for (const zone of [TIP, CORE, EDGE, JACKET]) at.set(zone, { mm: assembly.cableMm, by: null });
  const rings = new Map<string, { zone: Zone; mm: number; by: string }>();
  for (const operation of assembly.operations) {
    if (!done.has(operation.id)) continue;
    for (const { zone, mm } of operation.girths ?? []) at.set(zone, { mm, by: operation.id });
    const { thread, slide } = operation;
    if (thread && thread.part !== part)
      rings.set(thread.part, { zone: thread.rest, mm: thread.outsideMm, by: operation.id });
    const slid = slide && rings.get(slide.part);
    if (slid) rings.set(slide.part, { ...slid, zone: slide.to });
  }
  // A resting place lies on the core, the edge or the jacket, and is as thick as that.
  const deepest = Math.min(Math.floor(to), JACKET);
  let found = { zone: to, mm: 0, by: null as string | null };
  for (const [zone, { mm, by }] of at) {
    if (zone >= Math.floor(from) && zone <= deepest && mm >= found.mm) found = { zone, mm, by };
  }
  for (const { zone, mm, by } of rings.values()) {
    if (zone >= from && zone < to && mm > found.mm) found = { zone, mm, by };
  }
  return found;
}

/** What keeps an operation's ring from going where it should after `done`; null when nothing does. */
export function blockedBy(
  assembly: Assembly,
  done: ReadonlySet<string>,
  operation: Operation,
): Blocked | null {
  const { thread, slide } = operation;
  if (thread) {
    const { zone, mm, by } = thickest(assembly, done, TIP, thread.rest, thread.part);
    return thread.boreMm > mm ? null : { part: thread.part, zone, boreMm: thread.boreMm, girthMm: mm, by };
  }
  if (slide) {
    const ring = assembly.operations.find((o) => o.thread?.part === slide.part)?.thread;
    if (!ring) return null;
    const { zone, mm, by } = thickest(assembly, done, slide.to, ring.rest, slide.part);
    return ring.boreMm > mm ? null : { part: slide.part, zone, boreMm: ring.boreMm, girthMm: mm, by };
  }
  return null;
}

/** Operations that wait for a threaded ring even where the recipe does not say so: its own slide. */
export function waitsFor(assembly: Assembly, operation: Operation): readonly string[] {
  const { slide } = operation;
  if (!slide) return operation.after;
  const threading = assembly.operations.find((o) => o.thread?.part === slide.part);
  return threading && !operation.after.includes(threading.id)
    ? [...operation.after, threading.id]
    : operation.after;
}
