import { typedNumber, type TypedFigure } from './typed-number.js';

/** What a person writes with its unit. */
export type TypedQuantity = 'time' | 'length' | 'capacitance' | 'resistance';

interface Units {
  /** For words: what to write. */
  example: string;
  /** Unit as it is written, in lower case, to its factor on s, m, F or ohm. */
  factors: Readonly<Record<string, number>>;
}

/** Units as they are met on screens, meters and tapes. Micro is written u, µ or μ. */
const UNITS: Readonly<Record<TypedQuantity, Units>> = {
  time: {
    example: 'a time with its unit, such as 41.8 ns or 1.32 us',
    factors: { ps: 1e-12, ns: 1e-9, us: 1e-6, ms: 1e-3, s: 1 },
  },
  length: {
    example: 'a length with its unit, such as 31.4 m or 103 ft',
    factors: { mm: 1e-3, cm: 1e-2, m: 1, km: 1e3, in: 0.0254, '"': 0.0254, ft: 0.3048, "'": 0.3048 },
  },
  capacitance: {
    example: 'a capacitance with its unit, such as 1.63 nF or 620 pF',
    factors: { pf: 1e-12, nf: 1e-9, uf: 1e-6 },
  },
  resistance: {
    example: 'a resistance, such as 2.1 ohm',
    factors: { mohm: 1e-3, ohm: 1, kohm: 1e3, megaohm: 1e6, mω: 1e-3, ω: 1, kω: 1e3, megaω: 1e6, k: 1e3 },
  },
};

const BETWEEN = /\s+to\s+|\s*[;→]\s*|\s*,\s+/;

/**
 * A time, or the time between two cursors: `41.8 ns`, or `12.0 ns to 53.8 ns`. A first time without a unit
 * has that of the second.
 */
export function typedTimes(text: string, what: string): TypedFigure {
  const [first = '', second, ...more] = text.trim().split(BETWEEN);
  if (second === undefined) return typedQuantity(text, 'time', what);
  const unit = /[^\d.,\s+-].*$/.exec(second)?.[0] ?? '';
  const from = typedQuantity(/[a-zµμ]/i.test(first) ? first : `${first} ${unit}`, 'time', what);
  const to = typedQuantity(second, 'time', what);
  if (from.figure === null || more.length > 0)
    return from.figure === null ? from : typedQuantity('', 'time', what);
  return to.figure === null ? to : { figure: to.figure - from.figure, trouble: '' };
}

/**
 * A figure with its unit, as a person writes it: `41.8 ns`, `1,32us`, `0.0418 µs`. A resistance may be bare,
 * in ohms; nothing else may, for a guess would be off by a thousand.
 *
 * @returns the figure in s, m, F or ohm; or what to write instead, naming the field
 */
export function typedQuantity(text: string, quantity: TypedQuantity, what: string): TypedFigure {
  const { example, factors } = UNITS[quantity];
  const [, digits = '', written = ''] = /^\s*([+-]?[\d.,]+(?:e[+-]?\d+)?)\s*(\S*)\s*$/i.exec(text) ?? [];
  // Of all prefixes, milli and mega alone differ by their case.
  const unit = written
    .replace(/^M(?=[oOΩΩ])/, 'mega')
    .toLowerCase()
    .replace(/[µμ]/g, 'u')
    .replace(/ohms$/, 'ohm');
  const figure =
    typedNumber(digits) * (factors[unit] ?? (quantity === 'resistance' && unit === '' ? 1 : NaN));
  return Number.isFinite(figure)
    ? { figure, trouble: '' }
    : { figure: null, trouble: `${what}: write ${example}.` };
}
