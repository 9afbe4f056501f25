import { pairedConductors } from '../cabling/conductors.js';
import { conductorAt, EIGHT_CONTACTS, SCHEMES } from '../cabling/schemes.js';
import { CONTACT_LAYOUTS } from '../connectors/contact-layouts.js';
import { drawFace } from '../connectors/face-drawing.js';
import { heldOrder, lookAt, PLUG_8P, type View } from '../connectors/faces.js';
import type { Random } from '../quantities/random.js';
import { among, pick, shuffled, type Drill } from './drill.js';

const BOTH = ['T568A', 'T568B'] as const;

/** Which conductor lies on a contact; the other scheme's and the mate of its pair are what it is mistaken for. */
export function orderOfEight(random: Random): Drill {
  const scheme = pick(random, BOTH);
  const contact = pick(random, EIGHT_CONTACTS);
  const order = EIGHT_CONTACTS.map((each) => conductorAt(scheme, each) ?? '');
  const right = conductorAt(scheme, contact) ?? '';
  const other = conductorAt(scheme === 'T568A' ? 'T568B' : 'T568A', contact) ?? '';
  const mate = right.startsWith('WH-') ? right.slice(3) : `WH-${right}`;
  return {
    kind: 'order-of-eight',
    asks: `${scheme}: which wire is on contact ${contact}?`,
    picture: null,
    ...among(random, right, [other, mate, ...shuffled(random, order)], true),
    reason: `${SCHEMES[scheme].name ?? scheme}, 1 to 8: ${order.join(', ')}.`,
  };
}

/** All eight wires into a plug that is held in some way, left to right. */
export function layTheEight(random: Random): Drill {
  const scheme = pick(random, BOTH);
  const latch = pick(random, ['down', 'up'] as const);
  const order = heldOrder(PLUG_8P, latch, 'below').map((contact) => conductorAt(scheme, contact) ?? '');
  const pieces = shuffled(random, order);
  return {
    kind: 'lay-the-eight',
    by: 'laying',
    asks: `${scheme}, latch ${latch}, cable towards you: lay the eight, left to right.`,
    picture: null,
    places: PLACES,
    pieces: pieces.map((conductor) => ({ words: conductor, conductor })),
    right: order.map((conductor) => pieces.indexOf(conductor)),
    reason: `Latch ${latch}, ${scheme} reads ${order.join(', ')} from the left.`,
  };
}

const PLACES = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

/** Which contact stands where on a plug held one way or the other. */
export function plugTurned(random: Random): Drill {
  const latch = pick(random, ['down', 'up'] as const);
  const place = Math.floor(random() * 8);
  const order = heldOrder(PLUG_8P, latch, 'below');
  const right = order[place] ?? '';
  const turned = heldOrder(PLUG_8P, latch === 'down' ? 'up' : 'down', 'below')[place] ?? '';
  const beside = [order[place - 1], order[place + 1], ...order].flatMap((each) => each ?? []);
  return {
    kind: 'plug-turned',
    asks: `Latch ${latch}, cable towards you: which contact is the ${PLACES[place]} from the left?`,
    picture: { shows: 'plug', latch, place },
    ...among(random, right, [turned, ...beside]),
    reason: `Latch ${latch}, the contacts read ${order.join(' ')} from the left. Turned over they read the other way round.`,
  };
}

/** Layouts whose faces can be told by their key and whose numbers are the same everywhere. */
const FACES = CONTACT_LAYOUTS.filter(
  ({ places, confirm, shell }) =>
    !confirm && places.length >= 4 && places.length <= 15 && (shell?.keyed || shell?.shape === 'wedge'),
);

/** Which contact stands at a place of a face; that of the other face is what it is mistaken for. */
export function whichFace(random: Random): Drill {
  const layout = pick(random, FACES);
  const view: View = { face: pick(random, ['mating', 'rear'] as const), latch: 'down' };
  const places = lookAt(layout, view);
  const asked = pick(random, places);
  const mirrored = lookAt(layout, { ...view, face: view.face === 'rear' ? 'mating' : 'rear' });
  const there = mirrored.find(({ xMm, yMm }) => Math.hypot(xMm - asked.xMm, yMm - asked.yMm) < 0.05)?.contact;
  const near = [...places].sort(
    (a, b) =>
      Math.hypot(a.xMm - asked.xMm, a.yMm - asked.yMm) - Math.hypot(b.xMm - asked.xMm, b.yMm - asked.yMm),
  );
  return {
    kind: 'which-face',
    asks: `${layout.name}, ${view.face === 'rear' ? 'wiring side' : 'mating face'}: which contact is marked?`,
    picture: { shows: 'face', layout: layout.id, view, contact: asked.contact },
    ...among(random, asked.contact, [...(there ? [there] : []), ...near.map(({ contact }) => contact)]),
    reason: `${drawFace(layout, view).words}. The other face is its mirror image.`,
  };
}

/** The number of a pair by its colours, of twenty-five. */
export function pairByColour(random: Random): Drill {
  const wires = pairedConductors(25);
  const pair = 1 + Math.floor(random() * 25);
  const of = (number: number): string =>
    wires
      .filter((each) => each.pair === number)
      .map(({ id }) => id)
      .join(' / ');
  const wrong = [pair + 5, pair - 5, pair + 1, pair - 1, 26 - pair].filter(
    (each) => each >= 1 && each <= 25 && each !== pair,
  );
  return {
    kind: 'pair-by-colour',
    asks: `Which pair of twenty-five is ${of(pair)}?`,
    picture: null,
    ...among(
      random,
      `pair ${pair}`,
      shuffled(random, wrong).map((each) => `pair ${each}`),
    ),
    reason:
      'White, red, black, yellow, violet count the fives; blue, orange, green, brown, slate count within one.',
  };
}
