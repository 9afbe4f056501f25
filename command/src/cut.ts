import { cuttingFile, type CuttingFile } from '@near-spoke/contracts';
import {
  BadCutting,
  formatCableLength,
  pieceLengthM,
  planCutting,
  pullsOf,
  surelyLeftM,
  type CuttingPlan,
  type LinearSolver,
  type Pull,
} from '@near-spoke/core';
import { parseAs } from './json.js';
import { Options } from './options.js';
import { BadInput, type Outcome } from './outcome.js';
import type { ReadText } from './spoke.js';

export const CUT_HELP = `spoke cut STOCK.json [options]

Which pieces to cut from which drum or box, what to buy, and in which order to pull: what is bought costs least, what is
there is used first, nothing is joined. The file is a near-spoke/cutting. "-" reads standard input.

  --json             as JSON
  --help             this text

Exit status: 0 a plan, 2 bad input.
`;

/** `spoke cut`. */
export function cutCommand(args: readonly string[], readText: ReadText, solve?: LinearSolver): Outcome {
  const options = new Options(args, { valued: [], flags: ['--json'], help: CUT_HELP });
  const [path, ...more] = options.names;
  if (path === undefined || more.length > 0) throw new BadInput(`Name one file.\n${CUT_HELP}`);
  const file = parseAs(cuttingFile, readText(path));
  try {
    const plan = planCutting(
      file.pieces.map((piece) => ({
        ...piece,
        lengthM: pieceLengthM(piece.lengthM, { share: file.allowance }, file.endsM),
      })),
      file.have.map(({ name, leftM, u95M }, i) => ({
        id: String(i),
        name,
        lengthM: surelyLeftM({ leftM, u95M }),
      })),
      // Without prices the least metres are bought.
      file.buy.map(({ name, lengthM, price }) => ({ name, lengthM, price: price ?? lengthM })),
      { solve },
    );
    const { pulls, sources } = pullsOf(plan.sources, file.atOnce);
    const told = { ...plan, sources };
    return {
      status: 0,
      out: options.has('--json')
        ? `${JSON.stringify({ ...told, pulls }, null, 2)}\n`
        : printed(file, told, pulls),
      err: '',
    };
  } catch (error) {
    if (error instanceof BadCutting) throw new BadInput(error.message);
    throw error;
  }
}

function printed({ units, buy }: CuttingFile, plan: CuttingPlan, pulls: readonly Pull[]): string {
  const long = (m: number): string => formatCableLength(m, units);
  const priced = buy.some(({ price }) => price !== undefined);
  return [
    ...plan.sources.flatMap(({ name, lengthM, pieces, leftM }) => [
      `${name}: ${long(lengthM)}, ${pieces.length === 1 ? '1 piece' : `${pieces.length} pieces`}, ${long(leftM)} left over`,
      `  ${pieces.map((piece) => `${piece.label} ${long(piece.lengthM)}`).join(', ')}`,
    ]),
    'PULL, what goes furthest first',
    ...pulls.map(
      ({ name, pieces, longestM }, i) =>
        `  ${String(i + 1).padStart(2)}  ${name}: ${pieces.map(({ label, source }) => `${label} from ${source}`).join(', ')}; longest ${long(longestM)}`,
    ),
    plan.buy.length === 0
      ? 'BUY   nothing'
      : `BUY   ${plan.buy.map(({ size, count }) => `${count} × ${size.name}`).join(', ')}${priced ? `, ${plan.price.toFixed(2)} in all` : ''}`,
    plan.gap === 0
      ? 'No plan buys less.'
      : `At most ${(100 * plan.gap).toFixed(1)} % over the least possible.`,
    '',
  ].join('\n');
}
