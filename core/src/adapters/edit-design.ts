import type { ContactId } from '../cabling/schemes.js';
import {
  placeWords,
  type AdapterDesign,
  type AdapterEnd,
  type Join,
  type Pin,
  type PinPlace,
} from './design.js';

const same = (one: PinPlace, other: PinPlace): boolean => placeWords(one) === placeWords(other);
const touches = ({ from, to }: Join, place: PinPlace): boolean => same(from, place) || same(to, place);

/** The design with two contacts joined straight; the same design where they are one contact, or joined so already. */
export function joinContacts(design: AdapterDesign, from: PinPlace, to: PinPlace): AdapterDesign {
  const there = design.joins.some(
    (join) => join.parts.length === 0 && touches(join, from) && touches(join, to),
  );
  return there || same(from, to) ? design : { ...design, joins: [...design.joins, { from, to, parts: [] }] };
}

/** The design without any join at a contact; the same design where there is none. */
export function takeOffContact(design: AdapterDesign, place: PinPlace): AdapterDesign {
  const joins = design.joins.filter((join) => !touches(join, place));
  return joins.length === design.joins.length ? design : { ...design, joins };
}

/** Joins at a contact. */
export const joinsAt = ({ joins }: Pick<AdapterDesign, 'joins'>, place: PinPlace): Join[] =>
  joins.filter((join) => touches(join, place));

/**
 * The design with an end as it is now known. A join to a contact that is no longer there goes with
 * it; nothing else does.
 */
export function replaceEnd(design: AdapterDesign, end: AdapterEnd): AdapterDesign {
  const contacts = new Set(end.pins.map(({ contact }) => contact));
  const stands = (place: PinPlace): boolean => place.end !== end.id || contacts.has(place.contact);
  return {
    ...design,
    ends: design.ends.map((each) => (each.id === end.id ? end : each)),
    joins: design.joins.filter(({ from, to }) => stands(from) && stands(to)),
  };
}

/** The pinout with some signals put on their contacts: what was known of a contact stays, its signal changes. */
export function placeSignals(
  pins: readonly Pin[],
  placed: readonly { contact: ContactId; pin: Pin }[],
): Pin[] {
  const known = new Map(pins.map((pin) => [pin.contact, pin]));
  for (const { contact, pin } of placed) known.set(contact, pin);
  return [...known.values()].sort((a, b) => a.contact.localeCompare(b.contact, 'en', { numeric: true }));
}

/** An end of a new adapter, with nothing known of it yet but its name. */
export const newEnd = (id: string, name: string): AdapterEnd => ({
  id,
  name,
  connector: 'not chosen',
  sheetFace: null,
  contactBearsA: 1,
  layout: null,
  pins: [],
});

/** The next short name for an end. */
export function nextEndId({ ends }: Pick<AdapterDesign, 'ends'>): string {
  const free = [...'ABCDEFGH'].find((letter) => !ends.some(({ id }) => id === letter));
  if (free === undefined) throw new RangeError('An adapter has at most eight ends.');
  return free;
}
