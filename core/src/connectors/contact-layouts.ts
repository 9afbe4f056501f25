import type { ContactId } from '../cabling/schemes.js';
import { gridPlaces, ringPlaces } from './contact-patterns.js';
import { mate, type ContactLayout, type ContactPlace, type Shell } from './faces.js';

const upTo = (count: number): ContactId[] => Array.from({ length: count }, (_, n) => String(n + 1));

const shell = (shape: Shell['shape'], widthMm: number, heightMm: number, keyed = true): Shell => ({
  shape,
  widthMm,
  heightMm,
  keyed,
});

/** The order in which a flat ribbon meets a D-subminiature connector: across and back, 1 6 2 7 3 ... */
export function dSubOrder(contacts: number): ContactId[] {
  const long = Math.ceil(contacts / 2);
  return Array.from({ length: contacts }, (_, n) => String(n % 2 === 0 ? n / 2 + 1 : long + (n + 1) / 2));
}

/** The order in which a flat ribbon meets a header of one or two rows: 1 2 3 ... */
export const headerOrder = (contacts: number): ContactId[] => upTo(contacts);

/** D-subminiature (IEC 60807-3): pitch 2.77 mm, rows 2.84 mm apart, the plug's first contact at the left of the wide row. */
function dSub(contacts: number): ContactLayout {
  const long = Math.ceil(contacts / 2);
  return {
    id: `d-sub-${contacts}`,
    name: `D-sub, ${contacts} contacts, plug`,
    gender: 'plug',
    places: gridPlaces({
      rows: 2,
      columns: long,
      pitchMm: 2.77,
      rowPitchMm: 2.84,
      count: 'row by row',
      begins: 'left',
      lengths: [long, contacts - long],
    }),
    shell: shell('wedge', long * 2.77 + 5, 9.4, false),
    cue: 'narrow row down',
    ribbon: dSubOrder(contacts),
  };
}

/** High-density D-subminiature of fifteen: three rows of five. */
const HIGH_DENSITY_15: ContactLayout = {
  id: 'd-sub-hd-15',
  name: 'D-sub, high density, 15 contacts, plug',
  gender: 'plug',
  places: gridPlaces({
    rows: 3,
    columns: 5,
    pitchMm: 2.29,
    rowPitchMm: 1.98,
    count: 'row by row',
    begins: 'left',
    shiftsMm: [0, -1.145, 0],
  }),
  shell: shell('wedge', 18.6, 9.6, false),
  cue: 'narrow side down',
};

/** A pin header of 2.54 mm: keyway down, 1 at the left of the keyway's row, 2 across from it. */
export const header = (rows: 1 | 2, columns: number): ContactLayout => ({
  id: `header-${rows}x${columns}`,
  name: `Header, ${rows} by ${columns}, plug`,
  gender: 'plug',
  places: gridPlaces({
    rows,
    columns,
    pitchMm: 2.54,
    rowPitchMm: 2.54,
    count: 'across',
    begins: 'left',
  }),
  shell: shell('box', columns * 2.54 + 4, rows * 2.54 + 3.6),
  cue: rows === 2 ? 'keyway down, arrow at 1' : 'arrow or square pad at 1',
  ribbon: headerOrder(rows * columns),
});

/** Modular plugs (IEC 60603-7 and its kin): latch down, contact 1 at the right of the mating face. */
export const modularPlug = (positions: 4 | 6 | 8 | 10): ContactLayout => ({
  id: `modular-${positions}`,
  name: `${positions}P modular plug`,
  gender: 'plug',
  places: gridPlaces({
    rows: 1,
    columns: positions,
    pitchMm: 1.02,
    rowPitchMm: 1,
    count: 'row by row',
    begins: 'right',
  }),
  shell: shell('latched', positions * 1.02 + 3.4, 6.6),
  cue: 'latch down',
  threads: ['boot'],
});

/** A phone plug of two to four contacts, drawn along its axis with the tip at the left. */
export function phonePlug(contacts: 2 | 3 | 4): ContactLayout {
  const names = { 2: ['T', 'S'], 3: ['T', 'R', 'S'], 4: ['T', 'R1', 'R2', 'S'] }[contacts];
  return {
    id: `phone-${contacts}`,
    name: `Phone plug, ${contacts} contacts`,
    gender: 'plug',
    places: names.map((contact, n) => ({ contact, xMm: 4 * (n - (names.length - 1) / 2), yMm: 0 })),
    shell: shell('stick', names.length * 4 + 2, 4.4, false),
    cue: 'seen from the side: the tip is the point',
    threads: ['barrel', 'insulating tube'],
  };
}

/** A coaxial plug, such as F, N or BNC: a centre in its shell. */
const COAX: ContactLayout = {
  id: 'coax',
  name: 'Coaxial plug',
  gender: 'plug',
  places: [
    { contact: 'C', xMm: 0, yMm: 0 },
    { contact: 'S', xMm: 0, yMm: -3 },
  ],
  shell: shell('round', 9.6, 9.6, false),
  cue: 'C is the centre, S the shell',
  threads: ['boot', 'ferrule'],
};

const DIN_SHELL = shell('round', 13.2, 13.2);
/**
 * Circular DIN plugs (IEC 60130-9), keyway down. Looking at the pins, numbers run from the right; the
 * second and third fives stand between the first three, and 6 and 7 beyond them, so they hop.
 */
const din = (
  id: string,
  arc: readonly number[],
  overDeg: number,
  middle?: number,
  words = '',
): ContactLayout => ({
  id: `din-${id}`,
  name: `DIN, ${arc.length + (middle === undefined ? 0 : 1)} contacts${words}, plug`,
  gender: 'plug',
  places: ringPlaces({
    contacts: arc.map(String),
    radiusMm: 3.5,
    fromDeg: 90 - overDeg / 2,
    turns: 'counter-clockwise',
    overDeg,
    ...(middle === undefined ? {} : { middle: String(middle) }),
  }),
  shell: DIN_SHELL,
  cue: 'keyway down; numbers hop about the ring',
  threads: ['boot', 'outer sleeve'],
});

const DINS: readonly ContactLayout[] = [
  din('3', [1, 2, 3], 180),
  din('4', [1, 2, 3, 4], 216),
  din('5', [1, 4, 2, 5, 3], 180, undefined, ' over 180 degrees'),
  din('5-240', [1, 2, 3, 4, 5], 240, undefined, ' over 240 degrees'),
  din('6', [1, 2, 3, 4, 5], 240, 6),
  din('7', [6, 1, 4, 2, 5, 3, 7], 270),
  din('8', [6, 1, 4, 2, 5, 3, 7], 270, 8),
];

/** Rows of a mini-DIN plug from the bottom up, looking at the pins, each from left to right. */
const MINI_ROWS: Readonly<Record<number, readonly (readonly number[])[]>> = {
  3: [[], [1, 2], [3]],
  4: [[], [1, 2], [3, 4]],
  5: [[1], [2, 3], [4, 5]],
  6: [
    [1, 2],
    [3, 4],
    [5, 6],
  ],
  7: [
    [1, 2],
    [3, 4],
    [5, 6, 7],
  ],
  8: [
    [1, 2],
    [3, 4, 5],
    [6, 7, 8],
  ],
  9: [
    [1, 2],
    [3, 4, 5],
    [6, 7, 8, 9],
  ],
};
/** Half the width of each row, from the bottom, millimetres. */
const MINI_HALVES = [1.7, 3.3, 2.3] as const;

function miniDin(contacts: number): ContactLayout {
  const rows = MINI_ROWS[contacts] ?? [];
  const places = rows.flatMap((row, r): ContactPlace[] => {
    const half = MINI_HALVES[r] ?? 0;
    return row.map((contact, n) => ({
      contact: String(contact),
      // One alone lies at the left in the bottom row, in the middle of the top one.
      xMm: row.length > 1 ? half * ((2 * n) / (row.length - 1) - 1) : r === 0 ? -half : 0,
      yMm: 2.5 * (r - 1),
    }));
  });
  return {
    id: `mini-din-${contacts}`,
    name: `Mini-DIN, ${contacts} contacts, plug`,
    gender: 'plug',
    places,
    shell: shell('round', 9.6, 9.6),
    cue: `wide shell slot down, ${(rows.find((row) => row.length > 0) ?? []).join(' and ')} lowest`,
    threads: ['boot', 'outer sleeve'],
    ...(contacts === 5 || contacts === 9 ? { confirm: true } : {}),
  };
}

const usb = (
  id: string,
  name: string,
  rows: readonly (readonly ContactId[])[],
  size: Shell,
  cue: string,
): ContactLayout => ({
  id: `usb-${id}`,
  name: `USB ${name} plug`,
  gender: 'plug',
  places: rows.flatMap((row, r) =>
    row.map((contact, n) => ({
      contact,
      xMm: ((n - (row.length - 1) / 2) * (size.widthMm - 3)) / row.length,
      yMm: rows.length > 1 ? (0.5 - r) * (size.heightMm / 2) : 0,
    })),
  ),
  shell: size,
  cue,
});
const lettered = (letter: string): ContactId[] => upTo(12).map((n) => letter + n);

/** USB plugs, looking into the plug. */
const USBS: readonly ContactLayout[] = [
  usb('a', 'A', [upTo(4).reverse()], shell('box', 12, 4.5, false), 'contacts up, plastic below them'),
  usb(
    'b',
    'B',
    [
      ['1', '2'],
      ['4', '3'],
    ],
    shell('box', 8.4, 7.8, false),
    'bevelled corners up',
  ),
  usb('mini-b', 'mini-B', [upTo(5).reverse()], shell('box', 6.8, 3, false), 'as in a socket on its board'),
  usb(
    'micro-b',
    'micro-B',
    [upTo(5).reverse()],
    shell('box', 6.8, 1.8, false),
    'as in a socket on its board',
  ),
  usb('c', 'C', [lettered('A').reverse(), lettered('B')], shell('box', 8.3, 2.4, false), 'row A up'),
];

/** Circular sensor plugs (IEC 61076-2): looking at the pins, numbers follow each other counter-clockwise. */
const sensor = (
  id: string,
  name: string,
  arc: readonly number[],
  fromDeg: number,
  sizeMm: number,
  middle?: number,
): ContactLayout => ({
  id,
  name,
  gender: 'plug',
  places: ringPlaces({
    contacts: arc.map(String),
    radiusMm: sizeMm * 0.26,
    fromDeg,
    turns: 'counter-clockwise',
    ...(middle === undefined ? {} : { middle: String(middle) }),
  }),
  shell: shell('round', sizeMm, sizeMm),
  cue: 'key down, between 1 and 2 on most codings',
  confirm: true,
  threads: ['gland nut', 'seal', 'housing'],
});

const SENSORS: readonly ContactLayout[] = [
  {
    ...sensor('m8-3', 'M8, 3 contacts, plug', [1, 4, 3], -30, 8),
    cue: '4 stands alone at the top',
  },
  {
    ...sensor('m8-4', 'M8, 4 contacts, plug', [1, 2, 4, 3], -45, 8),
    cue: '3 and 1 lowest, 2 above 1',
  },
  sensor('m12-a-4', 'M12, coding A, 4 contacts, plug', [1, 2, 3, 4], 225, 12),
  sensor('m12-a-5', 'M12, coding A, 5 contacts, plug', [1, 2, 3, 4], 225, 12, 5),
  sensor('m12-a-8', 'M12, coding A, 8 contacts, plug', [1, 2, 3, 4, 5, 6, 7], 244, 12, 8),
  sensor('m12-b-5', 'M12, coding B, 5 contacts, plug', [1, 2, 3, 4], 225, 12, 5),
  sensor('m12-d-4', 'M12, coding D, 4 contacts, plug', [1, 2, 3, 4], 225, 12),
];

/** Three-contact audio plug (IEC 61076-2-103): looking at the pins with the latch slot down, 3 stands alone at the top. */
const XLR_3: ContactLayout = {
  id: 'xlr-3',
  name: 'XLR, 3 contacts, plug',
  gender: 'plug',
  places: [
    { contact: '1', xMm: 4.3, yMm: -1.9 },
    { contact: '2', xMm: -4.3, yMm: -1.9 },
    { contact: '3', xMm: 0, yMm: 4.2 },
  ],
  shell: shell('round', 16, 16),
  cue: 'latch slot down, 3 at the top',
  threads: ['boot', 'housing'],
};

/** Contacts side by side that mate with nothing: what is looked at is what is wired. */
const strip = (id: string, name: string, count: number, pitchMm: number, cue: string): ContactLayout => ({
  id: `${id}-${count}`,
  name: `${name}, ${count}`,
  gender: 'socket',
  places: gridPlaces({
    rows: 1,
    columns: count,
    pitchMm,
    rowPitchMm: 1,
    count: 'row by row',
    // Wired from behind the face that others see: from there 1 is at the left.
    begins: 'right',
  }),
  shell: shell('open', count * pitchMm + 3, pitchMm + 3, false),
  cue,
});

/** Plugs with the numbering of their standard; sockets are their mates. */
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
  ...DINS,
  ...[3, 4, 5, 6, 7, 8, 9].map(miniDin),
  ...USBS,
  ...SENSORS,
  XLR_3,
];

/** What has no mate: it is wired from the side that is seen. */
export const CONTACT_STRIPS: readonly ContactLayout[] = [
  ...[2, 3, 4, 5, 6, 8, 10, 12].map((count) =>
    strip('terminals', 'Screw terminals', count, 5.08, 'screws up, wires from below'),
  ),
  ...[2, 3, 4, 5, 6, 8, 10, 12].map((count) =>
    strip('pads', 'Pads at a board’s edge', count, 2.54, 'edge towards you'),
  ),
  ...[2, 3, 4, 5, 6, 7, 8, 10, 12].map((count) =>
    strip('leads', 'Flying leads', count, 3, 'in any order: the colour tells'),
  ),
];

/** Every connector that is known by name: plugs, the sockets that take them, and what has no mate. */
export const CONTACT_LAYOUTS: readonly ContactLayout[] = [
  ...CONTACT_PATTERNS.flatMap((plug) => [plug, mate(plug)]),
  ...CONTACT_STRIPS,
];
