import type { ContactId } from '../cabling/schemes.js';
import { layoutFor } from '../connectors/own-layout.js';
import { colourAt } from './conductor-choice.js';
import { placeWords, type AdapterDesign, type AdapterEnd } from './design.js';
import { partWords } from './prove-build.js';
import { rowsOfFace } from './from-face.js';
import type { WorkedUpAdapter } from './work-up.js';

/** One thing to do with the hands; ids stay the same while the design does. */
export interface BuildStep {
  id: string;
  kind: 'thread' | 'joint' | 'bridge' | 'part' | 'keep';
  words: string;
  /** Where it is done; null for what belongs to no one end. */
  end: string | null;
  contact: ContactId | null;
  wire: string | null;
  /** Insulation of the conductor there; null where it has none or none is chosen. */
  colour: string | null;
  /** And at the other end of it, where that half differs. */
  farColour: string | null;
}

/**
 * An adapter's building in order: closed rings on the cable first, then connector by connector each
 * joint in the order in which the wiring side is read, bridges and parts with them, and last the
 * conductors that are left over.
 */
export function buildPlan(design: AdapterDesign, worked: WorkedUpAdapter): BuildStep[] {
  const wires = new Map(design.wires.map((wire) => [wire.id, wire]));
  const blank = { end: null, contact: null, wire: null, colour: null, farColour: null };
  const threads = design.ends.flatMap((end) =>
    threadsOf(end).map((ring, n): BuildStep => ({
      ...blank,
      id: `thread ${end.id} ${n}`,
      kind: 'thread',
      end: end.id,
      words: `Thread the ${ring} of ${end.name} onto the cable, its open side towards ${end.id}.`,
    })),
  );
  const joints = design.ends.flatMap((end) =>
    inReadingOrder(end).flatMap((contact): BuildStep[] => {
      const row = worked.rows.find(({ net }) =>
        net.pins.some((pin) => pin.end === end.id && pin.contact === contact),
      );
      if (!row) return [];
      const own = row.net.pins.filter((pin) => pin.end === end.id).map((pin) => pin.contact);
      // Where the conductor goes: to the net's contact elsewhere, or to a part that lies there.
      const elsewhere =
        row.net.pins.find((pin) => pin.end !== end.id) ??
        (row.wire === null
          ? undefined
          : worked.couplings.find(({ from }) => own.includes(from.contact) && from.end === end.id)?.to);
      const first = inReadingOrder(end).find((each) => own.includes(each));
      const pin = end.pins.find((each) => each.contact === contact);
      const wire = row.wire === null ? undefined : wires.get(row.wire);
      const at = { end: end.id, contact };
      if (contact !== first || !elsewhere) {
        // The first contact of a bridge at one end alone has nothing to be bridged to yet.
        if (contact === first) return [];
        return [
          {
            ...blank,
            ...at,
            id: `bridge ${placeWords(at)}`,
            kind: 'bridge',
            words: `Bridge ${contact} ${pin?.signal ?? ''} to ${first}.`,
          },
        ];
      }
      return [
        {
          ...blank,
          ...at,
          id: `joint ${placeWords(at)}`,
          kind: 'joint',
          words: `${contact} ${pin?.signal ?? ''}`,
          wire: row.wire,
          colour: pin?.colour ?? (wire ? colourAt(wire, end.id) : null),
          farColour: elsewhere.pin.colour ?? (wire ? colourAt(wire, elsewhere.end) : null),
        },
      ];
    }),
  );
  const parts = worked.couplings.map(({ from, to, parts: between }): BuildStep => ({
    ...blank,
    id: `part ${placeWords(from)} ${placeWords(to)} ${between.map(({ kind }) => kind).join()}`,
    kind: 'part',
    end: from.end,
    contact: from.contact,
    words: `Fit ${between.map(partWords).join(', then ')} between ${placeWords(from)} ${from.pin.signal} and ${placeWords(to)} ${to.pin.signal}, sleeved.`,
  }));
  const spares = worked.spares.map((id): BuildStep => {
    const wire = wires.get(id);
    return {
      ...blank,
      id: `keep ${id}`,
      kind: 'keep',
      words: `Insulate conductor ${id} at both ends and fold it back.`,
      wire: id,
      colour: wire?.colour ?? null,
    };
  });
  return [...threads, ...joints, ...parts, ...spares];
}

const threadsOf = ({ layout }: AdapterEnd): readonly string[] => layoutFor(layout ?? null)?.threads ?? [];

/** Contacts as the person wiring reads them: rows of the wiring side, or the pinout's order where nothing is drawn. */
function inReadingOrder({ layout, pins }: AdapterEnd): ContactId[] {
  const drawn = layoutFor(layout ?? null);
  const given = pins.map(({ contact }) => contact);
  if (!drawn) return given;
  const read = rowsOfFace(drawn, { face: 'rear', latch: 'down' }).flat();
  return [...read.filter((contact) => given.includes(contact)), ...given.filter((c) => !read.includes(c))];
}
