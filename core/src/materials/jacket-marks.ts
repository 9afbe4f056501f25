import { cableLengthToM } from '../quantities/length.js';

/** In what a cable's jacket is marked along its length. */
export type MarkUnit = 'm' | 'ft';

/** A length between two marks, with the half width of its 95 % interval, metres. */
export interface MarkedLength {
  lengthM: number;
  u95M: number;
  /** The counter went over its last figure between the two. */
  wentOver: boolean;
}

/** Marks that no length can be told from, in words. */
export class BadMarks extends Error {}

/** Marks are printed to this share (typical), and each is read to half of what it counts. */
const PRINTED_U95 = 0.01;
const READ_U95 = 0.5;
const MARK = /^(\d{1,6})(?:[.,](\d))?\s*(m|ft|')?$/i;
/** A counter of fewer figures is one whose leading ones were left out. */
const LEAST_FIGURES = 4;

/**
 * The length between two marks of one jacket. They may count up or down; two of four figures or more go over from 9999
 * to 0000, and the shorter way is meant, for no box holds half of what a counter counts.
 *
 * @throws BadMarks for what is no mark, for marks of two units, and for one mark twice
 */
export function lengthByMarks(first: string, second: string, unit: MarkUnit): MarkedLength {
  const [a, b] = [readMark(first, unit), readMark(second, unit)];
  const straight = Math.abs(a.value - b.value);
  const counts = a.figures === b.figures && a.figures >= LEAST_FIGURES ? 10 ** a.figures : Infinity;
  const wentOver = counts - straight < straight;
  const counted = wentOver ? counts - straight : straight;
  if (counted === 0) throw new BadMarks('Both marks are the same: read the one at the other end.');
  const inM = unit === 'ft' ? cableLengthToM(1, 'imperial') : 1;
  const lengthM = counted * inM;
  return { lengthM, u95M: Math.hypot(PRINTED_U95 * lengthM, READ_U95 * inM, READ_U95 * inM), wentOver };
}

function readMark(text: string, unit: MarkUnit): { value: number; figures: number } {
  const read = MARK.exec(text.trim());
  if (!read) throw new BadMarks(`"${text.trim()}" is no mark: write its figures, as 1342.`);
  const [, whole = '', tenth = '0', said] = read;
  const told = said === undefined ? unit : said.toLowerCase() === 'm' ? 'm' : 'ft';
  if (told !== unit) throw new BadMarks(`One mark is in ${told}, and the jacket is marked in ${unit}.`);
  return { value: Number(`${whole}.${tenth}`), figures: whole.length };
}
