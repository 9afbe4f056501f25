import type { ContactId } from '../cabling/schemes.js';

/**
 * Contact geometry. A layout places each contact in the connector's own frame: looking at the
 * MATING face, latch (or keyway) down, x to the right and y up, in millimetres. Every other view
 * is a transform of it, so a face can be wrong in one place only.
 */
export interface ContactPlace {
  contact: ContactId;
  xMm: number;
  yMm: number;
}

export type Gender = 'plug' | 'socket';

/** What stands around the contacts: every shape is the same left and right, keyed at the bottom or not at all. */
export interface Shell {
  shape: 'wedge' | 'box' | 'round' | 'latched' | 'stick' | 'open';
  widthMm: number;
  heightMm: number;
  /** A key, keyway or slot at the bottom. */
  keyed: boolean;
}

export interface ContactLayout {
  id: string;
  name: string;
  gender: Gender;
  places: readonly ContactPlace[];
  shell?: Shell;
  /** How a person tells which way round it lies. */
  cue?: string;
  /** Numbered in more than one way: the figures moulded beside the contacts have to be read. */
  confirm?: boolean;
  /** Rings that have to be on the cable before its conductors are joined, in the order of threading. */
  threads?: readonly string[];
  /** Contacts in the order in which a flat ribbon meets them, from the marked edge on. */
  ribbon?: readonly ContactId[];
}

/** `mating`: what the other connector sees. `rear`: what the person wiring it sees. */
export type Face = 'mating' | 'rear';

export interface View {
  face: Face;
  latch: 'down' | 'up';
}

const PITCH_8P_MM = 1.02;

/**
 * 8P8C (IEC 60603-7). Held latch down with the cable towards you, contact 1 is at the left; so
 * from the front, looking at the plug's mating face, contact 1 is at the right.
 */
export const PLUG_8P: ContactLayout = {
  id: 'plug-8p8c',
  name: '8P8C plug',
  gender: 'plug',
  places: Array.from({ length: 8 }, (_, i) => ({
    contact: String(i + 1),
    xMm: (3.5 - i) * PITCH_8P_MM,
    yMm: 0,
  })),
};

/** The layout that mates with the given one: contact n meets contact n, so the faces mirror. */
export function mate(layout: ContactLayout): ContactLayout {
  const gender: Gender = layout.gender === 'plug' ? 'socket' : 'plug';
  return {
    ...layout,
    id: layout.id.startsWith('mate:') ? layout.id.slice(5) : `mate:${layout.id}`,
    name: layout.name.replace(/plug|socket/, gender),
    gender,
    places: layout.places.map(mirrorPlace),
  };
}

export const SOCKET_8P: ContactLayout = { ...mate(PLUG_8P), id: 'socket-8p8c' };

function mirrorPlace(place: ContactPlace): ContactPlace {
  return { ...place, xMm: -place.xMm || 0 };
}

/** Contacts as they stand in a view, each with its place on the paper (x right, y up). */
export function lookAt(layout: ContactLayout, view: View): ContactPlace[] {
  let places = layout.places.map((place) => ({ ...place }));
  if (view.face === 'rear') places = places.map(mirrorPlace);
  if (view.latch === 'up') {
    places = places.map((p) => ({ ...p, xMm: -p.xMm || 0, yMm: -p.yMm || 0 }));
  }
  return places;
}

/** Contacts from left to right in a view. */
export function leftToRight(layout: ContactLayout, view: View): ContactId[] {
  return lookAt(layout, view)
    .sort((a, b) => a.xMm - b.xMm || b.yMm - a.yMm)
    .map((place) => place.contact);
}

/** Where the cable comes from as a person holds the plug flat in front of them. */
export type CableFrom = 'below' | 'left' | 'right';

/**
 * A plug held flat, seen from above. Contact side up (latch down) or latch side up; the cable
 * towards you, or lying in the left or the right hand. Contacts are listed left to right when
 * the cable comes from below, and top to bottom when it comes from a side.
 */
export function heldOrder(layout: ContactLayout, latch: View['latch'], cableFrom: CableFrom): ContactId[] {
  // Seen from above with the cable towards you, a plug shows its contacts as the rear face does.
  const order = leftToRight(layout, { face: 'rear', latch });
  return cableFrom === 'right' ? order.reverse() : order;
}
