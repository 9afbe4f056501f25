import type { LinearSolver } from './patterns.js';

/** As much of a loaded HiGHS as is asked of it; loading it is its owner's, for it reads a file. */
export interface LoadedHighs {
  solve: (
    model: string,
    options: { time_limit: number },
  ) => {
    Status: string;
    Columns: Readonly<Record<string, { Name: string; Primal?: number | null }>>;
    Rows: readonly { Name?: string; Dual?: number | null }[];
  };
}

/** HiGHS as the solver that cutting asks for. */
export const highsSolver =
  (highs: LoadedHighs): LinearSolver =>
  (model, { seconds }) => {
    const { Status, Columns, Rows } = highs.solve(model, { time_limit: seconds });
    return {
      optimal: Status === 'Optimal',
      values: Object.fromEntries(Object.values(Columns).map(({ Name, Primal }) => [Name, Primal ?? 0])),
      duals: Object.fromEntries(
        Rows.flatMap(({ Name, Dual }) => (Name === undefined ? [] : [[Name, Dual ?? 0]])),
      ),
    };
  };
