import type { ContactId } from '../cabling/schemes.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { contactPairsOf } from './observers.js';
import { isMapReading, type Reading } from './readings.js';

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
  const contacts = Object.keys(intended.near);
  if (isMapReading(reading)) {
    return [
      ...checkContacts(contacts, Object.keys(reading.arrivals), ['arrivals']),
      ...Object.entries(reading.arrivals).flatMap(([near, reached]) =>
        unknownContacts(contacts, reached, ['arrivals', near]),
      ),
      ...reading.joins.flatMap((group, i) => unknownContacts(contacts, group, ['joins', i])),
      ...checkSplits(
        reading.instrument,
        reading.splits,
        contactPairsOf(intended).map((p) => p.join('-')),
      ),
    ];
  }
  if (reading.instrument === 'eye') {
    const known = new Set(intended.conductors.map((w) => w.id));
    return [
      ...checkContacts(contacts, Object.keys(reading.colours), ['colours']),
      ...Object.entries(reading.colours).flatMap(([contact, colour]) =>
        colour === null || known.has(colour)
          ? []
          : [
              {
                path: ['colours', contact],
                message: `This cable has no ${colour} conductor. Its conductors are ${[...known].join(', ')}.`,
              },
            ],
      ),
    ];
  }
  const pairs = contactPairsOf(intended).map((p) => p.join('-'));
  const [field, values] =
    reading.instrument === 'lamp-pairs'
      ? (['lamps', reading.lamps] as const)
      : (['pairs', reading.pairs] as const);
  return checkContacts(pairs, Object.keys(values), [field]);
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
