import { pointKey, type Net, type ProbePoint } from './proof-list.js';

/** A touch that was made, by whichever list. */
export interface MadeTouch {
  one: readonly ProbePoint[];
  other: readonly ProbePoint[];
  /** Contacts that were joined at the other end while it was made. */
  joined?: readonly ProbePoint[] | undefined;
  beeped: boolean;
}

/** A loop that beeped: the contact stood on and the one joined, of two nets each. */
interface Loop {
  /** Net -> its contact here. */
  here: ReadonlyMap<number, string>;
  /** Net -> its contact that was joined. */
  there: ReadonlyMap<number, string>;
}

/**
 * What touches say of a lead, whatever list they were made by: failed where one is not as its contacts' nets want it,
 * proved where each net's contacts hang together by beeps and every two nets were held apart in silence.
 *
 * A loop, over two contacts that are joined at the other end, says only that the two lie at the two metered ones, in whichever
 * order. In two loops with different partners a contact can lie at the one alone that both have: then it hangs together with that, and
 * so does each partner with its own.
 *
 * @throws RangeError for a contact that is in no net
 */
export function judgeTouches(
  nets: readonly Net[],
  made: readonly MadeTouch[],
): 'proved' | 'failed' | 'unfinished' {
  const netOf = new Map(
    nets.flatMap(({ points }, n) => points.map((point) => [pointKey(point), n] as const)),
  );
  const of = (point: ProbePoint): number => {
    const net = netOf.get(pointKey(point));
    if (net === undefined) throw new RangeError(`This lead has no contact ${point.contact} at ${point.end}.`);
    return net;
  };
  const hangs = new Hanging();
  const apart = new Set<string>();
  const loops: Loop[] = [];
  for (const { one, other, joined = [], beeped } of made) {
    const [ones, others, through] = [one.map(of), other.map(of), joined.map(of)];
    const reached = through.some((net) => ones.includes(net)) ? [...ones, ...through] : ones;
    const should = reached.some((net) => others.includes(net));
    if (beeped !== should) return 'failed';
    if (!beeped)
      for (const a of reached) for (const b of others) apart.add(`${Math.min(a, b)} ${Math.max(a, b)}`);
    const [a, b] = [one[0], other[0]];
    if (!beeped || one.length !== 1 || other.length !== 1 || !a || !b) continue;
    if (ones[0] === others[0]) hangs.join(pointKey(a), pointKey(b));
    else if (joined.length === 2 && through[0] !== through[1])
      loops.push({
        here: new Map([
          [ones[0] as number, pointKey(a)],
          [others[0] as number, pointKey(b)],
        ]),
        there: new Map(joined.map((point) => [of(point), pointKey(point)])),
      });
  }
  anchor(loops, hangs);
  const whole = nets.every(({ points }) => hangs.isOne(points.map(pointKey)));
  const all = nets.every((_net, a) => nets.every((_other, b) => b <= a || apart.has(`${a} ${b}`)));
  return whole && all ? 'proved' : 'unfinished';
}

/** What loops say that hangs together, beginning with contacts that are in two of different partners. */
function anchor(loops: readonly Loop[], hangs: Hanging): void {
  const partners = new Map<string, Set<number>>();
  for (const { there } of loops)
    for (const [net, key] of there)
      for (const other of there.keys())
        if (other !== net) partners.set(key, (partners.get(key) ?? new Set()).add(other));
  const sure = new Set([...partners].flatMap(([key, nets]) => (nets.size > 1 ? [key] : [])));
  for (let before = -1; before !== sure.size;) {
    before = sure.size;
    for (const { here, there } of loops) {
      if (![...there.values()].some((key) => sure.has(key))) continue;
      for (const [net, key] of there) {
        const metered = here.get(net);
        if (metered === undefined) continue;
        hangs.join(metered, key);
        sure.add(key);
      }
    }
  }
}

/** Contacts that are known to be one. */
class Hanging {
  private readonly up = new Map<string, string>();

  join(a: string, b: string): void {
    const [x, y] = [this.root(a), this.root(b)];
    if (x !== y) this.up.set(x, y);
  }

  isOne(keys: readonly string[]): boolean {
    return new Set(keys.map((key) => this.root(key))).size <= 1;
  }

  private root(key: string): string {
    const up = this.up.get(key);
    return up === undefined ? key : this.root(up);
  }
}
