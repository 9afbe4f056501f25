import {
  joinTouches,
  samePlace,
  type AdapterDesign,
  type AdapterEnd,
  type Join,
  type PinPlace,
} from './design.js';

/** The design with two contacts joined straight; the same design where they are one contact, or joined so already. */
export function joinContacts(design: AdapterDesign, from: PinPlace, to: PinPlace): AdapterDesign {
  const there = design.joins.some(
    (join) => join.parts.length === 0 && joinTouches(join, from) && joinTouches(join, to),
  );
  return there || samePlace(from, to)
    ? design
    : { ...design, joins: [...design.joins, { from, to, parts: [] }] };
}

/** The design without any join at a contact; the same design where there is none. */
export function takeOffContact(design: AdapterDesign, place: PinPlace): AdapterDesign {
  const joins = design.joins.filter((join) => !joinTouches(join, place));
  return joins.length === design.joins.length ? design : { ...design, joins };
}

/** Joins at a contact. */
export const joinsAt = ({ joins }: Pick<AdapterDesign, 'joins'>, place: PinPlace): Join[] =>
  joins.filter((join) => joinTouches(join, place));

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
