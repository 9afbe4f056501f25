import { typedNumber } from '../quantities/typed-number.js';
import type { Pin, PinKind } from './design.js';

/** What is wrong with a line of a table, and what to do. */
export interface TableProblem {
  /** Counted from 1. */
  line: number;
  words: string;
}

/** Words by which sheets tell what a contact does; the first that a cell begins with counts. */
const KIND_WORDS: readonly (readonly [PinKind, readonly string[]])[] = [
  ['supply-out', ['supply-out', 'supply out', 'power out', 'pwr out', 'so']],
  ['supply-in', ['supply-in', 'supply in', 'power in', 'pwr in', 'power', 'pwr', 'supply', 'si']],
  ['not-connected', ['not-connected', 'not connected', 'n/c', 'nc', 'no connection', 'unused']],
  ['open-collector', ['open-collector', 'open collector', 'open drain', 'oc', 'od']],
  ['both', ['both', 'in/out', 'i/o', 'io', 'bidirectional', 'bidi']],
  ['ground', ['ground', 'gnd', 'g', '0 v', '0v', 'return']],
  ['shield', ['shield', 'screen', 'sh', 'drain', 'chassis']],
  ['video', ['video']],
  ['audio', ['audio', 'speech', 'microphone', 'speaker']],
  ['reserved', ['reserved', 'rsvd', 'do not connect', 'dnc']],
  ['input', ['input', 'in', 'i']],
  ['output', ['output', 'out', 'o']],
];
/** Contacts of a phone plug as sheets write them out, and as its face names them. */
const PHONE_CONTACTS: Readonly<Record<string, string>> = {
  TIP: 'T',
  RING: 'R',
  RING1: 'R1',
  RING2: 'R2',
  SLEEVE: 'S',
};
/** Signals that do the same everywhere. */
const SIGNAL_KINDS: Readonly<Record<string, PinKind>> = {
  GND: 'ground',
  GROUND: 'ground',
  SG: 'ground',
  '0V': 'ground',
  COMMON: 'ground',
  SHIELD: 'shield',
  SCREEN: 'shield',
  NC: 'not-connected',
  'N/C': 'not-connected',
};

/** What a signal does that does the same everywhere; null for any other. */
export const kindOfSignal = (signal: string): PinKind | null =>
  SIGNAL_KINDS[signal.trim().toUpperCase()] ?? null;

/** What a cell says a contact does; null where it says nothing that is known. */
export function kindFrom(cell: string): PinKind | null {
  const said = cell.trim().toLowerCase();
  return KIND_WORDS.find(([, words]) => words.includes(said))?.[0] ?? null;
}

const DASHES = /^(?<from>-?\d+(?:[.,]\d+)?)\s*(?:to|\.\.|…|–|-)\s*(?<to>-?\d+(?:[.,]\d+)?)\s*v?$/i;

/** Volts as "5", "5 V", "4.5 to 5.5"; null where it is neither. */
export function voltsFrom(cell: string): readonly [number, number] | null {
  const two = DASHES.exec(cell.trim())?.groups;
  const [from, to] = two
    ? [typedNumber(two['from'] ?? ''), typedNumber(two['to'] ?? '')]
    : [typedNumber(cell.replace(/\s*v$/i, '')), typedNumber(cell.replace(/\s*v$/i, ''))];
  return Number.isFinite(from) && Number.isFinite(to) && cell.trim() !== '' && from <= to ? [from, to] : null;
}

/**
 * A pinout as it is pasted from a sheet: a line per contact with its number, its signal, what it
 * does, and volts for a supply, parted by tabs, semicolons, bars, commas or two blanks. A heading is
 * passed over. Nothing is guessed of a signal that means more than one thing.
 *
 * @returns pins, and what is wrong by line; with a problem the pins are not to be taken
 */
export function readPinout(text: string): { pins: Pin[]; problems: TableProblem[] } {
  const pins: Pin[] = [];
  const problems: TableProblem[] = [];
  text.split(/\r?\n/).forEach((row, n) => {
    if (row.trim() === '') return;
    const line = n + 1;
    const cells = cellsOf(row);
    const [written = '', signal = '', does = '', volts = ''] = cells;
    const contact = PHONE_CONTACTS[written.toUpperCase().replace(' ', '')] ?? written;
    if (pins.length === 0 && problems.length === 0 && /^(pin|contact|no\.?|#|nr\.?)$/i.test(contact)) return;
    const trouble = (words: string): void => {
      problems.push({ line, words });
    };
    if (cells.length < 2)
      return trouble(`"${row.trim()}" has no second column: write contact, signal, what it does.`);
    if (!/^[A-Za-z0-9+-]{1,6}$/.test(contact))
      return trouble(`"${contact}" is no contact: a number or a short name comes first.`);
    if (pins.some((pin) => pin.contact === contact)) return trouble(`Contact ${contact} stands twice.`);
    const kind = does === '' ? kindOfSignal(signal) : kindFrom(does);
    if (kind === null)
      return trouble(
        does === ''
          ? `What does ${signal} do? Add in, out, both, open collector, supply in, supply out, ground or NC.`
          : `"${does}" is not known: write in, out, both, open collector, supply in, supply out, ground, shield, video, audio, reserved or NC.`,
      );
    const range = volts === '' ? null : voltsFrom(volts);
    if (volts !== '' && range === null) return trouble(`"${volts}" are no volts: write 5 or 4.5 to 5.5.`);
    pins.push(plainPin(contact, signal, kind, range));
  });
  if (pins.length === 0 && problems.length === 0)
    problems.push({ line: 1, words: 'There is nothing to read: paste a line per contact.' });
  return { pins, problems };
}

const cellsOf = (row: string): string[] => {
  const by = [/\t/, /;/, /\|/, /,(?!\d)/].find((sign) => sign.test(row)) ?? /\s{2,}/;
  const cells = row.split(by).map((cell) => cell.trim());
  // Bars at both edges of a table are no cells.
  const trimmed = cells[0] === '' ? cells.slice(1) : cells;
  return trimmed.length > 1 ? trimmed : row.trim().split(/\s+/);
};

/** A pin that says no more than its contact, its signal and what it does. */
export const plainPin = (
  contact: string,
  signal: string,
  kind: PinKind,
  volts: Pin['volts'] = null,
): Pin => ({
  contact,
  signal,
  kind,
  levels: null,
  volts: kind === 'supply-in' || kind === 'supply-out' ? volts : null,
  currentA: null,
  needed: false,
  pullUp: false,
  together: null,
  source: 'sheet',
});
