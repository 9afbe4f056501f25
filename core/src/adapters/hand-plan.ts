import type { AdapterEnd } from './design.js';
import {
  handSeconds,
  probeMoves,
  stepSeconds,
  USUAL_HANDS,
  type Hands,
  type ProbeMove,
  type Probes,
} from './hands.js';
import { proofList, type Net, type ProbePoint, type ProofTouch } from './proof-list.js';

/** How a lead is proved: with two probes alone, with clips that gang contacts, or with somebody at ends out of reach. */
export type ProofWay = 'probes' | 'gangs' | 'apart';

export interface HandPlan {
  way: ProofWay;
  touches: ProofTouch[];
  seconds: number;
}

/** One net's turn. */
interface Station {
  net: number;
  /** Contact that its first touch begins at. */
  fixed: number;
  /** Connector that is swept; null: wherever the next contact is nearest. */
  sweepsAt: string | null;
  /** The probe that came last stays for the sweep, and not the one that began. */
  turned: boolean;
}

/** Orders that are improved: the best to begin with. */
const IMPROVED = 3;
/** Rounds of changes to an order, and contacts gone over, each weighed against each, before what was found is taken. */
const MOST_ROUNDS = 6;
const WORK = 6e5;
/** Of more nets than these only neighbours change places. */
const MANY_NETS = 14;
/** A sweep over more contacts than this is begun at its edges or where the probe is, not tried from each. */
const MOST_FIRSTS = 8;

/**
 * The touches that prove a lead with two probes, fewest seconds of hands first. One probe stands on a contact of a
 * net; the other touches each further contact of that net (a beep each), then is swept over one contact of every net
 * that had no turn yet (silence). Each net is held against each other once, so that every single open, short and exchange of
 * two contacts changes an answer, as with {@link proofList}; the order of turns, the contacts stood on and the
 * connectors swept are improved, on leads of some ten nets until no single change of them gains, on larger ones as far as a
 * fixed amount of work goes.
 */
export function probesPlan(
  nets: readonly Net[],
  ends: readonly AdapterEnd[] = [],
  hands: Hands = USUAL_HANDS,
): HandPlan {
  const field = fieldOf(nets, probeMoves(ends, hands), hands);
  const [best] = begins(nets)
    .map((stations) => ({ stations, seconds: walk(stations, field) }))
    .sort((a, b) => a.seconds - b.seconds)
    .slice(0, IMPROVED)
    .map(({ stations }) => improve(stations, nets, field))
    .sort((a, b) => a.seconds - b.seconds);
  if (!best) return { way: 'probes', touches: [], seconds: 0 };
  const touches: ProofTouch[] = [];
  const point = (n: number): ProbePoint => field.points[n] as ProbePoint;
  const netOf = (n: number): string => nets[field.netPoints.findIndex((own) => own.includes(n))]?.name ?? '';
  const seconds = walk(best.stations, field, (net, stood, others, sweep) => {
    const name = nets[net]?.name ?? '';
    touches.push(
      sweep
        ? {
            one: [point(stood)],
            other: others.map(point),
            should: 'stay silent',
            why: 'isolation',
            nets: [name, ...others.map(netOf)],
            sweep,
          }
        : { one: [point(stood)], other: others.map(point), should: 'beep', why: 'path', nets: [name] },
    );
  });
  // On a lead of few contacts nothing may be quicker than one after another.
  const plain = inOrder(nets);
  const plainSeconds = handSeconds(plain, probeMoves(ends, hands), hands);
  return plainSeconds < seconds
    ? { way: 'probes', touches: plain, seconds: plainSeconds }
    : { way: 'probes', touches, seconds };
}

/** Everything in its order, pair by pair, each answered for itself. */
function inOrder(nets: readonly Net[]): ProofTouch[] {
  const touches: ProofTouch[] = [];
  for (const { name, points } of nets)
    for (const to of points.slice(1))
      touches.push({
        one: [points[0] as ProbePoint],
        other: [to],
        should: 'beep',
        why: 'path',
        nets: [name],
      });
  nets.forEach(({ name, points: [one] }, n) => {
    for (const other of nets.slice(n + 1))
      touches.push({
        one: [one as ProbePoint],
        other: [other.points.at(-1) as ProbePoint],
        should: 'stay silent',
        why: 'isolation',
        nets: [name, other.name],
      });
  });
  return touches;
}

/** The touches that prove a lead with contacts ganged by clips: the fewest there are. */
export function gangsPlan(
  nets: readonly Net[],
  ends: readonly AdapterEnd[] = [],
  hands: Hands = USUAL_HANDS,
): HandPlan {
  const touches = proofList(nets);
  return { way: 'gangs', touches, seconds: handSeconds(touches, probeMoves(ends, hands), hands) };
}

/** What touching everything in its order costs, pair by pair, each answered for itself: what a plan saves is told against it. */
export function inOrderSeconds(
  nets: readonly Net[],
  ends: readonly AdapterEnd[] = [],
  hands: Hands = USUAL_HANDS,
): number {
  const move = probeMoves(ends, hands);
  let seconds = 0;
  let probes: Probes = null;
  const touch = (one: ProbePoint, other: ProbePoint): void => {
    seconds += stepSeconds(probes, [one, other], move, hands) + hands.answerS;
    probes = [one, other];
  };
  for (const { points } of nets) for (const to of points.slice(1)) touch(points[0] as ProbePoint, to);
  nets.forEach(({ points: [one] }, n) => {
    for (const { points } of nets.slice(n + 1)) touch(one as ProbePoint, points.at(-1) as ProbePoint);
  });
  return seconds;
}

/** Orders to begin with: along each connector, swept there or at each other, stood at each. */
function begins(nets: readonly Net[]): Station[][] {
  const ends = [...new Set(nets.flatMap(({ points }) => points.map(({ end }) => end)))];
  const numeric = new Intl.Collator('en', { numeric: true });
  return ends.flatMap((sweepsAt) =>
    ends.flatMap((standsAt) =>
      [1, -1].map((way) =>
        nets
          .map((net, n): Station & { contact: string } => {
            const swept = net.points.find(({ end }) => end === sweepsAt) ?? net.points[0];
            const stood = net.points.findIndex(({ end }) => end === standsAt);
            return {
              net: n,
              fixed: Math.max(0, stood),
              sweepsAt,
              turned: false,
              contact: swept?.contact ?? '',
            };
          })
          .sort((a, b) => way * numeric.compare(a.contact, b.contact)),
      ),
    ),
  );
}

function improve(
  begun: readonly Station[],
  nets: readonly Net[],
  field: Field,
): { stations: Station[]; seconds: number } {
  let stations = [...begun];
  let seconds = walk(stations, field);
  const ends = [null, ...new Set(nets.flatMap(({ points }) => points.map(({ end }) => end)))];
  let left = WORK / field.points.length ** 2;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let gained = false;
    for (const changed of changes(stations, nets, ends)) {
      if (left-- < 0) break;
      const next = changed(stations);
      const less = walk(next, field);
      if (less < seconds - 1e-9) {
        [stations, seconds] = [next, less];
        gained = true;
      }
    }
    if (!gained || left < 0) break;
  }
  return { stations, seconds };
}

type Change = (stations: readonly Station[]) => Station[];

/** Single changes of a plan: a turn at another place, another contact stood on, another connector swept. */
function* changes(
  stations: readonly Station[],
  nets: readonly Net[],
  ends: readonly (string | null)[],
): Generator<Change> {
  const count = stations.length;
  const reach = count > MANY_NETS ? 1 : count;
  for (let from = 0; from < count; from++) {
    for (let to = Math.max(0, from - reach); to <= Math.min(count - 1, from + reach); to++)
      if (to !== from)
        yield (all) => {
          const rest = all.filter((_each, n) => n !== from);
          return [...rest.slice(0, to), all[from] as Station, ...rest.slice(to)];
        };
    const with_ =
      (change: (station: Station) => Station): Change =>
      (all) =>
        all.map((each, n) => (n === from ? change(each) : each));
    for (const end of ends) yield with_((each) => ({ ...each, sweepsAt: end }));
    yield with_((each) => ({ ...each, turned: !each.turned }));
    const most = Math.max(...nets.map(({ points }) => points.length));
    for (let fixed = 0; fixed < most; fixed++)
      yield with_((each) => (fixed < (nets[each.net]?.points.length ?? 0) ? { ...each, fixed } : each));
  }
}

/** A lead's contacts by number, with what a probe needs from each to each: plans are weighed by the thousand. */
interface Field {
  points: readonly ProbePoint[];
  /** Numbers of the contacts of each net. */
  netPoints: readonly (readonly number[])[];
  /** Seconds from contact to contact, row by row. */
  move: Float64Array;
  hands: Hands;
}

function fieldOf(nets: readonly Net[], move: ProbeMove, hands: Hands): Field {
  const points = nets.flatMap((net) => net.points);
  let next = 0;
  return {
    points,
    netPoints: nets.map((net) => net.points.map(() => next++)),
    move: Float64Array.from(points.flatMap((from) => points.map((to) => move(from, to)))),
    hands,
  };
}

/** {@link stepSeconds} by numbers; a probe at -1 stands nowhere yet. */
function step({ move, points, hands }: Field, a: number, b: number, one: number, other: number): number {
  if (a < 0) return hands.bothS;
  const [fromA, fromB] = [a * points.length, b * points.length];
  const aOne = move[fromA + one] as number;
  const bOther = move[fromB + other] as number;
  const aOther = move[fromA + other] as number;
  const bOne = move[fromB + one] as number;
  const straight = aOne > 0 && bOther > 0 ? hands.bothS : aOne + bOther;
  const crossed = aOther > 0 && bOne > 0 ? hands.bothS : aOther + bOne;
  return straight < crossed ? straight : crossed;
}

/** What a plan's turns cost; each touch is told to `made` where that is asked for. */
function walk(
  stations: readonly Station[],
  field: Field,
  made?: (net: number, stood: number, others: readonly number[], sweep: boolean) => void,
): number {
  const { points, netPoints, move, hands } = field;
  const count = points.length;
  let seconds = 0;
  let [a, b] = [-1, -1];
  for (let turn = 0; turn < stations.length; turn++) {
    const { net, fixed, sweepsAt, turned } = stations[turn] as Station;
    const own = netPoints[net] as readonly number[];
    let stood = own[fixed] as number;
    const joined = [stood];
    const open = own.filter((point) => point !== stood);
    while (open.length > 0) {
      // The next contact from any that hangs together already.
      let best = { one: -1, to: -1, at: Infinity };
      for (const one of joined)
        for (const to of open) {
          const at = step(field, a, b, one, to);
          if (at < best.at) best = { one, to, at };
        }
      seconds += best.at + hands.answerS;
      [a, b] = [best.one, best.to];
      made?.(net, a, [b], false);
      stood = turned ? b : a;
      joined.push(b);
      open.splice(open.indexOf(b), 1);
    }
    if (turn === stations.length - 1) break;
    const places: number[] = [];
    const group = new Int32Array(count);
    for (let later = turn + 1; later < stations.length; later++) {
      const all = netPoints[(stations[later] as Station).net] as readonly number[];
      const there = sweepsAt === null ? all : all.filter((point) => points[point]?.end === sweepsAt);
      for (const point of there.length > 0 ? there : all) {
        places.push(point);
        group[point] = later;
      }
    }
    const swept = sweepOver(places, group, (to) => step(field, a, b, stood, to), move, count);
    seconds += swept.seconds + hands.answerS;
    made?.(net, stood, swept.run, true);
    [a, b] = [stood, swept.run.at(-1) as number];
  }
  return seconds;
}

/** One contact of each group, in the order in which a probe goes over them: always to the nearest, begun where the whole costs least. */
function sweepOver(
  places: readonly number[],
  group: Int32Array,
  cost: (to: number) => number,
  move: Float64Array,
  count: number,
): { run: number[]; seconds: number } {
  let near = places[0] as number;
  for (const place of places) if (cost(place) < cost(near)) near = place;
  const firsts = places.length > MOST_FIRSTS ? [places[0] as number, places.at(-1) as number, near] : places;
  let best = { run: [] as number[], seconds: Infinity };
  const left = new Int32Array(places.length);
  for (const first of new Set(firsts)) {
    const run = [first];
    let seconds = cost(first);
    let open = 0;
    for (const place of places) if (group[place] !== group[first]) left[open++] = place;
    for (let here = first; open > 0 && seconds < best.seconds;) {
      let [next, at] = [-1, Infinity];
      for (let n = 0; n < open; n++) {
        const far = move[here * count + (left[n] as number)] as number;
        if (far < at) [next, at] = [left[n] as number, far];
      }
      seconds += at;
      run.push(next);
      let kept = 0;
      for (let n = 0; n < open; n++)
        if (group[left[n] as number] !== group[next]) left[kept++] = left[n] as number;
      open = kept;
      here = next;
    }
    if (open === 0 && seconds < best.seconds) best = { run, seconds };
  }
  return best;
}
