import { attainable } from './bounds.js';
import { bestFills } from './fill.js';
import type { Packed } from './pack.js';
import type { CuttingSteps } from './stock.js';

/** A linear or integer programme in the CPLEX LP format, and what came of it. */
export type LinearSolver = (
  model: string,
  limits: { seconds: number },
) => {
  optimal: boolean;
  /** By name of variable. */
  values: Readonly<Record<string, number>>;
  /** By name of row; empty for an integer programme. */
  duals: Readonly<Record<string, number>>;
};

/** Fewer pieces than this are taken off a source, and another fill is looked for, so many times a round. */
const FILLS_A_ROUND = 24;
const ROUNDS = 60;
const TINY = 1e-7;

/** What came of a search by patterns. */
export interface PatternSearch {
  packed: Packed[] | null;
  bound: number;
}

/**
 * Cutting by patterns: a linear programme over the fills that are known, priced by its own duals until no fill would
 * better it (Gilmore and Gomory), then the same with whole numbers. Its bound holds for every plan: in each round the
 * duals, scaled until no fill is worth more than it costs (Farley), are a bound of their own.
 *
 * @param known packings to begin with; they have to hold every piece
 * @param enough a price at which nothing better is looked for
 * @param goOn asked between rounds; false ends the search with what there is
 */
export function cutByPatterns(
  problem: CuttingSteps,
  known: readonly (readonly Packed[])[],
  {
    solve,
    enough,
    seconds,
    goOn = () => true,
  }: { solve: LinearSolver; enough: number; seconds: number; goOn?: (round: number) => boolean },
): PatternSearch {
  const pool = new Pool(problem);
  for (const packing of known) for (const one of packing) pool.add(one);
  let bound = 0;
  for (let round = 0; round < ROUNDS && goOn(round); round++) {
    const { optimal, duals } = solve(pool.model(false), { seconds });
    if (!optimal) break;
    const { added, dualBound } = pool.price(duals);
    bound = Math.max(bound, dualBound);
    if (!added || attainable(bound, problem) >= enough - TINY) break;
  }
  bound = attainable(bound, problem);
  if (bound >= enough - TINY) return { packed: null, bound };
  const { values } = solve(pool.model(true), { seconds });
  return { packed: pool.chosen(values), bound };
}

/** The fills that a programme chooses from. */
class Pool {
  private readonly fills: Packed[] = [];
  private readonly seen = new Set<string>();

  constructor(private readonly problem: CuttingSteps) {}

  add(fill: Packed): boolean {
    const key = `${fill.held}/${fill.size}/${[...fill.pieces].sort((a, b) => a - b).join()}`;
    if (this.seen.has(key)) return false;
    this.seen.add(key);
    this.fills.push(fill);
    return true;
  }

  private costOf({ size }: Packed): number {
    return size === null ? 0 : (this.problem.sizes[size]?.size.price ?? 0);
  }

  /** Each piece at least once, what is there at most once. */
  model(whole: boolean): string {
    const names = this.fills.map((_, i) => `x${i}`);
    const rows: string[][] = this.problem.pieces.map(() => []);
    const held: string[][] = this.problem.held.map(() => []);
    this.fills.forEach((fill, i) => {
      for (const place of fill.pieces) rows[place]?.push(`x${i}`);
      if (fill.held !== null) held[fill.held]?.push(`x${i}`);
    });
    return [
      'Minimize',
      ` obj: ${inLines(names.map((name, i) => `${this.costOf(this.fills[i] as Packed)} ${name}`))}`,
      'Subject To',
      ...rows.map((row, place) => ` p${place}: ${inLines(row)} >= 1`),
      ...held.flatMap((row, place) => (row.length > 0 ? [` h${place}: ${inLines(row)} <= 1`] : [])),
      ...(whole ? ['General', ` ${names.join('\n ')}`] : []),
      'End',
      '',
    ].join('\n');
  }

  /**
   * Adds fills that the duals say are worth more than they cost.
   * @returns whether any was, and the bound that the duals prove: all pieces' worth less the best fill of each source that is
   * there, divided by the most that a new box is worth for its price
   */
  price(duals: Readonly<Record<string, number>>): { added: boolean; dualBound: number } {
    const { pieces, held, sizes } = this.problem;
    const values = pieces.map((_, place) => Math.max(0, duals[`p${place}`] ?? 0));
    const most = Math.max(0, ...held.map(({ steps }) => steps), ...sizes.map(({ steps }) => steps));
    let left = pieces.map((_, place) => place);
    let [added, worth] = [false, 1];
    let dualBound = values.reduce((sum, value) => sum + value, 0);
    for (let fill = 0; fill < FILLS_A_ROUND && left.length > 0; fill++) {
      const fills = bestFills(
        left.map((place) => ({ steps: pieces[place]?.steps ?? 0, value: values[place] ?? 0 })),
        most,
      );
      let best: { pieces: number[]; gain: number } = { pieces: [], gain: TINY };
      const look = (source: Pick<Packed, 'held' | 'size'>, steps: number, cost: number): void => {
        const gain = fills.valueOf(steps) - cost;
        if (fill === 0 && source.size !== null) worth = Math.max(worth, fills.valueOf(steps) / cost);
        if (fill === 0 && source.held !== null) dualBound -= fills.valueOf(steps);
        if (gain <= TINY) return;
        const found = fills.piecesOf(steps).map((at) => left[at] as number);
        if (this.add({ ...source, pieces: found })) added = true;
        if (gain > best.gain) best = { pieces: found, gain };
      };
      sizes.forEach(({ size, steps }, place) => look({ held: null, size: place }, steps, size.price));
      held.forEach(({ steps }, place) =>
        look({ held: place, size: null }, steps, Math.max(0, -(duals[`h${place}`] ?? 0))),
      );
      if (best.pieces.length === 0) break;
      const gone = new Set(best.pieces);
      left = left.filter((place) => !gone.has(place));
    }
    return { added, dualBound: dualBound / worth };
  }

  /** The fills of a whole-number solution, each piece in the first that has it. */
  chosen(values: Readonly<Record<string, number>>): Packed[] | null {
    const done = new Set<number>();
    const packed: Packed[] = [];
    this.fills.forEach((fill, i) => {
      if ((values[`x${i}`] ?? 0) < 0.5) return;
      const pieces = fill.pieces.filter((place) => !done.has(place));
      for (const place of pieces) done.add(place);
      if (pieces.length > 0) packed.push({ ...fill, pieces });
    });
    return done.size === this.problem.pieces.length ? packed : null;
  }
}

/** Terms of a row, in lines that the format takes. */
function inLines(terms: readonly string[]): string {
  const lines: string[] = [];
  for (let i = 0; i < terms.length; i += 12) lines.push(terms.slice(i, i + 12).join(' + '));
  return lines.join(' +\n  ');
}
