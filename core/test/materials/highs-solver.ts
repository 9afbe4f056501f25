import loadHighs from 'highs';
import type { LinearSolver } from '../../src/index.js';

/** HiGHS as the solver that cutting asks for. */
export async function highsSolver(): Promise<LinearSolver> {
  const highs = await loadHighs();
  return (model, { seconds }) => {
    const { Status, Columns, Rows } = highs.solve(model, { time_limit: seconds });
    return {
      optimal: Status === 'Optimal',
      values: Object.fromEntries(
        Object.values(Columns).map((column) => [column.Name, 'Primal' in column ? (column.Primal ?? 0) : 0]),
      ),
      duals: Object.fromEntries(Rows.flatMap((row) => ('Dual' in row ? [[row.Name, row.Dual ?? 0]] : []))),
    };
  };
}
