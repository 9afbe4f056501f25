/**
 * A line as a chain of physical things, in units of the trace: places are round trips from the tee in
 * samples, impedances are by the line's nominal one.
 */

/** Something in the line's way. */
export type Part =
  /** Resistance in the way, by the line's impedance. */
  | { kind: 'series'; at: number; value: number }
  /** Conductance across the line, by the line's admittance. */
  | { kind: 'shunt'; at: number; value: number }
  /** A stretch of another impedance, `value` its natural logarithm by the line's. */
  | { kind: 'section'; at: number; value: number; length: number }
  /** A branch of the same line, open at its end. */
  | { kind: 'stub'; at: number; length: number };

export type PartKind = Part['kind'];

/** What the line ends in: nothing, a short, its own impedance, or beyond what is seen. */
export interface LineEnd {
  kind: 'open' | 'short' | 'matched' | 'beyond';
  at: number;
}

export interface Chain {
  /** The lead before the line: where it ends, and the logarithm of its impedance by the line's. */
  lead: { at: number; value: number } | null;
  /** In order of place. */
  parts: readonly Part[];
  end: LineEnd;
}

/** What of the chain is fitted, in a row: places as they are, what cannot be below nought by its logarithm. */
export function chainVector({ lead, parts, end }: Chain): number[] {
  return [
    ...(lead ? [lead.at, lead.value] : []),
    ...parts.flatMap((part) =>
      part.kind === 'section'
        ? [part.at, part.value, Math.log(part.length)]
        : part.kind === 'stub'
          ? [part.at, Math.log(part.length)]
          : [part.at, Math.log(part.value)],
    ),
    ...(end.kind === 'beyond' ? [] : [end.at]),
  ];
}

/** A chain of the same things with other figures. */
export function chainFrom(like: Chain, vector: ArrayLike<number>, from = 0): Chain {
  let n = from;
  const next = (): number => vector[n++] as number;
  const lead = like.lead ? { at: next(), value: next() } : null;
  const parts = like.parts.map((part): Part => {
    const at = next();
    if (part.kind === 'stub') return { ...part, at, length: Math.exp(next()) };
    const value = next();
    return part.kind === 'section'
      ? { ...part, at, value, length: Math.exp(next()) }
      : { ...part, at, value: Math.exp(value) };
  });
  return { lead, parts, end: like.end.kind === 'beyond' ? like.end : { ...like.end, at: next() } };
}

/** Where a part lets the line go on. */
export const behind = (part: Part): number => part.at + (part.kind === 'section' ? part.length : 0);

/** An end beyond the record may still be felt in its slope, a little further on. */
const REACH = 1.3;
/** Least and most of what a resistance or conductance is: a ten thousandth is none, and sixty hides all. */
const VALUE = { least: 1e-4, most: 60 };
/** Most of an impedance's logarithm by the line's, of a stretch and of a lead. */
const SECTION = 1.8;
const LEAD = 1.5;
/** Shorter than this nothing has two ends, samples. */
const SHORTEST = 0.3;

/** The least and the most of each figure of {@link chainVector}, alone: what they are to each other {@link isPossible} tells. */
export function chainBounds({ lead, parts, end }: Chain): { least: number; most: number }[] {
  const anywhere = { least: -Infinity, most: Infinity };
  const length = { least: Math.log(SHORTEST), most: Infinity };
  const value = { least: Math.log(VALUE.least), most: Math.log(VALUE.most) };
  return [
    ...(lead
      ? [
          { least: 0.2, most: Infinity },
          { least: -LEAD, most: LEAD },
        ]
      : []),
    ...parts.flatMap(({ kind }) =>
      kind === 'section'
        ? [anywhere, { least: -SECTION, most: SECTION }, length]
        : kind === 'stub'
          ? [anywhere, length]
          : [anywhere, value],
    ),
    ...(end.kind === 'beyond' ? [] : [anywhere]),
  ];
}

/**
 * Whether its things lie one behind the other, and are what such things can be.
 * @param limit how far the record reaches, samples
 */
export function isPossible(chain: Chain, limit: number): boolean {
  const { lead, parts, end } = chain;
  const bounds = chainBounds(chain);
  if (!chainVector(chain).every((figure, n) => allows(bounds[n], figure))) return false;
  let before = lead ? lead.at : 0;
  for (const part of parts) {
    if (part.at < before) return false;
    before = behind(part);
  }
  return before < limit && (end.kind === 'beyond' || (end.at > before + 0.2 && end.at < REACH * limit));
}

/** A figure at its bound is still possible, whatever a logarithm to and fro has made of it. */
const ROUNDED = 1e-9;

const allows = (bound: { least: number; most: number } | undefined, figure: number): boolean =>
  bound !== undefined && figure >= bound.least - ROUNDED && figure <= bound.most + ROUNDED;

/** Reflection coefficient of a part, or of its near edge, from the near side. */
export function reflectionOf(part: Part): number {
  switch (part.kind) {
    case 'series':
      return part.value / (part.value + 2);
    case 'shunt':
      return -part.value / (part.value + 2);
    case 'section':
      return Math.tanh(part.value / 2);
    case 'stub':
      return -1 / 3;
  }
}
