/**
 * A world of links with a physics of its own, for measuring judgement on cases that the judge's model
 * did not draw: it knows nothing of the catalogue, its rates, its observers or its solver. A link is a
 * netlist of resistors; who is joined to whom follows by walking it, ohms by solving its nodal equations.
 */

export type End = 'near' | 'far';
export type Place = End | 'cable' | 'outlet' | 'unplug' | 'plan';
export type Wire = string;

/** What is physically there, contact by contact and metre by metre. */
export interface WorldLink {
  contacts: readonly string[];
  /** Wires in twisted pairs, in the order of their pairs; a screen or a coax shell stands alone. */
  twisted: readonly (readonly [Wire, Wire])[];
  wires: readonly Wire[];
  /** Contacts that carry one twisted pair by the plan. */
  contactPairs: readonly (readonly [string, string])[];
  meant: Readonly<Record<End, Readonly<Record<string, Wire | null>>>>;
  ohmPerM: Readonly<Record<Wire, number>>;
  lengthM: number;
  plannedM: number;
  laid: Record<End, Record<string, Wire | null>>;
  joints: { end: End; contact: string; ohm: number; openShare?: number }[];
  bridges: { end: End; contacts: string[]; ohm: number }[];
  breaks: { wires: Wire[]; atM: number; ohm: number; openShare?: number }[];
  touching: { wires: Wire[]; atM: number; ohm: number }[];
  splices: { wires: [Wire, Wire]; atM: number }[];
  wetAtM: number[];
  equipment: End[];
  elsewhere: boolean;
}

/** A circuit of resistors between named nodes. */
export interface Netlist {
  nodes: string[];
  resistors: { a: string; b: string; ohm: number }[];
}

const JOINT_OHM = 0.02;
const OPEN = Infinity;

/** A netlist of the link while its loose joints are as `isOpen` says. */
export function netlistOf(link: WorldLink, isOpen: (openShare: number) => boolean): Netlist {
  const resistors: Netlist['resistors'] = [];
  const nodes = new Set<string>();
  const wire = (a: string, b: string, ohm: number): void => {
    nodes.add(a).add(b);
    if (ohm !== OPEN) resistors.push({ a, b, ohm });
  };
  const ohmOf = (thing: { ohm: number; openShare?: number }): number =>
    thing.openShare !== undefined && isOpen(thing.openShare) ? OPEN : thing.ohm;
  for (const w of link.wires) {
    const cuts = [
      ...new Set(
        [...link.breaks, ...link.touching, ...link.splices]
          .filter((e) => e.wires.includes(w))
          .map((e) => e.atM),
      ),
    ].sort((x, y) => x - y);
    let from = `${w}@start`;
    let fromM = 0;
    for (const atM of cuts) {
      wire(from, `${w}@${atM}<`, (atM - fromM) * (link.ohmPerM[w] ?? 0));
      const splice = link.splices.find((s) => s.atM === atM && s.wires.includes(w));
      const on = splice ? (splice.wires.find((v) => v !== w) as Wire) : w;
      const broken = link.breaks.filter((b) => b.atM === atM && b.wires.includes(w));
      wire(
        `${w}@${atM}<`,
        `${on}@${atM}>`,
        broken.reduce((sum, b) => sum + ohmOf(b), JOINT_OHM / 4),
      );
      from = `${w}@${atM}>`;
      fromM = atM;
    }
    wire(from, `${w}@end`, (link.lengthM - fromM) * (link.ohmPerM[w] ?? 0));
  }
  for (const end of ['near', 'far'] as const) {
    for (const contact of link.contacts) {
      nodes.add(`${end}:${contact}`);
      const lies = link.laid[end][contact] ?? null;
      if (lies === null || (end === 'far' && link.elsewhere)) continue;
      const bad = link.joints.filter((j) => j.end === end && j.contact === contact);
      wire(
        `${end}:${contact}`,
        `${lies}@${end === 'near' ? 'start' : 'end'}`,
        bad.reduce((sum, j) => sum + ohmOf(j), JOINT_OHM),
      );
    }
  }
  for (const { end, contacts, ohm } of link.bridges)
    contacts.slice(1).forEach((c, i) => wire(`${end}:${contacts[i]}`, `${end}:${c}`, ohm));
  for (const { wires, atM, ohm } of link.touching)
    wires.slice(1).forEach((w, i) => wire(`${wires[i]}@${atM}<`, `${w}@${atM}<`, ohm));
  for (const end of link.equipment)
    if (end === 'near' || !link.elsewhere)
      for (const [a, b] of link.contactPairs) wire(`${end}:${a}`, `${end}:${b}`, 1.5);
  return { nodes: [...nodes], resistors };
}

/** Node -> number of its island, where resistors up to some ohms count as joined. */
export function islandsOf({ nodes, resistors }: Netlist, thresholdOhm: number): Map<string, number> {
  const neighbours = new Map<string, string[]>(nodes.map((n) => [n, []]));
  for (const { a, b, ohm } of resistors) {
    if (ohm > thresholdOhm) continue;
    neighbours.get(a)?.push(b);
    neighbours.get(b)?.push(a);
  }
  const island = new Map<string, number>();
  nodes.forEach((start, n) => {
    if (island.has(start)) return;
    const waiting = [start];
    island.set(start, n);
    for (let node = waiting.pop(); node !== undefined; node = waiting.pop())
      for (const next of neighbours.get(node) ?? []) {
        if (island.has(next)) continue;
        island.set(next, n);
        waiting.push(next);
      }
  });
  return island;
}

/** Ohms between two sets of nodes, each tied together: nodal analysis by Gauss and Jordan; Infinity for none. */
export function ohmsBetween(net: Netlist, from: readonly string[], to: readonly string[]): number {
  const island = islandsOf(net, Infinity);
  const tied = [...from.slice(1).map((n) => [from[0], n]), ...to.slice(1).map((n) => [to[0], n])];
  const [out, back] = [from, to].map((set) => new Set(set.map((n) => island.get(n))));
  if (![...(out as Set<number>)].some((n) => back?.has(n))) return Infinity;
  const here = new Set([...(out as Set<number>), ...(back as Set<number>)]);
  const near = net.resistors.filter(({ a }) => here.has(island.get(a) as number));
  const used = [...currentCarriers(near, new Set([...from, ...to]))];
  const index = new Map(used.map((n, i) => [n, i]));
  const size = used.length;
  const rows: Float64Array[] = Array.from({ length: size }, () => new Float64Array(size + 1));
  const add = (a: string | undefined, b: string | undefined, siemens: number): void => {
    const [i, j] = [index.get(a ?? ''), index.get(b ?? '')];
    if (i === undefined || j === undefined || i === j) return;
    const [p, q] = [rows[i], rows[j]] as [Float64Array, Float64Array];
    p[i] = (p[i] as number) + siemens;
    q[j] = (q[j] as number) + siemens;
    p[j] = (p[j] as number) - siemens;
    q[i] = (q[i] as number) - siemens;
  };
  for (const { a, b, ohm } of near) add(a, b, 1 / Math.max(ohm, 1e-4));
  for (const [a, b] of tied) add(a, b, 1e4);
  // A leak too small to matter keeps islands apart solvable.
  rows.forEach((row, i) => (row[i] = (row[i] as number) + 1e-9));
  const [source, sink] = [index.get(from[0] as string) as number, index.get(to[0] as string) as number];
  if (source === sink) return 0;
  (rows[source] as Float64Array)[size] = 1;
  (rows[sink] as Float64Array)[size] = -1;
  for (let k = 0; k < size; k++) {
    let best = k;
    for (let i = k + 1; i < size; i++)
      if (
        Math.abs((rows[i] as Float64Array)[k] as number) > Math.abs((rows[best] as Float64Array)[k] as number)
      )
        best = i;
    [rows[k], rows[best]] = [rows[best] as Float64Array, rows[k] as Float64Array];
    const pivot = rows[k] as Float64Array;
    for (let i = 0; i < size; i++) {
      if (i === k) continue;
      const row = rows[i] as Float64Array;
      const share = (row[k] as number) / (pivot[k] as number);
      if (share === 0) continue;
      for (let j = k; j <= size; j++) row[j] = (row[j] as number) - share * (pivot[j] as number);
    }
  }
  const volts = (i: number): number =>
    ((rows[i] as Float64Array)[size] as number) / ((rows[i] as Float64Array)[i] as number);
  const ohm = volts(source) - volts(sink);
  return ohm > 1e6 ? Infinity : ohm;
}

/** Nodes that current can pass: dead ends are left out, one after another, terminals kept. */
function currentCarriers(resistors: Netlist['resistors'], terminals: ReadonlySet<string>): Set<string> {
  const degree = new Map<string, number>();
  const count = (n: string, by: number): number => {
    const now = (degree.get(n) ?? 0) + by;
    degree.set(n, now);
    return now;
  };
  for (const { a, b } of resistors) [a, b].forEach((n) => count(n, 1));
  let left = [...resistors];
  for (;;) {
    const kept = left.filter(
      ({ a, b }) => ![a, b].some((n) => (degree.get(n) ?? 0) < 2 && !terminals.has(n)),
    );
    if (kept.length === left.length) break;
    degree.clear();
    for (const { a, b } of kept) [a, b].forEach((n) => count(n, 1));
    left = kept;
  }
  return new Set([...terminals, ...left.flatMap(({ a, b }) => [a, b])]);
}

const without = <T extends { end: End }>(list: readonly T[], end: End): T[] =>
  list.filter((x) => x.end !== end);

/** The link after proper work at a place. */
export function worked(link: WorldLink, place: Place): WorldLink {
  switch (place) {
    case 'plan':
      return { ...link, plannedM: link.lengthM };
    case 'unplug':
      return { ...link, equipment: [] };
    case 'outlet':
      return { ...link, elsewhere: false };
    case 'cable':
      return { ...link, breaks: [], touching: [], splices: [], wetAtM: [], elsewhere: false };
    default:
      return {
        ...link,
        laid: { ...link.laid, [place]: { ...link.meant[place] } },
        joints: without(link.joints, place),
        bridges: without(link.bridges, place),
        equipment: link.equipment.filter((end) => end !== place),
      };
  }
}

/** The link with only those of its troubles that lie at these places. */
export function wrongOnlyAt(link: WorldLink, places: readonly Place[]): WorldLink {
  const at = (place: Place): boolean => places.includes(place);
  const ends = (['near', 'far'] as const).filter(at);
  const laid = (end: End): WorldLink['laid'][End] => (at(end) ? link.laid[end] : { ...link.meant[end] });
  return {
    ...link,
    ...(at('cable') ? {} : { breaks: [], touching: [], splices: [], wetAtM: [] }),
    laid: { near: laid('near'), far: laid('far') },
    joints: link.joints.filter(({ end }) => ends.includes(end)),
    bridges: link.bridges.filter(({ end }) => ends.includes(end)),
    equipment: at('unplug') ? link.equipment : [],
    elsewhere: at('outlet') && link.elsewhere,
  };
}
