import { CABLE_TYPES, typedQuantity, type CableType, type TypedQuantity } from '@near-spoke/core';
import { BadInput } from './outcome.js';

/** Options of one command: `--name value`, a flag, or neither. */
export class Options {
  private readonly given = new Map<string, string[]>();
  private readonly flags = new Set<string>();
  readonly names: string[] = [];

  /** @throws BadInput for an option that is not among them, or one without its value */
  constructor(
    args: readonly string[],
    { valued, flags, help }: { valued: readonly string[]; flags: readonly string[]; help: string },
  ) {
    for (let i = 0; i < args.length; i++) {
      const arg = args[i] as string;
      if (flags.includes(arg)) this.flags.add(arg);
      else if (!arg.startsWith('--')) this.names.push(arg);
      else if (!valued.includes(arg)) throw new BadInput(`There is no option ${arg}.\n${help}`);
      else {
        const value = args[++i];
        if (value === undefined) throw new BadInput(`${arg} wants a value.`);
        this.given.set(arg, [...(this.given.get(arg) ?? []), value]);
      }
    }
  }

  has = (option: string): boolean => this.given.has(option) || this.flags.has(option);

  text = (option: string): string | null => this.given.get(option)?.at(-1) ?? null;

  /** Every value of an option that may come more than once. */
  all = (option: string): readonly string[] => this.given.get(option) ?? [];

  /** A bare number within its range; null where it is not given. */
  number(option: string, least: number, most: number): number | null {
    const text = this.text(option);
    if (text === null) return null;
    const value = text.trim() === '' ? NaN : Number(text.replace(',', '.'));
    if (!(value >= least && value <= most))
      throw new BadInput(`${option} ${text}: a number from ${least} to ${most} is wanted.`);
    return value;
  }

  /** A figure with its unit, in s, m, F or ohm; null where it is not given. */
  quantity(option: string, quantity: TypedQuantity): number | null {
    const text = this.text(option);
    return text === null ? null : quantityIn(text, quantity, option);
  }

  /** A share written as `3%` or `0.03`. */
  share(option: string, most = 1): number | null {
    const text = this.text(option);
    if (text === null) return null;
    const [, figure = '', percent] = /^\s*([+-]?[\d.,]+)\s*(%?)\s*$/.exec(text) ?? [];
    const value = Number(figure.replace(',', '.')) / (percent === '%' ? 100 : 1);
    if (figure === '' || !(Math.abs(value) <= most))
      throw new BadInput(`${option} ${text}: a share is wanted, such as 3% or 0.03.`);
    return value;
  }

  cable(option = '--cable'): CableType | null {
    const id = this.text(option);
    if (id === null) return null;
    const cable = CABLE_TYPES.find((one) => one.id === id);
    if (!cable)
      throw new BadInput(
        `${option} ${id}: there is no such cable. Cables: ${CABLE_TYPES.map((one) => one.id).join(', ')}.`,
      );
    return cable;
  }
}

export function quantityIn(text: string, quantity: TypedQuantity, what: string): number {
  const typed = typedQuantity(text, quantity, `${what} ${text}`);
  if (typed.figure === null) throw new BadInput(typed.trouble);
  return typed.figure;
}
