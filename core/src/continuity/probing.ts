import type { ContactId } from '../cabling/schemes.js';
import { diagnose } from './diagnose.js';
import { intendedMap, type LinkExpectation } from './expectation.js';
import { FAULT_KINDS, type FaultKind } from './instruments.js';
import type { ContactGroup, Touch } from './readings.js';
import type { LinkEnd } from './true-link.js';

/** A touch to be made, and what it should say if all is well. */
export interface AskedTouch extends Omit<Touch, 'closed' | 'ohm'> {
  should: boolean;
  /** What the touch is for. */
  why: 'isolation' | 'path' | 'search';
  /** A probe goes over the contacts of the larger group one after the other; clips gang them otherwise. */
  sweep: boolean;
}

/** With what contacts are touched: two probes, of which one stays while the other sweeps, or clips that gang many at once. */
export type ProbeWay = 'probes' | 'clips';

/** How far a probing has come: the next touch, or what has been found. */
export type Probing =
  | { step: 'touch'; touch: AskedTouch; done: number }
  /** Every contact reaches its place and nothing else does. */
  | { step: 'proved'; done: number }
  /** The whole map is known, and it is not the one intended. */
  | { step: 'measured'; done: number; arrivals: Readonly<Record<ContactId, readonly ContactId[]>> };

/**
 * The next touch of a beeper that proves a link's map, one person at each end, from the answers so
 * far (oldest first, true where it beeped). Shorts are proved first: with probes each contact is held while those
 * after it are swept; with clips contacts are ganged, one touch for each bit of a contact's number. Then each path. An
 * answer that should not be is followed up by halving until the whole map is known.
 */
export function probeMap(
  expected: LinkExpectation,
  answers: readonly boolean[],
  way: ProbeWay = 'probes',
): Probing {
  const course = probing(expected, way);
  let at = course.next();
  for (const answer of answers) {
    if (at.done) break;
    at = course.next(answer);
  }
  if (!at.done) return { step: 'touch', touch: at.value, done: answers.length };
  const meant = intendedMap(expected);
  const right = [...at.value].every(
    ([contact, reached]) =>
      reached.length === (contact in meant ? 1 : 0) && (!(contact in meant) || reached[0] === meant[contact]),
  );
  return right
    ? { step: 'proved', done: answers.length }
    : { step: 'measured', done: answers.length, arrivals: Object.fromEntries(at.value) };
}

/**
 * The touches that prove a sound link: each path closes once, and silent touches must part every two conductors. Clips
 * need as many of those as a conductor's number has bits, and no way needs fewer; a probe that sweeps needs one for each contact but
 * the last.
 */
export function fewestTouches(
  expected: LinkExpectation,
  way: ProbeWay = 'probes',
): {
  paths: number;
  isolation: number;
  allPairs: number;
} {
  const paths = Object.keys(intendedMap(expected)).length;
  return {
    paths,
    isolation: way === 'probes' ? Math.max(0, paths - 1) : Math.ceil(Math.log2(Math.max(1, paths))),
    allPairs: paths + (paths * (paths - 1)) / 2,
  };
}

const at = (end: LinkEnd, contacts: readonly ContactId[]): ContactGroup => ({ end, contacts });

type Course = Generator<AskedTouch, Map<ContactId, ContactId[]>, boolean>;

function* probing(expected: LinkExpectation, way: ProbeWay): Course {
  const meant = intendedMap(expected);
  const near = Object.keys(meant);
  const far = Object.values(meant);
  const sweeps = way === 'probes';
  const nets = yield* sweeps ? sweepNets(near) : findNets(near);
  const reached = new Map<ContactId, ContactId[]>(near.map((contact) => [contact, []]));
  const taken = new Set<ContactId>();
  const give = (net: readonly ContactId[], contact: ContactId): void => {
    taken.add(contact);
    for (const member of net) reached.get(member)?.push(contact);
  };
  const astray: ContactId[][] = [];
  for (const net of nets) {
    const first = net[0] as ContactId;
    for (const member of net) {
      const to = meant[member] as ContactId;
      const beeps = yield {
        from: at('near', [first]),
        to: at('far', [to]),
        should: true,
        why: 'path',
        sweep: false,
      };
      if (beeps) give(net, to);
    }
    if (net.some((member) => !taken.has(meant[member] as ContactId))) astray.push(net);
  }
  // What does not arrive at its own place may arrive where another was missed, or where another lies.
  for (const net of astray) {
    let candidates = far.filter((contact) => !taken.has(contact) && !net.some((m) => meant[m] === contact));
    while (candidates.length > 0) {
      const found = yield* findAmong(net[0] as ContactId, at('far', candidates), sweeps);
      if (found === null) break;
      give(net, found);
      candidates = candidates.filter((contact) => contact !== found);
    }
  }
  // A far contact that nothing has reached may still hang on another, joined behind an open.
  for (const contact of far) {
    if (taken.has(contact)) continue;
    const closes = yield {
      from: at('near', near),
      to: at('far', [contact]),
      should: false,
      why: 'search',
      sweep: sweeps,
    };
    if (!closes) continue;
    let left: readonly ContactId[][] = nets;
    while (left.length > 1) {
      const half = left.slice(0, Math.ceil(left.length / 2));
      const here = yield {
        from: at('near', half.flat()),
        to: at('far', [contact]),
        should: false,
        why: 'search',
        sweep: sweeps && half.flat().length > 1,
      };
      left = here ? half : left.slice(half.length);
    }
    give(left[0] as ContactId[], contact);
  }
  return reached;
}

/**
 * What is wrong, once touches so far leave one answer: the same contacts in the same trouble hold
 * nearly all the belief, whichever end it is at. Null while nothing is odd, or more than one thing could be.
 */
export function namedBy(expected: LinkExpectation, touches: readonly Touch[]): string | null {
  if (touches.length === 0) return null;
  const { result, explanations } = diagnose(expected, [{ instrument: 'beeper', touches }]);
  if (result !== 'fail') return null;
  const shares = new Map<string, number>();
  for (const { probability, faults } of explanations) {
    const trouble = faults.map((f) => `${troubleOf(f.kind)} on ${f.contacts.join(', ')}`).join('; ');
    shares.set(trouble, (shares.get(trouble) ?? 0) + probability);
  }
  const [best] = [...shares].sort((a, b) => b[1] - a[1]);
  return best && best[1] >= NAMED ? best[0] : null;
}

const NAMED = 0.8;
/** To a beeper a joint that is open, poor or loose is one thing: it does not beep. */
const troubleOf = (kind: FaultKind): string =>
  kind === 'high-resistance' || kind === 'intermittent' ? FAULT_KINDS.open : FAULT_KINDS[kind];

/** Groups of near contacts that are joined, found by holding each while the others are swept: silent when nothing is. */
function* sweepNets(near: readonly ContactId[]): Generator<AskedTouch, ContactId[][], boolean> {
  const nets: ContactId[][] = [];
  let left = [...near];
  while (left.length > 0) {
    const [held, ...rest] = left as [ContactId, ...ContactId[]];
    const net = [held];
    let others = rest;
    // What is joined to this one has been held apart from the rest with it.
    while (others.length > 0) {
      const found = yield* findAmong(held, at('near', others), true, 'isolation');
      if (found === null) break;
      net.push(found);
      others = others.filter((contact) => contact !== found);
    }
    nets.push(net);
    left = left.filter((contact) => !net.includes(contact));
  }
  return nets;
}

/** Groups of near contacts that are joined, found by ganging: silent when nothing is. */
function* findNets(near: readonly ContactId[]): Generator<AskedTouch, ContactId[][], boolean> {
  let nets = near.map((contact) => [contact]);
  for (let bit = 0; 1 << bit < nets.length; bit++) {
    const side = (which: number): ContactId[][] => nets.filter((_, i) => ((i >> bit) & 1) === which);
    const [a, b] = [side(0), side(1)];
    if (a.length === 0 || b.length === 0) continue;
    const closes = yield {
      from: at('near', a.flat()),
      to: at('near', b.flat()),
      should: false,
      why: 'isolation',
      sweep: false,
    };
    if (!closes) continue;
    const [x, y] = yield* findJoined(a, b);
    nets = nets.filter((net) => net !== x && net !== y);
    nets.push([...x, ...y]);
    // Numbers have changed: begin again with the joined contacts as one.
    bit = -1;
  }
  return nets.map((net) => [...net].sort((p, q) => near.indexOf(p) - near.indexOf(q)));
}

/** Two nets, one of each side, that are joined; some are known to be. */
function* findJoined(
  a: readonly ContactId[][],
  b: readonly ContactId[][],
): Generator<AskedTouch, [ContactId[], ContactId[]], boolean> {
  let [left, right] = [a, b];
  while (left.length > 1 || right.length > 1) {
    const halveLeft = left.length >= right.length;
    const larger = halveLeft ? left : right;
    const half = larger.slice(0, Math.ceil(larger.length / 2));
    const [p, q] = halveLeft ? [half, right] : [left, half];
    const closes = yield {
      from: at('near', p.flat()),
      to: at('near', q.flat()),
      should: false,
      why: 'search',
      sweep: false,
    };
    const rest = larger.slice(half.length);
    if (halveLeft) left = closes ? half : rest;
    else right = closes ? half : rest;
  }
  return [left[0] as ContactId[], right[0] as ContactId[]];
}

/** The contact among some that a near contact reaches, or null. */
function* findAmong(
  from: ContactId,
  { end, contacts }: ContactGroup,
  sweeps: boolean,
  why: AskedTouch['why'] = 'search',
): Generator<AskedTouch, ContactId | null, boolean> {
  const ask = (some: readonly ContactId[], what: AskedTouch['why']): AskedTouch => ({
    from: at('near', [from]),
    to: at(end, some),
    should: false,
    why: what,
    sweep: sweeps && some.length > 1,
  });
  if (!(yield ask(contacts, why))) return null;
  let left = contacts;
  while (left.length > 1) {
    const half = left.slice(0, Math.ceil(left.length / 2));
    left = (yield ask(half, 'search')) ? half : left.slice(half.length);
  }
  return left[0] as ContactId;
}
