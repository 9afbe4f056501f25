import type { EchoEvent, InstrumentClass, LinkEnd, Reading } from '@near-spoke/core';
import { reading as readingSchema } from './readings.js';

/**
 * The text protocol between the application and an instrument (docs/instrument-protocol.md).
 * Lines of UTF-8 ended by LF; one request at a time; every answer ends in `DONE n`, n being the
 * number of lines before it, or in `ERROR code words`.
 */
export const PROTOCOL_GREETING = 'NEAR-SPOKE-INSTRUMENT 1';
export const MAX_LINE_BYTES = 1024;
export const MAX_ANSWER_LINES = 500;

export type ProtocolErrorCode =
  'unknown-command' | 'unknown-class' | 'unknown-link' | 'bad-argument' | 'line-too-long';

/** An answer that is not as the protocol says. */
export class ProtocolError extends Error {}

/** A reading as answer lines, without the closing `DONE`. */
export function encodeReading(reading: Reading): string[] {
  switch (reading.instrument) {
    case 'lamp-pairs':
      return [
        'READING lamp-pairs near',
        ...Object.entries(reading.lamps).map(([pair, lit]) => `LAMP ${pair} ${lit ? 'lit' : 'dark'}`),
      ];
    case 'eye':
      return [
        `READING eye ${reading.end}`,
        ...Object.entries(reading.colours).map(([c, colour]) => `COLOUR ${c} ${colour ?? '-'}`),
      ];
    case 'pair-reflectometer':
      return [
        `READING pair-reflectometer ${reading.from}`,
        ...Object.entries(reading.pairs).flatMap(([pair, events]) =>
          events.map((e) => `ECHO ${pair} ${e.kind} ${e.distanceM.toFixed(1)}`),
        ),
      ];
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

const names = (words: readonly string[]): string[] =>
  words.length === 1 && words[0] === '-' ? [] : [...words];

/**
 * Reads answer lines (without `DONE`) into a reading.
 * @throws ProtocolError naming the line that makes no sense.
 */
export function decodeReading(lines: readonly string[]): Reading {
  const [head, ...rest] = lines;
  const [word, instrument, end] = (head ?? '').split(' ');
  if (word !== 'READING' || !instrument)
    throw new ProtocolError(`The answer begins with "${head ?? ''}", not with READING.`);
  const draft = {
    arrivals: {} as Record<string, string[]>,
    joins: [] as string[][],
    splits: null as string[] | null,
    lamps: {} as Record<string, boolean>,
    pairs: {} as Record<string, EchoEvent[]>,
    colours: {} as Record<string, string | null>,
  };
  for (const line of rest) decodeLine(line, draft);
  const fields: Record<string, unknown> =
    instrument === 'lamp-pairs'
      ? { lamps: draft.lamps }
      : instrument === 'eye'
        ? { end, colours: draft.colours }
        : instrument === 'pair-reflectometer'
          ? { from: end, pairs: draft.pairs }
          : { arrivals: draft.arrivals, joins: draft.joins, splits: draft.splits };
  const parsed = readingSchema.safeParse({ instrument: instrument as InstrumentClass, ...fields });
  if (!parsed.success)
    throw new ProtocolError(`The answer is no complete reading: ${parsed.error.issues[0]?.message}`);
  return parsed.data;
}

function decodeLine(
  line: string,
  draft: {
    arrivals: Record<string, string[]>;
    joins: string[][];
    splits: string[] | null;
    lamps: Record<string, boolean>;
    pairs: Record<string, EchoEvent[]>;
    colours: Record<string, string | null>;
  },
): void {
  const [word, subject, ...values] = line.split(' ');
  const nonsense = (): ProtocolError => new ProtocolError(`The line "${line}" makes no sense.`);
  if (!subject) throw nonsense();
  switch (word) {
    case 'ARRIVES':
      if (subject in draft.arrivals || values.length === 0) throw nonsense();
      draft.arrivals[subject] = names(values);
      return;
    case 'JOINED':
      draft.joins.push([subject, ...values]);
      return;
    case 'SPLITS':
      draft.splits = subject === 'unseen' ? null : names([subject, ...values]);
      return;
    case 'LAMP':
      if (values[0] !== 'lit' && values[0] !== 'dark') throw nonsense();
      draft.lamps[subject] = values[0] === 'lit';
      return;
    case 'COLOUR':
      draft.colours[subject] = values[0] === undefined || values[0] === '-' ? null : values[0];
      return;
    case 'ECHO': {
      const [kind, distance] = values;
      const distanceM = Number(distance);
      if (!kind || distance === undefined || !Number.isFinite(distanceM)) throw nonsense();
      (draft.pairs[subject] ??= []).push({ kind: kind as EchoEvent['kind'], distanceM });
      return;
    }
    default:
      throw nonsense();
  }
}

/** The request for a reading. */
export const readCommand = (instrument: InstrumentClass, end: LinkEnd, linkId: string): string =>
  `READ ${instrument} ${end} ${linkId}`;
