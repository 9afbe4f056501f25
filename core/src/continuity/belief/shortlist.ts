/** Figures that differ by no more than this are alike: sums of the same terms in another order. */
const ALIKE = 1e-9;
export const isAlike = (a: number, b: number): boolean => Math.abs(a - b) <= ALIKE;
/** Of those alike at the end of a list so many times its length may stay; more go out together. */
const STRETCH = 1.5;

/**
 * About so many of a list, the greatest by a figure first. Those as good as the last of them stay or go with it, so
 * that the order of names decides nothing.
 */
export function bestBy<T>(list: readonly T[], count: number, figure: (one: T) => number): T[] {
  const figures = Float64Array.from(list, figure);
  const stays = list.length > count ? whatStays(figures, count) : () => true;
  const kept: number[] = [];
  for (let i = 0; i < figures.length; i++) if (stays(figures[i] as number)) kept.push(i);
  kept.sort((a, b) => (figures[b] as number) - (figures[a] as number));
  return kept.map((i) => list[i] as T);
}

function whatStays(figures: Float64Array, count: number): (figure: number) => boolean {
  const rising = figures.slice().sort();
  const least = rising[rising.length - count] as number;
  let all = count;
  while (all < rising.length && (rising[rising.length - 1 - all] as number) >= least - ALIKE) all++;
  return all <= STRETCH * count ? (figure) => figure >= least - ALIKE : (figure) => figure > least + ALIKE;
}

/** The best of many by a figure, told by keys: about so many, none below a floor. */
export class Shortlist {
  private keys: number[] = [];
  private figures: number[] = [];

  constructor(
    private readonly most: number,
    private floor: number,
  ) {}

  offer(key: number, figure: number): void {
    if (figure < this.floor) return;
    this.keys.push(key);
    this.figures.push(figure);
    if (this.keys.length >= 4 * this.most) this.floor = Math.max(this.floor, this.shorten());
  }

  /** Keys with their figures, the best first. */
  best(): readonly (readonly [number, number])[] {
    this.shorten();
    return this.keys.map((key, i) => [key, this.figures[i] as number] as const);
  }

  /** The figure of the last that stays. */
  private shorten(): number {
    const { keys, figures } = this;
    const order = bestBy([...keys.keys()], this.most, (i) => figures[i] as number);
    this.keys = order.map((i) => keys[i] as number);
    this.figures = order.map((i) => figures[i] as number);
    return this.figures[this.figures.length - 1] ?? -Infinity;
  }
}
