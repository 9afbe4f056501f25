import {
  helperRoundsOf,
  planIdentification,
  PREFERRED_SERIES,
  preferredValues,
  type IdentifyPlan,
  type PreferredSeries,
} from '@near-spoke/core';
import { parseArgs } from 'node:util';
import { BadInput, type Outcome } from './outcome.js';

export const IDENTIFY_HELP = `spoke identify --count N [options]

Plans how to tell N unmarked conductors apart with the fewest walks. Every plan is proved unique
before it is printed.

  --return            a conductor known at both ends: screen, earth, a marked one (not counted in N)
  --helper            somebody at the other end
  --resistors SERIES  resistors at hand: E6, E12 or E24, 47 ohm to 1 megohm
  --tolerance PERCENT of those resistors and the meter together (5)
  --loop OHM          loop resistance of the cable, at most (20)
  --json              the plan as JSON
  --help              this text

Exit status: 0 a plan, 1 none is possible, 2 bad input.
`;

function number(name: string, text: string | undefined, usual: number): number {
  if (text === undefined) return usual;
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value))
    throw new BadInput(`--${name} is "${text}": give a number.`);
  return value;
}

/** `spoke identify`. */
export function identifyCommand(args: readonly string[]): Outcome {
  let values;
  try {
    ({ values } = parseArgs({
      args: [...args],
      strict: true,
      options: {
        count: { type: 'string' },
        return: { type: 'boolean' },
        helper: { type: 'boolean' },
        resistors: { type: 'string' },
        tolerance: { type: 'string' },
        loop: { type: 'string' },
        json: { type: 'boolean' },
      },
    }));
  } catch (error) {
    throw new BadInput(error instanceof Error ? error.message : String(error));
  }
  if (values.count === undefined) throw new BadInput(`Give --count.\n${IDENTIFY_HELP}`);
  const series = values.resistors as PreferredSeries | undefined;
  if (series !== undefined && !PREFERRED_SERIES.includes(series))
    throw new BadInput(`--resistors is "${series}": give ${PREFERRED_SERIES.join(', ')}.`);
  const plan = askPlan({
    count: number('count', values.count, 0),
    hasReturn: values.return ?? false,
    helper: values.helper ?? false,
    ...(series
      ? {
          resistors: {
            ohms: preferredValues(series, 47, 1e6),
            tolerance: number('tolerance', values.tolerance, 5) / 100,
            loopOhm: number('loop', values.loop, 20),
          },
        }
      : {}),
  });
  const out = values.json ? `${JSON.stringify(plan, null, 2)}\n` : planText(plan);
  return { status: plan.way === 'impossible' ? 1 : 0, out, err: '' };
}

function askPlan(means: Parameters<typeof planIdentification>[0]): IdentifyPlan {
  try {
    return planIdentification(means);
  } catch (error) {
    if (error instanceof RangeError) throw new BadInput(error.message);
    throw error;
  }
}

const ohms = (value: number): string =>
  value === 0
    ? 'a straight join'
    : value === Infinity
      ? 'nothing'
      : value >= 1000
        ? `${value / 1000} kohm`
        : `${value} ohm`;

function planText(plan: IdentifyPlan): string {
  if (plan.way === 'impossible') return `${plan.why}\n`;
  const lines = [`${plan.count} conductors${plan.withReturn ? ' and a known return' : ''}`];
  if (plan.way === 'helper') {
    const rounds = helperRoundsOf(plan);
    const to = { return: 'to the return', 'each-other': 'to each other', second: 'to 2' };
    lines.push(
      `No walk; ${rounds.length} rounds with the helper at A, you at B.`,
      ...(plan.withReturn
        ? []
        : ['The first two rounds find a return: the one you find joined both times is 2, and serves as it.']),
      ...rounds.map(
        (round, k) =>
          `Round ${k + 1}: the helper joins ${to[round.to]} ${round.join.join(', ')}. Note which beep.`,
      ),
      `Each conductor’s beeps${plan.withReturn ? '' : ' from round 3 on'}, last round first, are its number in binary, less one.`,
    );
  } else if (plan.way === 'resistors') {
    lines.push(
      `One walk. At A, from each conductor to the ${plan.withReturn ? 'return' : 'common joint'}:`,
      ...plan.ohms.map((ohm, i) => {
        const read = plan.reads[i];
        const reads =
          ohm === Infinity
            ? 'reads open'
            : `reads ${read?.fromOhm.toFixed(0)} to ${read?.toOhm.toFixed(0)} ohm`;
        return `  ${String(i + 1).padStart(3)}  ${ohms(ohm).padEnd(16)} ${reads}`;
      }),
    );
  } else {
    const [first, ...rest] = plan.groupsAtA;
    const groups = plan.withReturn ? rest : plan.groupsAtA;
    lines.push(
      `${plan.walks === 1 ? 'One walk' : `${plan.walks} walks, there and back counted apart`}.`,
      '1. At A number the conductors and join:',
      ...(plan.withReturn ? [`   to the return: ${first?.join(', ') || 'none'}`] : []),
      ...groups.map((g) => `   ${g.length === 1 ? `leave ${g[0]} alone` : `join ${g.join(', ')}`}`),
      '   Prove each join before you go.',
      '2. At B find what is joined, and label each with the size of its group.',
    );
    if (plan.walks > 1) {
      lines.push(
        '   Then join anew, so that of the conductors labelled',
        ...plan.table.rows.map((row, i) => {
          const into = (plan.table.cells[i] ?? [])
            .flatMap((cell, j) =>
              cell === 0 ? [] : [`${cell === 1 ? 'one' : 'two'} into a group of ${plan.table.columns[j]}`],
            )
            .join(', ');
          return `   ${row === 0 ? 'return' : row}: ${into}`;
        }),
        '3. Back at A undo the joins and find what B joined: the two sizes name each conductor.',
      );
    }
    if (plan.walks === 3)
      lines.push(
        '4. Two at a time still share both sizes: join the first of each two to one that is known, go to B, and see which is joined.',
      );
  }
  return `${lines.join('\n')}\n`;
}
