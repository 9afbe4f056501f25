import type { ContactId } from '../cabling/schemes.js';
import { layoutFor } from '../connectors/own-layout.js';
import { samePlace, type AdapterDesign, type AdapterEnd, type AdapterNet, type PinPlace } from './design.js';

/** One single wire with a contact at each end. */
export interface Jumper {
  signal: string;
  /** Letter code of its insulation. */
  colour: string;
  from: PinPlace;
  to: PinPlace;
}

/** Contacts side by side at one end, taped or housed so that they plug in as one. */
export interface JumperBlock {
  end: string;
  contacts: readonly ContactId[];
  /** How it is told which way round it goes. */
  mark: string;
}

/** A lead of loose wires between pin headers. */
export interface JumperPlan {
  jumpers: readonly Jumper[];
  blocks: readonly JumperBlock[];
  /** Contacts that the headers have and that get no wire. */
  free: readonly PinPlace[];
}

/** The rainbow without red and black, which are for supply and ground. */
const SIGNALS = ['BN', 'OG', 'YE', 'GN', 'BU', 'VT', 'GY', 'WH', 'PK', 'TQ'];
const BESIDE_MM = 3;

const onHeader = ({ layout }: AdapterEnd): boolean =>
  typeof layout === 'string' && /^(mate:)?header-/.test(layout);

/**
 * Loose wires for a lead between pin headers for which no cable is named: one for each pair of contacts, red for supply
 * and black for ground, contacts that lie side by side made into blocks. Null where an end is no header.
 */
export function jumperPlan(design: AdapterDesign, nets: readonly AdapterNet[]): JumperPlan | null {
  if (design.wires.length > 0 || design.ends.length < 2 || !design.ends.every(onHeader)) return null;
  const left = [...SIGNALS];
  const taken = new Map<string, number>();
  const jumpers = nets.flatMap(({ name, pins }): Jumper[] => {
    const [first, ...others] = pins;
    if (!first) return [];
    const has = (kind: string): boolean => pins.some(({ pin }) => pin.kind.startsWith(kind));
    return others.map((pin) => {
      const colour = has('supply') ? 'RD' : has('ground') ? 'BK' : (left.shift() ?? numbered(taken));
      const at = ({ end, contact }: PinPlace): PinPlace => ({ end, contact });
      return { signal: name, colour, from: at(first), to: at(pin) };
    });
  });
  const used = (place: PinPlace): boolean =>
    jumpers.some(({ from, to }) => samePlace(from, place) || samePlace(to, place));
  return {
    jumpers,
    blocks: design.ends.flatMap((end) => blocksOf(end, used)),
    free: design.ends.flatMap(({ id, layout }) =>
      (layoutFor(layout ?? null)?.places ?? [])
        .map(({ contact }) => ({ end: id, contact }))
        .filter((place) => !used(place)),
    ),
  };
}

/** More signals than colours: colours come again, told apart by a number on tape. */
function numbered(taken: Map<string, number>): string {
  const n = [...taken.values()].reduce((sum, each) => sum + each, 0);
  const colour = SIGNALS[n % SIGNALS.length] ?? 'WH';
  const again = (taken.get(colour) ?? 0) + 1;
  taken.set(colour, again);
  return `${colour}.${again + 1}`;
}

/** Runs of used contacts in one row of a header. */
function blocksOf({ id, layout }: AdapterEnd, used: (place: PinPlace) => boolean): JumperBlock[] {
  const places = layoutFor(layout ?? null)?.places ?? [];
  const rows = [...new Set(places.map(({ yMm }) => yMm))];
  return rows.flatMap((y) => {
    const row = places.filter(({ yMm }) => yMm === y).sort((a, b) => a.xMm - b.xMm);
    const runs: (typeof row)[] = [];
    for (const place of row.filter(({ contact }) => used({ end: id, contact }))) {
      const run = runs.at(-1);
      const before = run?.at(-1);
      if (run && before && place.xMm - before.xMm < BESIDE_MM) run.push(place);
      else runs.push([place]);
    }
    return runs.map((run) => {
      const contacts = run.map(({ contact }) => contact).sort((a, b) => Number(a) - Number(b));
      return {
        end: id,
        contacts,
        mark:
          contacts.length === 1
            ? `a flag with ${contacts[0] ?? ''}`
            : `paint on the side of contact ${contacts[0] ?? ''}, so that it does not go in turned over`,
      };
    });
  });
}
