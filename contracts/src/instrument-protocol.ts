import {
  isUnread,
  type ContactGroup,
  type EchoEvent,
  type InstrumentClass,
  type LinkEnd,
  type Reading,
  type Touch,
} from '@near-spoke/core';
import { firstError } from './problems.js';
import { reading as readingSchema } from './readings.js';

/**
 * The text protocol between the application and an instrument (docs/instrument-protocol.md).
 * Lines of UTF-8 ended by LF; one request at a time; every answer ends in `DONE n`, n being the
 * number of lines before it, or in `ERROR code words`.
 */
export const PROTOCOL_GREETING = 'NEAR-SPOKE-INSTRUMENT 1';
export const MAX_LINE_BYTES = 4096;
export const MAX_ANSWER_LINES = 500;

export type ProtocolErrorCode =
  'unknown-command' | 'unknown-class' | 'unknown-link' | 'bad-argument' | 'line-too-long' | 'not-kept';

/** An answer that is not as the protocol says. */
export class ProtocolError extends Error {}

/** A reading as answer lines, without the closing `DONE`. */
export function encodeReading(reading: Reading): string[] {
  switch (reading.instrument) {
    case 'lamp-pairs':
    case 'lamps-one-return':
      return [
        `READING ${reading.instrument} near`,
        ...Object.entries(reading.lamps).map(([pair, lit]) => `LAMP ${pair} ${lit ? 'lit' : 'dark'}`),
      ];
    case 'eye':
      return [
        `READING eye ${reading.end}`,
        ...Object.entries(reading.colours).map(
          ([c, colour]) => `COLOUR ${c} ${colour ?? (isUnread(reading, c) ? '-' : 'empty')}`,
        ),
      ];
    case 'pair-reflectometer':
      return [
        `READING pair-reflectometer ${reading.from}`,
        ...Object.entries(reading.pairs).flatMap(([pair, events]) =>
          events.map((e) => `ECHO ${pair} ${e.kind} ${e.distanceM.toFixed(1)}`),
        ),
      ];
    case 'beeper':
    case 'ohmmeter':
      return [`READING ${reading.instrument} near`, ...reading.touches.map(encodeTouch)];
    case 'tone-probe':
      return [
        `READING tone-probe ${reading.end}`,
        ...reading.tones.map(({ on, heard }) => `TONE ${gang(on)} ${gang(heard)}`),
      ];
    case 'dc-voltage': {
      const { end, feed, across } = reading;
      return [
        `READING dc-voltage ${end}`,
        `FEED ${feed.contacts.join(' ')} ${feed.volts}`,
        ...across.map(({ contacts, volts }) => `VOLTS ${contacts.join(' ')} ${volts}`),
      ];
    }
    case 'power-tester': {
      const { end, feeds, sets, volts, offers } = reading;
      const told = [
        volts === undefined ? '' : ` volts=${volts}`,
        offers === undefined ? '' : ` offers=${offers}`,
      ];
      return [
        `READING power-tester ${end}`,
        `SUPPLY ${feeds ?? 'unknown'}${told.join('')}`,
        `SET a ${sets.a}`,
        `SET b ${sets.b}`,
      ];
    }
    case 'capacitance-meter':
      return [
        `READING capacitance-meter ${reading.end}`,
        ...Object.entries(reading.nF).map(([pair, nF]) => `FARADS ${pair} ${nF ?? '-'}`),
      ];
    case 'wiggle':
      return [`READING wiggle ${reading.end}`, ...reading.flickers.map((contact) => `FLICKER ${contact}`)];
    default:
      return [
        `READING ${reading.instrument} near`,
        ...Object.entries(reading.arrivals).map(
          ([near, far]) => `ARRIVES ${near} ${far.length > 0 ? far.join(' ') : '-'}`,
        ),
        ...reading.joins.map((group) => `JOINED ${group.join(' ')}`),
        `SPLITS ${reading.splits === null ? 'unseen' : reading.splits.join(' ') || '-'}`,
      ];
  }
}

const gang = (contacts: readonly string[]): string => contacts.join('+') || '-';
const group = ({ end, contacts }: ContactGroup): string => `${end}:${gang(contacts)}`;

function encodeTouch({ from, to, joined, closed, ohm }: Touch): string {
  const clips = (joined ?? []).map((g) => ` joined=${group(g)}`).join('');
  return `TOUCH ${group(from)} ${group(to)} ${closed ? 'closed' : 'open'}${ohm == null ? '' : ` ohm=${ohm}`}${clips}`;
}

const names = (words: readonly string[]): string[] =>
  words.length === 1 && words[0] === '-' ? [] : [...words];
const ganged = (word: string): string[] => names(word.split('+'));

/** A reading as it comes in, line by line. */
interface Draft {
  arrivals: Record<string, string[]>;
  joins: string[][];
  splits: string[] | null;
  lamps: Record<string, boolean>;
  pairs: Record<string, EchoEvent[]>;
  colours: Record<string, string | null>;
  empty: string[];
  touches: unknown[];
  tones: { on: string[]; heard: string[] }[];
  feed: unknown;
  across: unknown[];
  supply: object;
  sets: Record<string, string>;
  nF: Record<string, number | null>;
  flickers: string[];
}

/** The fields each class takes from what came in. */
const FIELDS: Readonly<Record<InstrumentClass, (draft: Draft, end: string | undefined) => object>> = {
  'lamp-pairs': ({ lamps }) => ({ lamps }),
  'lamps-one-return': ({ lamps }) => ({ lamps }),
  'stepping-lamps': ({ arrivals, joins, splits }) => ({ arrivals, joins, splits }),
  'coded-mapper': ({ arrivals, joins, splits }) => ({ arrivals, joins, splits }),
  'coded-mapper-crosstalk': ({ arrivals, joins, splits }) => ({ arrivals, joins, splits }),
  beeper: ({ touches }) => ({ touches }),
  ohmmeter: ({ touches }) => ({ touches }),
  'pair-reflectometer': ({ pairs }, end) => ({ from: end, pairs }),
  'tone-probe': ({ tones }, end) => ({ end, tones }),
  'dc-voltage': ({ feed, across }, end) => ({ end, feed, across }),
  'power-tester': ({ supply, sets }, end) => ({ end, ...supply, sets }),
  'capacitance-meter': ({ nF }, end) => ({ end, nF }),
  wiggle: ({ flickers }, end) => ({ end, flickers }),
  eye: ({ colours, empty }, end) => ({ end, colours, ...(empty.length > 0 ? { empty } : {}) }),
};

/**
 * Reads answer lines (without `DONE`) into a reading.
 * @throws ProtocolError naming the line that makes no sense.
 */
export function decodeReading(lines: readonly string[]): Reading {
  const [head, ...rest] = lines;
  const [word, instrument, end] = (head ?? '').split(' ');
  if (word !== 'READING' || !instrument)
    throw new ProtocolError(`The answer begins with "${head ?? ''}", not with READING.`);
  if (!Object.hasOwn(FIELDS, instrument))
    throw new ProtocolError(`There is no instrument class ${instrument}.`);
  const draft: Draft = {
    arrivals: {},
    joins: [],
    splits: null,
    lamps: {},
    pairs: {},
    colours: {},
    empty: [],
    touches: [],
    tones: [],
    feed: undefined,
    across: [],
    supply: {},
    sets: {},
    nF: {},
    flickers: [],
  };
  for (const line of rest) decodeLine(line, draft);
  const fields = FIELDS[instrument as InstrumentClass](draft, end);
  const parsed = readingSchema.safeParse({ instrument: instrument as InstrumentClass, ...fields });
  if (!parsed.success)
    throw new ProtocolError(`The answer is no complete reading: ${firstError(parsed.error)}`);
  return parsed.data;
}

const nonsense = (line: string): ProtocolError => new ProtocolError(`The line "${line}" makes no sense.`);

/** What each line of a reading adds to it. */
const LINES: Readonly<Record<string, (draft: Draft, words: readonly string[], line: string) => void>> = {
  ARRIVES(draft, [subject = '', ...values], line) {
    if (subject in draft.arrivals || values.length === 0) throw nonsense(line);
    draft.arrivals[subject] = names(values);
  },
  JOINED: (draft, words) => void draft.joins.push([...words]),
  SPLITS(draft, words) {
    draft.splits = words[0] === 'unseen' ? null : names(words);
  },
  LAMP(draft, [subject = '', state], line) {
    if (state !== 'lit' && state !== 'dark') throw nonsense(line);
    draft.lamps[subject] = state === 'lit';
  },
  COLOUR(draft, [subject = '', colour]) {
    if (colour === 'empty') draft.empty.push(subject);
    draft.colours[subject] = colour === undefined || colour === '-' || colour === 'empty' ? null : colour;
  },
  ECHO(draft, [subject = '', kind, distance], line) {
    if (!kind) throw nonsense(line);
    (draft.pairs[subject] ??= []).push({
      kind: kind as EchoEvent['kind'],
      distanceM: figure(distance, line),
    });
  },
  TOUCH(draft, [from = '', to = '', state, ...more], line) {
    if (state !== 'closed' && state !== 'open') throw nonsense(line);
    const contactGroup = (word: string): unknown => {
      const [end, contacts = ''] = word.split(':');
      return { end, contacts: ganged(contacts) };
    };
    const joined = more.filter((w) => w.startsWith('joined=')).map((w) => contactGroup(w.slice(7)));
    const ohm = more.find((w) => w.startsWith('ohm='));
    draft.touches.push({
      from: contactGroup(from),
      to: contactGroup(to),
      closed: state === 'closed',
      ...(ohm === undefined ? {} : { ohm: figure(ohm.slice(4), line) }),
      ...(joined.length > 0 ? { joined } : {}),
    });
  },
  TONE(draft, [on = '', heard], line) {
    if (heard === undefined) throw nonsense(line);
    draft.tones.push({ on: ganged(on), heard: ganged(heard) });
  },
  FEED(draft, [plus, minus, volts], line) {
    draft.feed = { contacts: [plus, minus], volts: figure(volts, line) };
  },
  VOLTS(draft, [plus, minus, volts], line) {
    draft.across.push({ contacts: [plus, minus], volts: figure(volts, line) });
  },
  SUPPLY(draft, [feeds, ...more], line) {
    const told = (name: string): string | undefined =>
      more.find((word) => word.startsWith(`${name}=`))?.slice(name.length + 1);
    const [volts, offers] = [told('volts'), told('offers')];
    draft.supply = {
      feeds: feeds === 'unknown' ? null : feeds,
      ...(volts === undefined ? {} : { volts: figure(volts, line) }),
      ...(offers === undefined ? {} : { offers }),
    };
  },
  SET(draft, [set = '', shows], line) {
    if (shows === undefined || set in draft.sets) throw nonsense(line);
    draft.sets[set] = shows;
  },
  FARADS(draft, [pair = '', nF], line) {
    if (nF === undefined || pair in draft.nF) throw nonsense(line);
    draft.nF[pair] = nF === '-' ? null : figure(nF, line);
  },
  FLICKER: (draft, [contact = '']) => void draft.flickers.push(contact),
};

function figure(word: string | undefined, line: string): number {
  const value = Number(word);
  if (word === undefined || word === '' || !Number.isFinite(value)) throw nonsense(line);
  return value;
}

function decodeLine(line: string, draft: Draft): void {
  const [word = '', ...words] = line.split(' ');
  const add = Object.hasOwn(LINES, word) ? LINES[word] : undefined;
  if (!add || !words[0]) throw nonsense(line);
  add(draft, words, line);
}

/** The request for a reading. */
export const readCommand = (
  instrument: InstrumentClass,
  end: LinkEnd,
  linkId: string,
  plan?: Reading,
): string => `READ ${instrument} ${end} ${linkId}${plan ? ` ${JSON.stringify(plan)}` : ''}`;
