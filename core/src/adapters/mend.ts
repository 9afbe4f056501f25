import {
  familyOf,
  joinTouches,
  netsOf,
  pinAt,
  placeWords,
  samePlace,
  suggestAllJoins,
  type AdapterDesign,
  type Join,
  type PinPlace,
} from './design.js';
import { proposeLevelChange } from './levels.js';
import { checkAdapter, type RuleFinding, type RuleId } from './rules.js';

/** A design with one finding mended, and what was done. */
export interface Mended {
  design: AdapterDesign;
  did: string;
}

type Mend = (design: AdapterDesign, places: readonly PinPlace[]) => Mended | null;

const PULL_UP_OHM = 4700;
const joinWords = ({ from, to }: Join): string => `${placeWords(from)} to ${placeWords(to)}`;

/**
 * Mends what a rule found, where there is one way that needs no choice of a person's: crosses
 * outputs that fight, joins missing grounds, takes off what must not be joined, puts the proposed
 * parts between levels.
 *
 * @param before what the rules say to the design, where that is known already
 * @returns null where a person has to choose, or where it would only put one mistake for another
 * @throws BadDesign
 */
export function mend(
  design: AdapterDesign,
  finding: RuleFinding,
  before: readonly RuleFinding[] = checkAdapter(design),
): Mended | null {
  const places = finding.contacts.map((words): PinPlace => {
    const [end = '', contact = ''] = words.split(' ');
    return { end, contact };
  });
  const mended = MENDS[finding.rule]?.(design, places) ?? null;
  if (!mended) return null;
  const after = checkAdapter(mended.design);
  const wrongs = (some: readonly RuleFinding[]): number =>
    some.filter(({ severity }) => severity === 'wrong').length;
  const stays = after.some(
    ({ rule, contacts }) => rule === finding.rule && contacts.join() === finding.contacts.join(),
  );
  return stays || wrongs(after) > wrongs(before) ? null : mended;
}

/** Takes off every join at one of these places and joins by the signals what is then free. */
const rejoin: Mend = (design, places) => {
  const suggested = suggestionsFor(design, places);
  if (suggested.length === 0) return null;
  const moved = suggested.flatMap(({ from, to }) => [from, to]);
  const off = design.joins.filter(
    (join) => join.parts.length === 0 && [...places, ...moved].some((place) => joinTouches(join, place)),
  );
  const joins = [...design.joins.filter((join) => !off.includes(join)), ...suggested];
  return { design: { ...design, joins }, did: `Joined ${suggested.map(joinWords).join(', ')}.` };
};

/** Joins by the signals what is free, and leaves every join as it is. */
const joinMore: Mend = (design, places) => {
  const on = design.joins.flatMap(({ from, to }) => [placeWords(from), placeWords(to)]);
  const suggested = suggestionsFor(design, places).filter(({ from, to }) =>
    [from, to].every(
      (place) => !on.includes(placeWords(place)) || pinAt(design, place).pin.kind.match(/ground|supply/),
    ),
  );
  if (suggested.length === 0) return null;
  return {
    design: { ...design, joins: [...design.joins, ...suggested] },
    did: `Joined ${suggested.map(joinWords).join(', ')}.`,
  };
};

const groundsOf = (design: AdapterDesign, places: readonly PinPlace[]): Mended | null => {
  const [one, other] = [...new Set(places.map(({ end }) => end))].map((end) =>
    places.find((place) => place.end === end),
  );
  if (!one || !other) return null;
  return {
    design: { ...design, joins: [...design.joins, { from: one, to: other, parts: [] }] },
    did: `Joined ${placeWords(one)} to ${placeWords(other)}.`,
  };
};

/** Takes off the joins at the last of the places. */
const takeOff: Mend = (design, places) => {
  const place = places.at(-1);
  const joins = place ? design.joins.filter((join) => !joinTouches(join, place)) : design.joins;
  return place && joins.length < design.joins.length
    ? { design: { ...design, joins }, did: `Took ${placeWords(place)} off.` }
    : null;
};

const changeLevels: Mend = (design, [driver, listener]) => {
  if (!driver || !listener) return null;
  const direct = design.joins.find(
    (join) => join.parts.length === 0 && joinTouches(join, driver) && joinTouches(join, listener),
  );
  const [gives, takes] = [pinAt(design, driver).pin, pinAt(design, listener).pin];
  const [from, to] = [familyOf(gives), familyOf(takes)];
  if (!direct || !from || !to) return null;
  const { by, words, divider } = proposeLevelChange(from, to, {
    bothWays: gives.kind === 'both' && takes.kind === 'both',
  });
  if (by === 'nothing') return null;
  const others = design.joins.filter((join) => join !== direct);
  if (!divider)
    return {
      design: {
        ...design,
        joins: [...others, { ...direct, parts: [{ kind: 'level stage', words: by }] }],
      },
      did: words,
    };
  const ground = design.ends
    .find(({ id }) => id === listener.end)
    ?.pins.find(({ kind }) => kind === 'ground');
  if (!ground) return null;
  const down: Join = {
    from: listener,
    to: { end: listener.end, contact: ground.contact },
    parts: [{ kind: 'resistor', words: 'to ground', ohm: divider.groundOhm }],
  };
  const series: Join = {
    from: driver,
    to: listener,
    parts: [{ kind: 'resistor', words: 'in the way', ohm: divider.seriesOhm }],
  };
  return { design: { ...design, joins: [...others, series, down] }, did: words };
};

const pullUp: Mend = (design, places) => {
  const { nets } = netsOf(design);
  const net = nets.find(({ pins }) => pins.some((pin) => places.some((place) => samePlace(pin, place))));
  const listener = net?.pins.find(({ pin }) => pin.kind === 'input' || pin.kind === 'both');
  const supply = design.ends
    .find(({ id }) => id === listener?.end)
    ?.pins.find(({ kind }) => kind === 'supply-out');
  if (!listener || !supply) return null;
  const from = { end: listener.end, contact: listener.contact };
  const to = { end: listener.end, contact: supply.contact };
  const part = { kind: 'resistor', words: 'pull-up', ohm: PULL_UP_OHM } as const;
  return {
    design: { ...design, joins: [...design.joins, { from, to, parts: [part] }] },
    did: `Put ${PULL_UP_OHM / 1000} kilohm from ${placeWords(from)} to ${placeWords(to)}.`,
  };
};

/** Joins that the signals at these places speak for, between any two ends. */
const suggestionsFor = (design: AdapterDesign, places: readonly PinPlace[]): Join[] =>
  suggestAllJoins(design)
    .map(({ join }) => join)
    .filter((join) => places.some((place) => joinTouches(join, place)));

const MENDS: Partial<Record<RuleId, Mend>> = {
  'outputs-fight': rejoin,
  'input-undriven': (design, places) => joinMore(design, places) ?? rejoin(design, places),
  'load-unfed': joinMore,
  'ground-missing': groundsOf,
  'joined-not-connected': takeOff,
  shield: takeOff,
  'levels-damage': changeLevels,
  'levels-unread': changeLevels,
  'levels-inverted': changeLevels,
  'no-pull-up': pullUp,
};
