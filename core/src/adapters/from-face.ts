import type { ContactId } from '../cabling/schemes.js';
import { lookAt, type ContactLayout, type Face, type View } from '../connectors/faces.js';
import { BadDesign } from './design.js';

/** A signal with the contact that it is on. */
export interface PlacedSignal {
  contact: ContactId;
  signal: string;
}

/** Places of a face as a person reads them: rows from the top, each from left to right. */
export function rowsOfFace(layout: ContactLayout, view: View): ContactId[][] {
  const places = lookAt(layout, view);
  const heights = [...new Set(places.map(({ yMm }) => yMm))].sort((a, b) => b - a);
  return heights.map((height) =>
    places
      .filter(({ yMm }) => yMm === height)
      .sort((a, b) => a.xMm - b.xMm)
      .map(({ contact }) => contact),
  );
}

/**
 * Signals that a sheet draws by their place, not by number, put on their contacts. Which face the
 * sheet shows has to be said: from the other one the same drawing means the mirror image.
 *
 * @param rows the drawing's signals, rows from the top, each from left to right; empty for none
 * @throws BadDesign where the drawing has other rows than the connector
 */
export function signalsFromFace(
  layout: ContactLayout,
  view: View,
  rows: readonly (readonly string[])[],
): PlacedSignal[] {
  const places = rowsOfFace(layout, view);
  const shape = (some: readonly (readonly unknown[])[]): string =>
    some.map((row) => row.length).join(' and ');
  if (shape(places) !== shape(rows))
    throw new BadDesign(
      `${layout.name} has rows of ${shape(places)}, the drawing rows of ${shape(rows)}. Look whether it is turned over, or another connector.`,
    );
  return places.flatMap((row, r) =>
    row.flatMap((contact, n) => {
      const signal = rows[r]?.[n]?.trim() ?? '';
      return signal === '' ? [] : [{ contact, signal }];
    }),
  );
}

/** What each contact would have been taken for by a person who read the sheet from the other face. */
export function mirroredReading(layout: ContactLayout): ReadonlyMap<ContactId, ContactId> {
  const seen = (face: Face): ContactId[] => rowsOfFace(layout, { face, latch: 'down' }).flat();
  const [mating, rear] = [seen('mating'), seen('rear')];
  return new Map(mating.map((contact, n) => [contact, rear[n] ?? contact]));
}

/** What a row of numbers on a drawing says about the face that it shows. */
export interface FaceTold {
  face: Face;
  latch: View['latch'];
}

/**
 * Which faces, lying which way up, show a connector's numbers as a drawing has them: none where the
 * drawing is of another connector or numbered in another way, more than one where it looks alike.
 *
 * @param rows the drawing's contact numbers, rows from the top, each from left to right
 */
export function facesShowing(layout: ContactLayout, rows: readonly (readonly string[])[]): FaceTold[] {
  const drawn = rows.map((row) => row.join(' ')).join('/');
  return (['mating', 'rear'] as const).flatMap((face) =>
    (['down', 'up'] as const).flatMap((latch) => {
      const shown = rowsOfFace(layout, { face, latch })
        .map((row) => row.join(' '))
        .join('/');
      return shown === drawn ? [{ face, latch }] : [];
    }),
  );
}
