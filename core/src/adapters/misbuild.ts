import type { ContactId } from '../cabling/schemes.js';
import type { ContactLayout } from '../connectors/faces.js';
import { mirroredReading } from './from-face.js';

/** Which far contacts each near contact reaches. */
export type LeadMap = ReadonlyMap<ContactId, ContactId>;

/** One way to have built a lead wrongly that gives just the map that was measured. */
export interface Misbuild {
  kind: 'mirrored face' | 'ribbon one off' | 'connector turned over' | 'two exchanged' | 'open';
  words: string;
  /** Contacts to be done again, as "near 3". */
  contacts: string[];
}

/** A lead's connectors as they lie, with the order in which a ribbon meets them where it is one. */
export interface LeadEnds {
  near: { layout: ContactLayout; ribbon?: readonly ContactId[] };
  far: { layout: ContactLayout; ribbon?: readonly ContactId[] };
}

/**
 * What a hand has done that explains a measured map: whole mistakes first (a face mirrored, a ribbon
 * pressed on one contact off, a connector turned over), then two wires exchanged, then wires that do
 * not get through. Empty where the map is as it was meant, or where no one mistake explains it.
 */
export function nameMisbuild(intended: LeadMap, measured: LeadMap, ends: LeadEnds): Misbuild[] {
  if (same(intended, measured)) return [];
  const whole = (['near', 'far'] as const).flatMap((end): Misbuild[] => {
    const { layout, ribbon } = ends[end];
    const through = (map: LeadMap): boolean => same(moved(intended, map, end), measured);
    const all = [...new Set(end === 'near' ? intended.keys() : intended.values())].map((c) => `${end} ${c}`);
    const out: Misbuild[] = [];
    if (through(mirroredReading(layout)))
      out.push({
        kind: 'mirrored face',
        words: `The ${end} end is wired as its mirror image: its pinout was read from the other face.`,
        contacts: all,
      });
    for (const by of [1, -1]) {
      if (ribbon && through(shifted(ribbon, by)))
        out.push({
          kind: 'ribbon one off',
          words: `The ribbon lies one conductor off in the ${end} connector.`,
          contacts: all,
        });
    }
    if (ribbon && through(new Map(ribbon.map((contact, n) => [contact, ribbon.at(-1 - n) ?? contact]))))
      out.push({
        kind: 'connector turned over',
        words: `The ${end} connector is pressed on turned over: its first contact lies at the ribbon’s other edge.`,
        contacts: all,
      });
    return out;
  });
  if (whole.length > 0) return whole;
  const wrong = [...intended.keys()].filter((contact) => measured.get(contact) !== intended.get(contact));
  const [one, other] = wrong;
  if (
    wrong.length === 2 &&
    one !== undefined &&
    other !== undefined &&
    measured.get(one) === intended.get(other) &&
    measured.get(other) === intended.get(one)
  )
    return [
      {
        kind: 'two exchanged',
        words: `The wires of near ${one} and ${other} are exchanged, at one end or the other.`,
        contacts: [`near ${one}`, `near ${other}`],
      },
    ];
  if (measured.size < intended.size && wrong.every((contact) => !measured.has(contact)))
    return [
      {
        kind: 'open',
        words: `Nothing gets through from near ${wrong.join(', ')}.`,
        contacts: wrong.map((contact) => `near ${contact}`),
      },
    ];
  return [];
}

/** A map as it is built when one end's contacts are taken for others; what falls off the end is open. */
function moved(intended: LeadMap, taken: LeadMap, end: 'near' | 'far'): Map<ContactId, ContactId> {
  const out = new Map<ContactId, ContactId>();
  for (const [near, far] of intended) {
    const place = taken.get(end === 'near' ? near : far);
    if (place !== undefined) out.set(end === 'near' ? place : near, end === 'near' ? far : place);
  }
  return out;
}

const shifted = (ribbon: readonly ContactId[], by: number): Map<ContactId, ContactId> =>
  new Map(
    ribbon.flatMap((contact, n) => {
      const next = ribbon[n + by];
      return next === undefined || n + by < 0 ? [] : [[contact, next] as const];
    }),
  );

const same = (one: LeadMap, other: LeadMap): boolean =>
  one.size === other.size && [...one].every(([near, far]) => other.get(near) === far);
