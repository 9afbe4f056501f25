import { BadPattern } from '../../connectors/contact-patterns.js';
import { layoutFor } from '../../connectors/own-layout.js';
import type { AdapterDesign, AdapterEnd, AdapterNet, PlacedPin, Room } from '../design.js';
import { named, places, type RuleFinding } from './finding.js';

export function shieldRules({ pins }: AdapterNet): RuleFinding[] {
  const shields = pins.filter(({ pin }) => pin.kind === 'shield');
  const ends = new Set(shields.map(({ end }) => end));
  if (ends.size < 2) return [];
  return [
    {
      rule: 'shield',
      severity: 'unsure',
      contacts: places(shields),
      words: `${named(shields)}: the shield is grounded at both ends, where currents between two buildings’ or supplies’ grounds may run in it.`,
      remedy: 'For signal leads ground it at one end, unless the design asks for both.',
    },
  ];
}

/** A balanced pair of audio or video brings its own way back. */
const ownReturn = ({ kind, together }: PlacedPin['pin']): boolean =>
  together !== null && (kind === 'audio' || kind === 'video');

/** Ends that exchange signals or supply have to share a ground. */
export function groundRules({ ends }: AdapterDesign, nets: readonly AdapterNet[]): RuleFinding[] {
  const grounded = (one: string, other: string): boolean =>
    nets.some(({ pins }) =>
      [one, other].every((id) => pins.some(({ end, pin }) => end === id && pin.kind === 'ground')),
    );
  const talks = (one: string, other: string): boolean =>
    nets.some(({ pins }) =>
      [one, other].every((id) =>
        pins.some(
          ({ end, pin }) =>
            end === id && !['ground', 'shield', 'not-connected'].includes(pin.kind) && !ownReturn(pin),
        ),
      ),
    );
  return ends.flatMap((one, n) =>
    ends.slice(n + 1).flatMap((other): RuleFinding[] =>
      talks(one.id, other.id) && !grounded(one.id, other.id)
        ? [
            {
              rule: 'ground-missing',
              severity: 'wrong',
              contacts: [one, other].flatMap(({ id, pins }) =>
                pins.filter(({ kind }) => kind === 'ground').map(({ contact }) => `${id} ${contact}`),
              ),
              words: `${one.name} and ${other.name} share signals and no ground.`,
              remedy: 'Join their grounds: a signal needs its way back.',
            },
          ]
        : [],
    ),
  );
}

export function pinRules({ ends }: AdapterDesign, joined: ReadonlySet<string>): RuleFinding[] {
  return ends.flatMap(({ id, name, pins, sheetFace }) => {
    const out: RuleFinding[] = [];
    if (sheetFace === null && pins.length > 0)
      out.push({
        rule: 'face-unsaid',
        severity: 'unsure',
        contacts: [],
        words: `Nobody has said which face the pinout of ${name} shows.`,
        remedy: 'Look whether the sheet shows the mating or the wiring side: they are mirror images.',
      });
    for (const pin of pins) {
      const contacts = [`${id} ${pin.contact}`];
      const on = joined.has(contacts[0] ?? '');
      if (pin.sheetSaid)
        out.push({
          rule: 'as-found',
          severity: 'note',
          contacts,
          words: `${contacts[0]} ${pin.signal} was found so; the sheet says ${pin.sheetSaid}.`,
          remedy: 'Go by what was found, and meter it again on the next one of these.',
        });
      if (on && (pin.kind === 'not-connected' || pin.kind === 'reserved'))
        out.push({
          rule: 'joined-not-connected',
          severity: pin.kind === 'reserved' ? 'wrong' : 'unsure',
          contacts,
          words: `${contacts[0]} ${pin.signal} is ${pin.kind === 'reserved' ? 'reserved by its maker' : 'not connected inside'}, and joined.`,
          remedy: 'Leave it off, and insulate the wire.',
        });
      if (!on && pin.needed)
        out.push({
          rule: pin.kind === 'supply-in' ? 'load-unfed' : 'input-undriven',
          severity: 'wrong',
          contacts,
          words: `${contacts[0]} ${pin.signal} is needed and joined to nothing.`,
          remedy: 'Join it, or say that the device does without.',
        });
      else if (!on && pin.kind !== 'not-connected' && pin.kind !== 'reserved')
        out.push({
          rule: 'unused',
          severity: 'note',
          contacts,
          words: `${contacts[0]} ${pin.signal} does nothing here.`,
          remedy: 'Insulate and keep its wire, or cut it: the cable says which is meant.',
        });
      if (on && (pin.kind === 'supply-out' || pin.kind === 'supply-in') && pin.source !== 'metered')
        out.push({
          rule: 'not-metered',
          severity: 'note',
          contacts,
          words: `${contacts[0]} ${pin.signal}: its voltage is ${pin.source === 'sheet' ? 'from a sheet' : 'typical'}, not metered.`,
          remedy: 'Meter voltage and polarity before the device is connected.',
        });
    }
    return out;
  });
}

/** A phone plug slides past its neighbours' springs: on its way in it joins what is not meant to meet. */
export function phonePlugRules({ ends }: AdapterDesign): RuleFinding[] {
  return ends.flatMap(({ id, name, layout, pins }): RuleFinding[] => {
    const phone = typeof layout === 'string' && /^(mate:)?phone-/.test(layout);
    const fed = pins.some(({ kind }) =>
      ['supply-out', 'supply-in', 'output', 'open-collector', 'both'].includes(kind),
    );
    return phone && fed
      ? [
          {
            rule: 'push-in-dead',
            severity: 'note',
            contacts: pins.map(({ contact }) => `${id} ${contact}`),
            words: `${name} (${id}) is a phone plug: going in and out it bridges neighbouring contacts.`,
            remedy: 'Push it in and pull it out with both devices off.',
          },
        ]
      : [];
  });
}

/** Halves of a pair go together to one place, or not at all. */
export function pairRules({ ends }: AdapterDesign, nets: readonly AdapterNet[]): RuleFinding[] {
  return ends.flatMap(({ id, pins }) => {
    const groups = new Map<string, PlacedPin[]>();
    for (const pin of pins) {
      if (pin.together === null) continue;
      const placed = { end: id, contact: pin.contact, pin };
      groups.set(pin.together, [...(groups.get(pin.together) ?? []), placed]);
    }
    return [...groups.values()].flatMap((halves): RuleFinding[] => {
      const reach = halves.map((half) => {
        const net = nets.find(({ pins: on }) =>
          on.some(({ end, contact }) => end === half.end && contact === half.contact),
        );
        return (net?.pins ?? []).filter(({ end }) => end !== id).map(({ end }) => end);
      });
      const reached = reach.filter((ends2) => ends2.length > 0).length;
      return reached > 0 && reached < halves.length
        ? [
            {
              rule: 'pair-incomplete',
              severity: 'wrong',
              contacts: places(halves),
              words: `${named(halves)} belong together, and only ${reached} of ${halves.length} is joined.`,
              remedy: 'Take both through one pair, or neither.',
            },
          ]
        : [];
    });
  });
}

/** A pinout against its connector, and the connector against the room where it goes. */
export function connectorRules({ id, name, pins, layout: chosen, body, room }: AdapterEnd): RuleFinding[] {
  const out: RuleFinding[] = [];
  const layout = drawn(chosen);
  const known = new Set(layout?.places.map(({ contact }) => contact));
  const strange = layout ? pins.filter(({ contact }) => !known.has(contact)) : [];
  if (strange.length > 0)
    out.push({
      rule: 'contact-unknown',
      severity: 'wrong',
      contacts: strange.map(({ contact }) => `${id} ${contact}`),
      words: `${layout?.name} has no contact ${strange.map(({ contact }) => contact).join(', ')}.`,
      remedy: 'Choose the connector that is there, or correct the pinout.',
    });
  if (layout?.confirm && !pins.some(({ source }) => source === 'metered'))
    out.push({
      rule: 'numbers-unread',
      severity: 'unsure',
      contacts: [],
      words: `${name}: the numbering of ${layout.name} is not the same with every maker.`,
      remedy: 'Read the figures moulded beside the contacts, or meter one contact to be sure.',
    });
  const twice = pins.filter(
    ({ colour }) => colour !== undefined && pins.filter((other) => other.colour === colour).length > 1,
  );
  if (twice.length > 0)
    out.push({
      rule: 'colour-twice',
      severity: 'note',
      contacts: twice.map(({ contact }) => `${id} ${contact}`),
      words: `${name}: ${twice.map(({ contact, colour }) => `${contact} is ${colour}`).join(', ')}: a colour occurs twice.`,
      remedy: 'Meter these wires again when they are cut, and mark them.',
    });
  const tight = body && room ? SIDES.filter(({ of }) => of(body) > of(room)) : [];
  if (body && room && tight.length > 0)
    out.push({
      rule: 'no-room',
      severity: 'wrong',
      contacts: [],
      words: `${name}: the plug is ${tight.map(({ of, words }) => `${of(body)} mm ${words} where ${of(room)} mm are free`).join(', ')}.`,
      remedy: 'Take a smaller or angled body, or move the case.',
    });
  return out;
}

const SIDES: readonly { of: (room: Room) => number; words: string }[] = [
  { of: ({ widthMm }) => widthMm, words: 'wide' },
  { of: ({ heightMm }) => heightMm, words: 'high' },
  { of: ({ lengthMm }) => lengthMm, words: 'long' },
];

function drawn(choice: AdapterEnd['layout']): ReturnType<typeof layoutFor> {
  try {
    return layoutFor(choice ?? null);
  } catch (error) {
    if (error instanceof BadPattern) return null;
    throw error;
  }
}
