import type { ContactId } from '../cabling/schemes.js';
import type { ContactPlace } from './faces.js';

/** How a grid's contacts are counted, looking at its mating face, key or narrow side down. */
export type GridCount =
  /** Row by row from the top, each from its first side to its last. */
  | 'row by row'
  /** Column by column, each from the bottom up: 1 and 2 lie across from each other. */
  | 'across'
  /** Row by row, every other one backwards. */
  | 'to and fro';

export interface GridPattern {
  rows: number;
  columns: number;
  pitchMm: number;
  rowPitchMm: number;
  count: GridCount;
  /** Where the first contact lies. */
  begins: 'left' | 'right';
  /** How far each row is pushed to the side, from the top, millimetres; none when left out. */
  shiftsMm?: readonly number[];
  /** Contacts in each row, from the top, where they are not all as long. */
  lengths?: readonly number[];
}

/** A pattern that cannot be laid out, and why. */
export class BadPattern extends Error {}

const MOST_CONTACTS = 200;

/**
 * Places of contacts in rows and columns, about the middle of the face.
 *
 * @throws BadPattern
 */
export function gridPlaces(pattern: GridPattern): ContactPlace[] {
  const { rows, columns, pitchMm, rowPitchMm, count, begins, shiftsMm = [], lengths = [] } = pattern;
  if (!(Number.isInteger(rows) && Number.isInteger(columns) && rows > 0 && columns > 0))
    throw new BadPattern('A grid has at least one row and one column, in whole numbers.');
  if (rows * columns > MOST_CONTACTS) throw new BadPattern(`At most ${MOST_CONTACTS} contacts are drawn.`);
  if (!(pitchMm > 0) || (rows > 1 && !(rowPitchMm > 0)))
    throw new BadPattern('Give the pitch along a row, and between rows, over 0 mm.');
  if (lengths.some((length) => length > columns))
    throw new BadPattern('A row is longer than the grid is wide.');
  const side = begins === 'left' ? 1 : -1;
  const lengthOf = (row: number): number => lengths[row] ?? columns;
  const at = (row: number, column: number): Omit<ContactPlace, 'contact'> => ({
    xMm: side * (column - (lengthOf(row) - 1) / 2) * pitchMm + (shiftsMm[row] ?? 0) || 0,
    yMm: ((rows - 1) / 2 - row) * rowPitchMm || 0,
  });
  const order: [row: number, column: number][] = [];
  if (count === 'across')
    for (let column = 0; column < columns; column++)
      for (let row = rows - 1; row >= 0; row--) if (column < lengthOf(row)) order.push([row, column]);
  if (count !== 'across')
    for (let row = 0; row < rows; row++)
      for (let n = 0; n < lengthOf(row); n++)
        order.push([row, count === 'to and fro' && row % 2 === 1 ? lengthOf(row) - 1 - n : n]);
  return order.map(([row, column], n) => ({ contact: String(n + 1), ...at(row, column) }));
}

export interface RingPattern {
  /** In the order in which they lie, from the first place on. */
  contacts: readonly ContactId[];
  radiusMm: number;
  /** Where the first lies, degrees from the right, counter-clockwise. */
  fromDeg: number;
  /** Which way they follow, looking at the mating face. */
  turns: 'clockwise' | 'counter-clockwise';
  /** From the first to the last, degrees; a full ring where it is left out. */
  overDeg?: number;
  /** A contact in the middle. */
  middle?: ContactId;
}

/**
 * Places of contacts about a ring, or an arc of one.
 *
 * @throws BadPattern
 */
export function ringPlaces({
  contacts,
  radiusMm,
  fromDeg,
  turns,
  overDeg,
  middle,
}: RingPattern): ContactPlace[] {
  if (contacts.length === 0) throw new BadPattern('A ring has at least one contact.');
  if (!(radiusMm > 0)) throw new BadPattern('Give the ring’s radius over 0 mm.');
  const names = [...contacts, ...(middle === undefined ? [] : [middle])];
  if (new Set(names).size < names.length) throw new BadPattern('A contact stands twice in the ring.');
  const step =
    overDeg === undefined ? 360 / contacts.length : contacts.length > 1 ? overDeg / (contacts.length - 1) : 0;
  const way = turns === 'clockwise' ? -1 : 1;
  const places = contacts.map((contact, n): ContactPlace => {
    const angle = ((fromDeg + way * n * step) * Math.PI) / 180;
    return { contact, xMm: round(radiusMm * Math.cos(angle)), yMm: round(radiusMm * Math.sin(angle)) };
  });
  return middle === undefined ? places : [...places, { contact: middle, xMm: 0, yMm: 0 }];
}

const round = (mm: number): number => Math.round(mm * 1e6) / 1e6 || 0;
