import { SCREEN_CONTACT, type ContactId } from '../cabling/schemes.js';
import { contactPairsAt, intendedLink, type LinkExpectation } from './expectation.js';
import {
  FED_SETS,
  isMapReading,
  type ColourReading,
  type ContactGroup,
  type Reading,
  type TouchReading,
} from './readings.js';
import type { LinkEnd } from './true-link.js';

/** Something in a reading that cannot be true of the link it is given for. */
export interface ReadingProblem {
  path: readonly (string | number)[];
  message: string;
}

/**
 * Checks a reading against the link it claims to be of: every contact it names must exist, every
 * contact of the link must be answered for, and it may not say what its instrument cannot see.
 * Two near contacts that arrive at one far contact are a short, not a problem.
 */
export function checkReading(expected: LinkExpectation, reading: Reading): ReadingProblem[] {
  const intended = intendedLink(expected);
  const contacts: Record<LinkEnd, ContactId[]> = {
    near: Object.keys(intended.near),
    far: Object.keys(intended.far),
  };
  const pairsAt = (end: LinkEnd): string[] => contactPairsAt(intended, intended[end]).map((p) => p.join('-'));
  const other = (end: LinkEnd): LinkEnd => (end === 'near' ? 'far' : 'near');
  if (isMapReading(reading)) {
    return [
      ...(reading.screenEarthed !== undefined && !expected.screened
        ? [
            {
              path: ['screenEarthed'],
              message: 'This link has no screen that could be earthed: leave it out.',
            },
          ]
        : []),
      ...(reading.screenEarthed === 'both-ends' && reading.arrivals[SCREEN_CONTACT]?.length === 0
        ? [
            {
              path: ['screenEarthed'],
              message:
                'Earthed at both ends a screen is closed through earth, and here it arrives nowhere: say one-end, or read again.',
            },
          ]
        : []),
      ...checkContacts(contacts.near, Object.keys(reading.arrivals), ['arrivals']),
      ...Object.entries(reading.arrivals).flatMap(([near, reached]) =>
        unknownContacts(contacts.far, reached, ['arrivals', near]),
      ),
      ...reading.joins.flatMap((group, i) => unknownContacts(contacts.near, group, ['joins', i])),
      ...checkSplits(reading.instrument, reading.splits, pairsAt('near')),
    ];
  }
  switch (reading.instrument) {
    case 'eye':
      return [
        ...checkContacts(contacts[reading.end], Object.keys(reading.colours), ['colours']),
        ...checkColours(
          intended.conductors.map((w) => w.id),
          reading.colours,
        ),
        ...checkEmpty(reading),
      ];
    case 'lamp-pairs':
    case 'lamps-one-return':
      return checkContacts(pairsAt('near'), Object.keys(reading.lamps), ['lamps']);
    case 'pair-reflectometer':
      // A trace is taken on one pair at a time: the others may still be untold.
      return Object.keys(reading.pairs).length === 0
        ? [{ path: ['pairs'], message: 'Name at least one pair.' }]
        : checkContacts(pairsAt(reading.from), Object.keys(reading.pairs), ['pairs']).filter(
            ({ path }) => path.length > 1,
          );
    case 'wiggle':
      return unknownContacts(contacts[reading.end === 'far' ? 'far' : 'near'], reading.flickers, [
        'flickers',
      ]);
    case 'tone-probe':
      return reading.tones.flatMap(({ on, heard }, i) => [
        ...unknownContacts(contacts[reading.end], on, ['tones', i, 'on']),
        ...unknownContacts(contacts[other(reading.end)], heard, ['tones', i, 'heard']),
      ]);
    case 'dc-voltage':
      return [
        ...unknownContacts(contacts[other(reading.end)], reading.feed.contacts, ['feed', 'contacts']),
        ...reading.across.flatMap((row, i) =>
          unknownContacts(contacts[reading.end], row.contacts, ['across', i, 'contacts']),
        ),
      ];
    case 'capacitance-meter':
      return Object.keys(reading.nF).length === 0
        ? [{ path: ['nF'], message: 'Measure at least one pair.' }]
        : checkContacts(pairsAt(reading.end), Object.keys(reading.nF), ['nF']).filter(
            ({ path }) => path.length > 1,
          );
    case 'power-tester':
      return (['near', 'far'] as const).flatMap((end) =>
        Object.values(FED_SETS)
          .flat(2)
          .every((contact) => contacts[end].includes(contact))
          ? []
          : [{ path: ['end'], message: `The ${end} end has no eight contacts that could be fed.` }],
      );
    default:
      return checkTouches(contacts, reading);
  }
}

function checkTouches(
  contacts: Readonly<Record<LinkEnd, readonly ContactId[]>>,
  { instrument, touches }: TouchReading,
): ReadingProblem[] {
  const group = (
    { end, contacts: named }: ContactGroup,
    path: readonly (string | number)[],
  ): ReadingProblem[] => [
    ...unknownContacts(contacts[end], named, [...path, 'contacts']),
    ...(named.length === 0
      ? [{ path: [...path, 'contacts'], message: 'A lead touches at least one contact.' }]
      : []),
  ];
  return touches.flatMap((touch, i) => {
    const { from, to, joined = [], closed, ohm } = touch;
    const both = from.end === to.end ? from.contacts.filter((c) => to.contacts.includes(c)) : [];
    return [
      ...group(from, ['touches', i, 'from']),
      ...group(to, ['touches', i, 'to']),
      ...joined.flatMap((g, k) => group(g, ['touches', i, 'joined', k])),
      ...both.map((c) => ({ path: ['touches', i, 'to'], message: `Contact ${c} is under both leads.` })),
      ...(instrument === 'beeper' && ohm != null
        ? [
            {
              path: ['touches', i, 'ohm'],
              message: 'A beeper shows no ohms: leave them out, or name the ohmmeter.',
            },
          ]
        : []),
      ...(!closed && ohm != null
        ? [{ path: ['touches', i, 'ohm'], message: 'An open loop has no ohms: give null.' }]
        : []),
    ];
  });
}

function checkColours(
  conductors: readonly string[],
  colours: Readonly<Record<ContactId, string | null>>,
): ReadingProblem[] {
  return Object.entries(colours).flatMap(([contact, colour]) =>
    colour === null || conductors.includes(colour)
      ? []
      : [
          {
            path: ['colours', contact],
            message: `This cable has no ${colour} conductor. Its conductors are ${conductors.join(', ')}.`,
          },
        ],
  );
}

/** What is seen to be empty is answered for without a colour. */
function checkEmpty({ colours, empty = [] }: ColourReading): ReadingProblem[] {
  return [
    ...empty.flatMap((contact) => {
      const colour = colours[contact];
      if (colour === null) return [];
      const message =
        colour === undefined
          ? `Contact ${contact} is said to be empty but is not among the colours: give it null there.`
          : `Contact ${contact} cannot be empty and hold ${colour}: give one of the two.`;
      return [{ path: ['empty'], message }];
    }),
    ...empty
      .filter((contact, i) => empty.indexOf(contact) !== i)
      .map((contact) => ({ path: ['empty'], message: `Contact ${contact} is named twice. Name it once.` })),
  ];
}

function unknownContacts(
  known: readonly ContactId[],
  named: readonly ContactId[],
  path: readonly (string | number)[],
): ReadingProblem[] {
  const repeated = named.filter((c, i) => named.indexOf(c) !== i);
  return [
    ...named
      .filter((c) => !known.includes(c))
      .map((c) => ({ path, message: `This link has no contact ${c}. It has ${known.join(', ')}.` })),
    ...repeated.map((c) => ({ path, message: `Contact ${c} is named twice. Name it once.` })),
  ];
}

function checkContacts(
  known: readonly string[],
  named: readonly string[],
  path: readonly string[],
): ReadingProblem[] {
  const missing = known.filter((c) => !named.includes(c));
  return [
    ...named
      .filter((c) => !known.includes(c))
      .map((c) => ({ path: [...path, c], message: `This link has no ${c}. It has ${known.join(', ')}.` })),
    ...(missing.length > 0
      ? [{ path, message: `Nothing is said of ${missing.join(', ')}. Give an empty list for "nowhere".` }]
      : []),
  ];
}

function checkSplits(
  instrument: string,
  splits: readonly string[] | null,
  pairs: readonly string[],
): ReadingProblem[] {
  if (splits === null) return [];
  if (instrument !== 'coded-mapper-crosstalk') {
    return [
      {
        path: ['splits'],
        message: `A ${instrument} cannot see split pairs: give null, or name the mapper that measures crosstalk.`,
      },
    ];
  }
  return splits
    .filter((pair) => !pairs.includes(pair))
    .map((pair) => ({
      path: ['splits'],
      message: `${pair} is not a contact pair of this link. They are ${pairs.join(', ')}.`,
    }));
}
