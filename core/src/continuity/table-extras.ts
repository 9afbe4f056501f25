import { cableLengthToM } from '../quantities/length.js';
import { checkReading } from './check-reading.js';
import { contactPairsAt, intendedLink, intendedMap, type LinkExpectation } from './expectation.js';
import {
  closeMap,
  isMapReading,
  type EchoReading,
  type MapReading,
  type Reading,
  type Touch,
} from './readings.js';

/** Columns beside the map that an instrument's table may have. */
export interface ExtraColumns {
  /** Length of a pair, by its contacts ("1-2"). */
  lengths: Readonly<Record<string, number>>;
  lengthUnit: 'metric' | 'imperial';
  /** Loop resistance of a pair, the far end joined. */
  ohms: Readonly<Record<string, number>>;
  /** Pass or fail as the instrument marked it, and by which limit. */
  mark: number | null;
  limit: number | null;
}

export const NO_EXTRAS: ExtraColumns = {
  lengths: {},
  lengthUnit: 'metric',
  ohms: {},
  mark: null,
  limit: null,
};

/** What a row says beside its map: further readings, and words for the note. */
export interface Extras {
  more: Reading[];
  said: string;
}

const PAIR = /(\d+)\s*[-/,]\s*(\d+)/;
/** What an instrument says of a length is good to this share and so many metres: its velocity is a guess of somebody's. */
const LENGTH_SHARE = 0.03;
const LENGTH_LEAST_M = 0.5;
const PASSED: readonly string[] = ['pass', 'passed', 'ok', 'good', 'p', 'yes', '✓'];
const FAILED: readonly string[] = ['fail', 'failed', 'bad', 'f', 'no', 'x', '✗'];
const NONE: readonly string[] = ['', '-', 'n/a', 'na', 'none'];

/** Guesses which columns hold lengths, resistances, marks and limits, by their heads. */
export function extraColumns(header: readonly string[]): ExtraColumns {
  const lengths: Record<string, number> = {};
  const ohms: Record<string, number> = {};
  let mark: number | null = null;
  let limit: number | null = null;
  let lengthUnit: ExtraColumns['lengthUnit'] = 'metric';
  header.forEach((name, at) => {
    const word = name.trim().toLowerCase();
    const pair = PAIR.exec(word);
    const key = pair ? `${pair[1]}-${pair[2]}` : null;
    if (key && /\b(?:len(?:gth)?|distance)\b/.test(word)) {
      lengths[key] = at;
      if (/\b(?:ft|feet|foot)\b/.test(word)) lengthUnit = 'imperial';
    } else if (key && /\b(?:res(?:istance)?|ohms?|loop|dcr?)\b|Ω/.test(word)) ohms[key] = at;
    else if (/^(?:result|status|verdict|pass ?\/ ?fail|outcome|mark)$/.test(word)) mark ??= at;
    else if (/^(?:test )?(?:limits?|standard|autotest)(?: used)?$/.test(word)) limit ??= at;
  });
  return { lengths, lengthUnit, ohms, mark, limit };
}

/**
 * What a row says beside its map. Lengths of pairs that the map shows open or short are echoes from there; those of sound pairs are
 * noted, for a remote hangs at their ends and nothing is open; loop resistances are an ohmmeter's, the far end
 * joined; marks and limits are kept as they stand. A mark that contradicts a right map is no pass: what failed is not known.
 *
 * @returns or, as words, what of it cannot be
 */
export function extrasOf(
  cells: readonly string[],
  columns: ExtraColumns,
  reading: Reading,
  expected: LinkExpectation,
): Extras | string {
  const cell = (at: number | null | undefined): string => (at == null ? '' : (cells[at] ?? '').trim());
  const more: Reading[] = [];
  const echoes = lengthsOf(cell, columns, reading, expected);
  if (typeof echoes === 'string') return echoes;
  if (echoes.reading) more.push(echoes.reading);
  const touches = loopsOf(cell, columns, expected);
  if (typeof touches === 'string') return touches;
  if (touches.length > 0) more.push({ instrument: 'ohmmeter', touches });
  for (const one of more) {
    const [problem] = checkReading(expected, one);
    if (problem) return problem.message;
  }
  const [mark, limit] = [cell(columns.mark), cell(columns.limit)];
  const failed = FAILED.includes(mark.toLowerCase());
  if (failed && isMapReading(reading) && isAsMeant(reading, expected))
    return 'The file marks it FAIL and its map is right: what failed stands in none of these columns. Read it again before it counts.';
  const said = [
    ...(mark === ''
      ? []
      : [`marked ${failed ? 'FAIL' : PASSED.includes(mark.toLowerCase()) ? 'PASS' : mark}`]),
    ...(NONE.includes(limit.toLowerCase()) ? [] : [`by the limit ${limit}`]),
  ];
  return { more, said: [echoes.said, said.join(' ')].filter(Boolean).join(', ') };
}

function lengthsOf(
  cell: (at: number | undefined) => string,
  { lengths, lengthUnit }: ExtraColumns,
  reading: Reading,
  expected: LinkExpectation,
): { reading: EchoReading | null; said: string } | string {
  const sound: string[] = [];
  const pairs: Record<string, EchoReading['pairs'][string]> = {};
  const joined = isMapReading(reading) ? closeMap(reading).joins : [];
  for (const pair of pairsOf(expected)) {
    const text = cell(lengths[pair]);
    if (NONE.includes(text.toLowerCase())) continue;
    const figure = figureIn(text);
    if (figure === null || figure.value <= 0) return `Length of ${pair}: "${text}" is no length.`;
    const system = figure.unit === 'ft' ? 'imperial' : figure.unit === 'm' ? 'metric' : lengthUnit;
    const distanceM = Math.round(cableLengthToM(figure.value, system) * 100) / 100;
    const isShort = joined.some((group) => pair.split('-').every((contact) => group.includes(contact)));
    const isOpen =
      isMapReading(reading) && pair.split('-').some((contact) => reading.arrivals[contact]?.length === 0);
    if (!isShort && !isOpen) {
      sound.push(`${pair} ${distanceM} m`);
      continue;
    }
    const uM = Math.round((LENGTH_LEAST_M + LENGTH_SHARE * distanceM) * 100) / 100;
    pairs[pair] = [{ kind: isShort ? 'short' : 'open', distanceM, uM }];
  }
  const said = sound.length > 0 ? `lengths ${sound.join(', ')}` : '';
  const echoes: EchoReading = { instrument: 'pair-reflectometer', from: 'near', pairs };
  return { reading: Object.keys(pairs).length > 0 ? echoes : null, said };
}

function loopsOf(
  cell: (at: number | undefined) => string,
  { ohms }: ExtraColumns,
  expected: LinkExpectation,
): Touch[] | string {
  const meant = intendedMap(expected);
  const touches: Touch[] = [];
  for (const pair of pairsOf(expected)) {
    const text = cell(ohms[pair]);
    if (NONE.includes(text.toLowerCase())) continue;
    const [a = '', b = ''] = pair.split('-');
    const far = [meant[a], meant[b]].flatMap((contact) => contact ?? []);
    const open = /^(?:open|ol|o\.l\.?|inf(?:inite)?|∞)$/i.test(text);
    const figure = open ? null : figureIn(text);
    if (!open && (figure === null || figure.value < 0))
      return `Resistance of ${pair}: "${text}" is no resistance.`;
    touches.push({
      from: { end: 'near', contacts: [a] },
      to: { end: 'near', contacts: [b] },
      joined: [{ end: 'far', contacts: far }],
      closed: !open,
      ohm: figure === null ? null : figure.value * (figure.unit === 'kohm' ? 1000 : 1),
    });
  }
  return touches;
}

const pairsOf = (expected: LinkExpectation): string[] => {
  const link = intendedLink(expected);
  return contactPairsAt(link, link.near).map((contacts) => contacts.join('-'));
};

/** A figure with its unit, a comma for a point where that is how it is written. */
function figureIn(text: string): { value: number; unit: string } | null {
  const match = /^(-?\d+(?:[.,]\d+)?)\s*(m|ft|'|ohms?|Ω|kohm|kΩ)?$/i.exec(text);
  if (!match) return null;
  const unit = (match[2] ?? '').toLowerCase();
  return {
    value: Number((match[1] ?? '').replace(',', '.')),
    unit: unit === "'" ? 'ft' : unit === 'kω' ? 'kohm' : unit,
  };
}

function isAsMeant({ arrivals, joins, splits }: MapReading, expected: LinkExpectation): boolean {
  const meant = intendedMap(expected);
  return (
    joins.length === 0 &&
    (splits ?? []).length === 0 &&
    Object.entries(arrivals).every(([near, far]) => {
      const wanted = meant[near];
      return wanted === undefined ? far.length === 0 : far.length === 1 && far[0] === wanted;
    })
  );
}
