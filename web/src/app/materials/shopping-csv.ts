import { unparse } from 'papaparse';

/** A line of a shopping list. */
export interface ShoppingLine {
  name: string;
  count: number;
  spare: number;
}

/** A shopping list as CSV; what a spreadsheet would take for a formula is made text. */
export const shoppingCsv = (lines: readonly ShoppingLine[]): string =>
  `${unparse(
    {
      fields: ['What', 'Needed', 'Spare', 'Bring'],
      data: lines.map(({ name, count, spare }) => [name, count, spare, count + spare]),
    },
    { escapeFormulae: true },
  )}\r\n`;
