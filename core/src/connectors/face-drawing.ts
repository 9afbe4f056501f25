import { lookAt, type ContactLayout, type ContactPlace, type Shell, type View } from './faces.js';

/** A face to be drawn, in millimetres, x to the right and y DOWN, about its middle. */
export interface FaceDrawing {
  widthMm: number;
  heightMm: number;
  /** The shell's outline as an SVG path; empty where nothing stands around the contacts. */
  outline: string;
  /** The key, keyway or latch, as an SVG path; empty where there is none. */
  key: string;
  contacts: ContactPlace[];
  /** Radius that a contact may be drawn with so that no two touch. */
  contactMm: number;
  /** In words, for who cannot see it: rows from the top, each from the left. */
  words: string;
}

const MARGIN_MM = 1;
const DEFAULT_SHELL: Shell = { shape: 'open', widthMm: 0, heightMm: 0, keyed: false };

/** A face as it looks in a view: outline, key and contacts, the same on screen, on paper and in a file. */
export function drawFace(layout: ContactLayout, view: View): FaceDrawing {
  const shell = layout.shell ?? DEFAULT_SHELL;
  const contacts = lookAt(layout, view).map((place) => ({ ...place, yMm: -place.yMm || 0 }));
  const reach = (of: (place: ContactPlace) => number): number =>
    2 * Math.max(...contacts.map((place) => Math.abs(of(place)))) + 2;
  const [width, height] = [
    Math.max(
      shell.widthMm,
      reach(({ xMm }) => xMm),
    ),
    Math.max(
      shell.heightMm,
      reach(({ yMm }) => yMm),
    ),
  ];
  // With the key up everything is turned by half a turn; left and right of a shell are alike.
  const down = view.latch === 'down' ? 1 : -1;
  const key = keyOf(shell, width, height, down);
  const below = shell.shape === 'latched' ? LATCH.depthMm : 0;
  return {
    widthMm: width + 2 * MARGIN_MM,
    heightMm: height + 2 * (MARGIN_MM + below),
    outline: outlineOf(shell, width, height, { down, tip: Math.sign(contacts[0]?.xMm ?? -1) }),
    key,
    contacts,
    contactMm: Math.min(0.42 * nearest(contacts), 1.3),
    words: wordsOf(layout, view, contacts),
  };
}

const LATCH = { widthMm: 3, depthMm: 1.6 };
const KEY = { widthMm: 2.2, depthMm: 1.1 };
const mm = (value: number): string => String(Math.round(value * 1000) / 1000);

function outlineOf(
  { shape }: Shell,
  width: number,
  height: number,
  { down, tip }: { down: number; tip: number },
): string {
  const [w, h] = [width / 2, height / 2];
  switch (shape) {
    case 'open':
      return '';
    case 'round':
      return `M${mm(-w)} 0A${mm(w)} ${mm(h)} 0 1 1 ${mm(w)} 0A${mm(w)} ${mm(h)} 0 1 1 ${mm(-w)} 0Z`;
    case 'wedge': {
      const narrow = w - Math.min(1.6, w / 4);
      return `M${mm(-w)} ${mm(-h * down)}L${mm(w)} ${mm(-h * down)}L${mm(narrow)} ${mm(h * down)}L${mm(-narrow)} ${mm(h * down)}Z`;
    }
    case 'stick':
      // The first contact is the tip: that end is the point.
      return `M${mm(w * tip)} 0L${mm((w - 1.6) * tip)} ${mm(-h)}L${mm(-w * tip)} ${mm(-h)}L${mm(-w * tip)} ${mm(h)}L${mm((w - 1.6) * tip)} ${mm(h)}Z`;
    case 'box':
    case 'latched':
      return `M${mm(-w)} ${mm(-h)}H${mm(w)}V${mm(h)}H${mm(-w)}Z`;
  }
}

function keyOf({ shape, keyed }: Shell, _width: number, height: number, down: number): string {
  if (!keyed) return '';
  const edge = (height / 2) * down;
  const { widthMm, depthMm } = shape === 'latched' ? LATCH : KEY;
  const to = shape === 'latched' ? edge + depthMm * down : edge - depthMm * down;
  return `M${mm(-widthMm / 2)} ${mm(edge)}V${mm(to)}H${mm(widthMm / 2)}V${mm(edge)}Z`;
}

function nearest(places: readonly ContactPlace[]): number {
  let least = Infinity;
  places.forEach((one, n) => {
    for (const other of places.slice(n + 1))
      least = Math.min(least, Math.hypot(one.xMm - other.xMm, one.yMm - other.yMm));
  });
  return least === Infinity ? 3 : least;
}

function wordsOf(
  { name, shell }: ContactLayout,
  { face, latch }: View,
  contacts: readonly ContactPlace[],
): string {
  const heights = [...new Set(contacts.map(({ yMm }) => yMm))].sort((a, b) => a - b);
  const rows = heights.map((height) =>
    contacts
      .filter(({ yMm }) => yMm === height)
      .sort((a, b) => a.xMm - b.xMm)
      .map(({ contact }) => contact)
      .join(' '),
  );
  const key = shell?.keyed ? `, key ${latch}` : '';
  return `${name}, ${face === 'mating' ? 'mating face' : 'wiring side'}${key}, from the top left: ${rows.join('; ')}`;
}
