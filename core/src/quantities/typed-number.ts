const FIGURE = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i;

/**
 * A figure as a person types it, with a decimal point or a comma and blanks about it. Not a number
 * where the field is empty or holds anything else.
 */
export function typedNumber(text: string): number {
  const plain = text.trim().replace(',', '.');
  return FIGURE.test(plain) ? Number(plain) : Number.NaN;
}

/** What a field asks for: its name, and the least and the most that makes sense in it. */
export interface AskedFigure {
  what: string;
  least: number;
  most: number;
  unit?: string;
}

/** A figure that was typed, or in words what is wrong with it; never both. */
export type TypedFigure = { figure: number; trouble: '' } | { figure: null; trouble: string };

/**
 * A typed figure within its range, ends included.
 * @returns the figure, or what to write instead, naming the field: `Lead: write metres from 0 to 1000.`
 */
export function typedWithin(text: string, { what, least, most, unit }: AskedFigure): TypedFigure {
  const figure = typedNumber(text);
  if (figure >= least && figure <= most) return { figure, trouble: '' };
  return { figure: null, trouble: `${what}: write ${unit ?? 'a figure'} from ${least} to ${most}.` };
}
