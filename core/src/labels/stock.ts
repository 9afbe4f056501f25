/** How a label is put on. */
export type LabelKind =
  /** Stuck flat: a faceplate, a panel, a box. */
  | 'flat'
  /** Round the cable: the part that is written on, then a clear tail that comes to lie over it. */
  | 'wrap'
  /** Round the cable and onto itself: it stands off like a flag, written on both sides. */
  | 'flag'
  /** A strip along a panel's ports, cut in one piece. */
  | 'strip';

/** Labels on a sheet of paper: from its upper left corner, label to label. */
export interface LabelSheet {
  paperWidthMm: number;
  paperHeightMm: number;
  columns: number;
  rows: number;
  leftMm: number;
  topMm: number;
  pitchXMm: number;
  pitchYMm: number;
}

/** What labels are printed on, by its measures alone. */
export interface LabelStock {
  id: string;
  name: string;
  kind: LabelKind;
  /** Along the writing; for a strip one port's share. */
  widthMm: number;
  /** Across the writing: for a wrap-around all of it, clear tail included. */
  heightMm: number;
  /** Wrap-around: the part at the top that is written on. Flag: the part in the middle that goes round the cable. */
  partMm: number;
  /** Null for a roll: one label a page. */
  sheet: LabelSheet | null;
}

/** The cables that a label goes round as it should. */
export interface CableRange {
  leastMm: number;
  mostMm: number;
}

/** What a flag's two halves may miss each other by, and a wrap-around's tail lie over its own beginning, at least. */
const OVERLAP_MM = 2;

/**
 * Which cables a label fits, over their jackets. A wrap-around's written part must not meet itself (its length is at
 * most the way round), and the clear tail must come to lie over all of it: once round and on. A flag's middle goes round
 * and what is left of it still sticks to itself. Null where the label goes round no cable.
 */
export function cableRange({ kind, heightMm, partMm }: LabelStock): CableRange | null {
  if (kind === 'wrap')
    return {
      leastMm: partMm / Math.PI,
      mostMm: Math.max(0, (heightMm - partMm - OVERLAP_MM) / Math.PI),
    };
  if (kind === 'flag') return { leastMm: 0, mostMm: partMm / Math.PI };
  return null;
}

/** Something about a stock's measures that cannot be, by field. */
export interface StockProblem {
  field: keyof LabelStock | keyof LabelSheet;
  message: string;
}

/** What cannot be so about a stock's measures; empty where all can. */
export function stockProblems(stock: LabelStock): StockProblem[] {
  const problems: StockProblem[] = [];
  const { kind, widthMm, heightMm, partMm, sheet } = stock;
  if (kind === 'wrap' && partMm >= heightMm)
    problems.push({
      field: 'partMm',
      message: 'The written part leaves no clear tail: make it less than the height.',
    });
  if (kind === 'flag' && partMm >= widthMm)
    problems.push({ field: 'partMm', message: 'The middle leaves no flag: make it less than the width.' });
  if ((kind === 'wrap' || kind === 'flag') && partMm <= 0)
    problems.push({ field: 'partMm', message: 'Give the part that is written on, or goes round the cable.' });
  if (!sheet) return problems;
  const right = sheet.leftMm + (sheet.columns - 1) * sheet.pitchXMm + widthMm;
  const bottom = sheet.topMm + (sheet.rows - 1) * sheet.pitchYMm + heightMm;
  const SLACK = 0.05;
  if (right > sheet.paperWidthMm + SLACK)
    problems.push({
      field: 'columns',
      message: `The last column ends at ${right.toFixed(1)} mm, the paper at ${sheet.paperWidthMm.toFixed(1)} mm.`,
    });
  if (bottom > sheet.paperHeightMm + SLACK)
    problems.push({
      field: 'rows',
      message: `The last row ends at ${bottom.toFixed(1)} mm, the paper at ${sheet.paperHeightMm.toFixed(1)} mm.`,
    });
  if (sheet.columns > 1 && sheet.pitchXMm < widthMm - SLACK)
    problems.push({
      field: 'pitchXMm',
      message: 'Labels would lie over each other: from one to the next is at least their width.',
    });
  if (sheet.rows > 1 && sheet.pitchYMm < heightMm - SLACK)
    problems.push({
      field: 'pitchYMm',
      message: 'Labels would lie over each other: from one to the next is at least their height.',
    });
  return problems;
}
