import type { ContactId } from '../cabling/schemes.js';
import type { ContactLayout, ContactPlace, Gender } from './faces.js';

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

const layout = (id: string, name: string, gender: Gender, places: ContactPlace[]): ContactLayout => ({
  id,
  name,
  gender,
  places,
});

/** D-subminiature (IEC 60807-3): pitch 2.77 mm, rows 2.84 mm apart, the plug's first contact at the left of the wide row. */
function dSub(contacts: number): ContactLayout {
  const long = Math.ceil(contacts / 2);
  const places = gridPlaces({
    rows: 2,
    columns: long,
    pitchMm: 2.77,
    rowPitchMm: 2.84,
    count: 'row by row',
    begins: 'left',
    lengths: [long, contacts - long],
  });
  return layout(`d-sub-${contacts}`, `D-sub, ${contacts} contacts, plug`, 'plug', places);
}

/** High-density D-subminiature of fifteen: three rows of five. */
const HIGH_DENSITY_15 = layout(
  'd-sub-hd-15',
  'D-sub, high density, 15 contacts, plug',
  'plug',
  gridPlaces({
    rows: 3,
    columns: 5,
    pitchMm: 2.29,
    rowPitchMm: 1.98,
    count: 'row by row',
    begins: 'left',
    shiftsMm: [0, -1.145, 0],
  }),
);

/** A pin header of 2.54 mm: keyway down, 1 at the left of the keyway's row, 2 across from it. */
export const header = (rows: 1 | 2, columns: number): ContactLayout =>
  layout(
    `header-${rows}x${columns}`,
    `Header, ${rows} by ${columns}, plug`,
    'plug',
    gridPlaces({ rows, columns, pitchMm: 2.54, rowPitchMm: 2.54, count: 'across', begins: 'left' }),
  );

/** Modular plugs (IEC 60603-7 and its kin): latch down, contact 1 at the right of the mating face. */
export const modularPlug = (positions: 4 | 6 | 8 | 10): ContactLayout =>
  layout(
    `modular-${positions}`,
    `${positions}P modular plug`,
    'plug',
    gridPlaces({
      rows: 1,
      columns: positions,
      pitchMm: 1.02,
      rowPitchMm: 1,
      count: 'row by row',
      begins: 'right',
    }),
  );

/** A phone plug of two to four contacts, drawn along its axis with the tip at the left. */
export function phonePlug(contacts: 2 | 3 | 4): ContactLayout {
  const names = { 2: ['T', 'S'], 3: ['T', 'R', 'S'], 4: ['T', 'R1', 'R2', 'S'] }[contacts];
  const places = names.map((contact, n) => ({ contact, xMm: 4 * (n - (names.length - 1) / 2), yMm: 0 }));
  return layout(`phone-${contacts}`, `Phone plug, ${contacts} contacts`, 'plug', places);
}

/** A coaxial plug: a centre in its shell. */
const COAX = layout('coax', 'Coaxial plug', 'plug', [
  { contact: 'C', xMm: 0, yMm: 0 },
  { contact: 'S', xMm: 0, yMm: -3 },
]);

/** Plugs whose numbering is the same with every maker; sockets are their mates. */
export const CONTACT_PATTERNS: readonly ContactLayout[] = [
  dSub(9),
  dSub(15),
  dSub(25),
  HIGH_DENSITY_15,
  ...[1, 2].flatMap((rows) =>
    [2, 3, 4, 5, 6, 7, 8, 10, 13, 17, 20].map((columns) => header(rows as 1 | 2, columns)),
  ),
  ...([4, 6, 8, 10] as const).map(modularPlug),
  ...([2, 3, 4] as const).map(phonePlug),
  COAX,
];
