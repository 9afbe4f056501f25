/** A cheapest assignment of rows to columns, with the prices that prove it. */
export interface LeastAssignment {
  /** Column of each row. */
  columns: number[];
  cost: number;
  /** Price of each row, and of each column (never over 0): no entry is less than the two together. */
  rowPrices: Float64Array;
  columnPrices: Float64Array;
}

/**
 * Assigns each row a column of its own at the least sum (shortest augmenting paths; Kuhn 1955, Jonker
 * and Volgenant 1987), in time of rows squared times columns.
 *
 * @param costs rows of equal length, finite, no more rows than columns
 * @throws RangeError for more rows than columns
 */
export function leastAssignment(costs: readonly (readonly number[])[]): LeastAssignment {
  const rows = costs.length;
  const columns = costs[0]?.length ?? 0;
  if (rows > columns) throw new RangeError(`${rows} rows do not go into ${columns} columns.`);
  // Row and column 0 stand for none.
  const rowPrices = new Float64Array(rows + 1);
  const columnPrices = new Float64Array(columns + 1);
  const rowOf = new Int32Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    const slack = new Float64Array(columns + 1).fill(Infinity);
    const before = new Int32Array(columns + 1);
    const done = new Uint8Array(columns + 1);
    let column = 0;
    rowOf[0] = row;
    do {
      done[column] = 1;
      const from = rowOf[column] ?? 0;
      let least = Infinity;
      let next = 0;
      for (let j = 1; j <= columns; j++) {
        if (done[j]) continue;
        const reduced = (costs[from - 1]?.[j - 1] ?? 0) - (rowPrices[from] ?? 0) - (columnPrices[j] ?? 0);
        if (reduced < (slack[j] ?? 0)) {
          slack[j] = reduced;
          before[j] = column;
        }
        if ((slack[j] ?? 0) < least) {
          least = slack[j] ?? 0;
          next = j;
        }
      }
      for (let j = 0; j <= columns; j++) {
        if (done[j]) {
          const at = rowOf[j] ?? 0;
          rowPrices[at] = (rowPrices[at] ?? 0) + least;
          columnPrices[j] = (columnPrices[j] ?? 0) - least;
        } else slack[j] = (slack[j] ?? 0) - least;
      }
      column = next;
    } while (rowOf[column] !== 0);
    do {
      const next = before[column] ?? 0;
      rowOf[column] = rowOf[next] ?? 0;
      column = next;
    } while (column !== 0);
  }
  const assigned = new Array<number>(rows).fill(0);
  for (let j = 1; j <= columns; j++) if (rowOf[j]) assigned[(rowOf[j] ?? 0) - 1] = j - 1;
  const cost = assigned.reduce((sum, column, row) => sum + (costs[row]?.[column] ?? 0), 0);
  return { columns: assigned, cost, rowPrices: rowPrices.slice(1), columnPrices: columnPrices.slice(1) };
}
