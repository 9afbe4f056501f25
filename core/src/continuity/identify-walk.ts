import type { IdentifyPlan } from './identify.js';

/** What was found does not fit what was joined: a join was missed or is loose. */
export class JoiningMistake extends Error {}

/** What to join at B, and what each conductor there is called until it has its number. */
export interface JoinsAtB {
  groups: readonly (readonly string[])[];
  /** Row and column of the table, by the name given at B. */
  places: Readonly<Record<string, { row: number; column: number }>>;
}

type WalkPlan = Extract<IdentifyPlan, { way: 'walk' }>;

const sizesOf = (groups: readonly (readonly unknown[])[]): string =>
  groups
    .map((g) => g.length)
    .filter((size) => size > 0)
    .sort((a, b) => b - a)
    .join(', ');

/**
 * At B after the first walk: the groups found by continuity are given columns of the table.
 *
 * @param found groups of conductors joined at A, by names given at B; with a return, the group
 *   that shows continuity to it comes first (empty when none does)
 * @throws JoiningMistake when the sizes are not those joined at A
 */
export function joinAtB(plan: WalkPlan, found: readonly (readonly string[])[]): JoinsAtB {
  const [expected, got] = [sizesOf(plan.groupsAtA), sizesOf(found)];
  if (expected !== got) {
    throw new JoiningMistake(
      `Joined at A were groups of ${expected}; found here are ${got}. A join is missed or loose, or two groups touch: go by the list, and measure again.`,
    );
  }
  if (plan.withReturn && found[0]?.length !== plan.groupsAtA[0]?.length) {
    throw new JoiningMistake(
      `Joined to the return at A were ${plan.groupsAtA[0]?.length}; found joined to it here are ${found[0]?.length ?? 0}. Look at the return’s joint first.`,
    );
  }
  const waiting = new Map<number, string[]>();
  found.forEach((group, i) => {
    if (group.length === 0) return;
    const size = plan.withReturn && i === 0 ? 0 : group.length;
    const row = plan.table.rows.indexOf(size);
    if (row < 0)
      throw new JoiningMistake(
        `No group of ${group.length} was joined at A apart from the return’s. Measure again.`,
      );
    waiting.set(row, [...(waiting.get(row) ?? []), ...group]);
  });
  const columns = new Map<number, string[]>();
  const places: Record<string, { row: number; column: number }> = {};
  for (const [row, names] of waiting) {
    const slots = (plan.table.cells[row] ?? []).flatMap((cell, column) =>
      new Array<number>(cell).fill(column),
    );
    names.forEach((name, i) => {
      const column = slots[i] ?? 0;
      places[name] = { row, column };
      columns.set(column, [...(columns.get(column) ?? []), name]);
    });
  }
  const groups = [...columns].flatMap(([column, names]) => {
    const size = plan.table.columns[column] ?? 1;
    return Array.from({ length: names.length / size }, (_, i) => names.slice(i * size, (i + 1) * size));
  });
  return { groups, places };
}

/** The names as soon as they are settled at B, where one walk is enough; null otherwise. */
export function settledAtB(plan: WalkPlan, joins: JoinsAtB): Readonly<Record<number, string>> | null {
  if (plan.walks !== 1) return null;
  const byRow = new Map(Object.entries(joins.places).map(([name, { row }]) => [row, name]));
  return Object.fromEntries(
    plan.groupsAtA.flatMap((group, i) => {
      const row = plan.table.rows.indexOf(plan.withReturn && i === 0 ? 0 : group.length);
      const name = byRow.get(row);
      return group.map((number) => [number, name]);
    }),
  ) as Record<number, string>;
}

/** What is known back at A: the name at B of each number, and those that a third walk has to part. */
export interface Identified {
  /** Number at A to the name given at B. */
  names: Readonly<Record<number, string>>;
  /** Two numbers and the two names they share. */
  unsure: readonly { numbers: readonly [number, number]; names: readonly [string, string] }[];
  /** For the third walk: join the first of each unsure pair to this number, which is known. */
  joinTo: number | null;
}

/**
 * Back at A, its own joins undone: the groups that B's joins make there settle each conductor.
 *
 * @param found groups of numbers joined at B
 * @throws JoiningMistake when a pair of sizes turns up that the plan does not have
 */
export function readAtA(plan: WalkPlan, joins: JoinsAtB, found: readonly (readonly number[])[]): Identified {
  const [expected, got] = [sizesOf(joins.groups), sizesOf(found)];
  if (expected !== got) {
    throw new JoiningMistake(
      `Joined at B were groups of ${expected}; found here are ${got}. A join at B is missed or loose, or one at A still closed.`,
    );
  }
  const rowOf = new Map<number, number>();
  plan.groupsAtA.forEach((group, i) => {
    const size = plan.withReturn && i === 0 ? 0 : group.length;
    for (const number of group) rowOf.set(number, plan.table.rows.indexOf(size));
  });
  const numbersAt = new Map<string, number[]>();
  for (const group of found) {
    const column = plan.table.columns.indexOf(group.length);
    for (const number of group) {
      const key = `${rowOf.get(number)} ${column}`;
      numbersAt.set(key, [...(numbersAt.get(key) ?? []), number]);
    }
  }
  const namesAt = new Map<string, string[]>();
  for (const [name, { row, column }] of Object.entries(joins.places)) {
    const key = `${row} ${column}`;
    namesAt.set(key, [...(namesAt.get(key) ?? []), name]);
  }
  const names: Record<number, string> = {};
  const unsure: { numbers: [number, number]; names: [string, string] }[] = [];
  for (const [key, called] of namesAt) {
    const numbers = numbersAt.get(key) ?? [];
    if (numbers.length !== called.length) {
      throw new JoiningMistake(
        `${called.join(' and ')} should be found once each here and are not. A conductor was joined into another group than the list says: prove the joins at both ends and read again.`,
      );
    }
    if (numbers.length === 1) names[numbers[0] as number] = called[0] as string;
    else unsure.push({ numbers: numbers as [number, number], names: called as [string, string] });
  }
  const known = Object.keys(names).map(Number)[0] ?? null;
  return { names, unsure, joinTo: unsure.length > 0 ? known : null };
}

/**
 * At B after the third walk: of each unsure pair, the name found joined to the known conductor is
 * the first number.
 *
 * @param joined names that show continuity to the known conductor
 * @throws JoiningMistake when of a pair none or both do
 */
export function partPairs(known: Identified, joined: readonly string[]): Readonly<Record<number, string>> {
  const names: Record<number, string> = { ...known.names };
  for (const { numbers, names: pair } of known.unsure) {
    const here = pair.filter((name) => joined.includes(name));
    if (here.length !== 1)
      throw new JoiningMistake(
        `Of ${pair.join(' and ')} exactly one should be joined to the known conductor, ${here.length} are. Look at the join at A.`,
      );
    names[numbers[0]] = here[0] as string;
    names[numbers[1]] = pair.find((name) => name !== here[0]) as string;
  }
  return names;
}
