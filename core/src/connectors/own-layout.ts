import { CONTACT_LAYOUTS } from './contact-layouts.js';
import {
  BadPattern,
  gridPlaces,
  ringPlaces,
  type GridPattern,
  type RingPattern,
} from './contact-patterns.js';
import type { ContactLayout, Gender } from './faces.js';

/** A connector that a person describes: where its contacts lie, looking at its mating face, key down. */
export interface OwnLayout {
  name: string;
  gender: Gender;
  pattern: ({ shape: 'grid' } & GridPattern) | ({ shape: 'ring' } & RingPattern);
  keyed: boolean;
  /** How to tell which way round it lies, such as "red edge outward" or "two empty holes at each side". */
  cue: string;
}

/** Free space about the contacts of a drawn connector. */
const RIM_MM = 4;

/**
 * The layout that a description means.
 *
 * @throws BadPattern where it cannot be laid out
 */
export function layoutOfOwn({ name, gender, pattern, keyed, cue }: OwnLayout): ContactLayout {
  const places = pattern.shape === 'grid' ? gridPlaces(pattern) : ringPlaces(pattern);
  const extent = (of: (place: (typeof places)[number]) => number): number =>
    2 * Math.max(...places.map((place) => Math.abs(of(place)))) + RIM_MM;
  const [widthMm, heightMm] = [extent(({ xMm }) => xMm), extent(({ yMm }) => yMm)];
  const round = pattern.shape === 'ring';
  const size = Math.max(widthMm, heightMm);
  return {
    id: 'own',
    name,
    gender,
    places,
    shell: {
      shape: round ? 'round' : 'box',
      widthMm: round ? size : widthMm,
      heightMm: round ? size : heightMm,
      keyed,
    },
    ...(cue === '' ? {} : { cue }),
  };
}

/** A connector as a pinout names it: from the library by its id, one's own, or none that is drawn. */
export type LayoutChoice = string | OwnLayout | null;

/**
 * The layout that is meant; null where none is drawn.
 *
 * @throws BadPattern for an id that is not known, or a description that cannot be laid out
 */
export function layoutFor(choice: LayoutChoice): ContactLayout | null {
  if (choice === null) return null;
  if (typeof choice !== 'string') return layoutOfOwn(choice);
  const known = CONTACT_LAYOUTS.find(({ id }) => id === choice);
  if (!known)
    throw new BadPattern(
      `There is no connector "${choice}" in the library. Take one of its ids, such as d-sub-9 or mate:d-sub-9, or describe your own.`,
    );
  return known;
}
