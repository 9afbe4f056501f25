/** A contact of an adapter: which end, and which contact there. */
export interface ProbePoint {
  end: string;
  contact: string;
}

/** Contacts that are to be one: a join with all it reaches; a dead contact is a net of its own. */
export interface Net {
  name: string;
  points: readonly ProbePoint[];
}

/** One touch of a beeper's two leads; a lead may touch several contacts, ganged by clips. */
export interface ProofTouch {
  one: ProbePoint[];
  other: ProbePoint[];
  should: 'beep' | 'stay silent';
  why: 'path' | 'isolation';
  /** The net of a path; the nets that lie on either side of an isolation. */
  nets: string[];
  /** The other lead goes over its contacts one after the other, and is not clipped to all of them. */
  sweep?: true;
  /** Contacts that are joined at the other end while it is made. */
  joined?: ProbePoint[];
}

/** A contact that stands in two nets, or none. */
export class BadNets extends Error {}

/**
 * The touches that prove an adapter, shorts first: for isolation, nets get numbers and each touch
 * gangs one contact of every net whose number has a bit against those that have it not, so that any
 * two nets lie on different sides at least once; then each net's contacts one after the other from
 * its first. Every single open, short and exchange of two contacts changes at least one answer, and
 * no shorter list does: a net of k contacts takes k - 1 beeps, n nets take as many silent touches
 * as n has bits.
 *
 * @throws BadNets
 */
export function proofList(nets: readonly Net[]): ProofTouch[] {
  const seen = new Map<string, string>();
  for (const { name, points } of nets) {
    if (points.length === 0) throw new BadNets(`${name} has no contact.`);
    for (const { end, contact } of points) {
      const at = `${end} ${contact}`;
      const other = seen.get(at);
      if (other !== undefined)
        throw new BadNets(`Contact ${contact} of ${end} is in ${other} and in ${name}.`);
      seen.set(at, name);
    }
  }
  return [...isolation(nets), ...paths(nets)];
}

function isolation(nets: readonly Net[]): ProofTouch[] {
  const bits = nets.length < 2 ? 0 : Math.ceil(Math.log2(nets.length));
  return Array.from({ length: bits }, (_, bit): ProofTouch => {
    const has = (n: number): boolean => ((n >> bit) & 1) === 1;
    const side = (wanted: boolean): Net[] => nets.filter((_net, n) => has(n) === wanted);
    const firsts = (some: readonly Net[]): ProbePoint[] => some.flatMap(({ points }) => points.slice(0, 1));
    return {
      one: firsts(side(true)),
      other: firsts(side(false)),
      should: 'stay silent',
      why: 'isolation',
      nets: [...side(true), ...side(false)].map(({ name }) => name),
    };
  });
}

function paths(nets: readonly Net[]): ProofTouch[] {
  return nets.flatMap(({ name, points: [first, ...rest] }) =>
    first === undefined
      ? []
      : rest.map((point): ProofTouch => ({
          one: [first],
          other: [point],
          should: 'beep',
          why: 'path',
          nets: [name],
        })),
  );
}

/** Contacts that one lead of a beeper touches at once, end by end, each end's on a line: "A 2 4 6". */
export function gangWords(points: readonly ProbePoint[]): string[] {
  const ends = [...new Set(points.map(({ end }) => end))];
  return ends.map(
    (end) =>
      `${end} ${points
        .filter((point) => point.end === end)
        .map(({ contact }) => contact)
        .join(' ')}`,
  );
}

/** Contacts in the order in which a probe goes over them, each run at one end on a line: "A 2 4", "B 1", "A 5". */
export function runWords(points: readonly ProbePoint[]): string[] {
  const runs: ProbePoint[][] = [];
  for (const point of points) {
    const run = runs.at(-1);
    if (run?.[0]?.end === point.end) run.push(point);
    else runs.push([point]);
  }
  return runs.flatMap((run) => gangWords(run));
}

/** What a lead really is: for each contact, the lump of metal that it belongs to. */
export type RealJoins = ReadonlyMap<string, number>;

export const pointKey = ({ end, contact }: ProbePoint): string => `${end} ${contact}`;

/** Whether a beeper would beep on a touch, on a lead as it really is. */
export function wouldBeep(
  { one, other, joined = [] }: Pick<ProofTouch, 'one' | 'other' | 'joined'>,
  real: RealJoins,
): boolean {
  const lumps = new Set(one.map((point) => real.get(pointKey(point))));
  const through = joined.map((point) => real.get(pointKey(point)));
  if (through.some((lump) => lumps.has(lump))) for (const lump of through) lumps.add(lump);
  return other.some((point) => lumps.has(real.get(pointKey(point))));
}

/** The touches whose answers are not as they should be, on a lead as it really is. */
export const wrongTouches = (touches: readonly ProofTouch[], real: RealJoins): ProofTouch[] =>
  touches.filter((touch) => wouldBeep(touch, real) !== (touch.should === 'beep'));
