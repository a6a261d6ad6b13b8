/**
 * The assignment of rows to columns that gains most (Kuhn, 1955; by shortest augmenting paths, Jonker and Volgenant, 1987).
 * @param gains of each row with each column, row by row, 0 or more: leaving a row without a column gains nothing
 * @returns of each row its column; -1: it has none
 */
export function assignment(gains: readonly Float64Array[], columns: number): readonly number[] {
  const rows = gains.length
  const size = Math.max(rows, columns)
  // Costs of a square; what is beyond rows and columns costs as much as a pair that gains nothing.
  const cost = (row: number, column: number): number => -(row < rows && column < columns ? (gains[row]?.[column] ?? 0) : 0)
  const [rowPrice, columnPrice] = [new Float64Array(size + 1), new Float64Array(size + 1)]
  /** Row of each column, counted from 1; 0: none. */
  const rowOf = new Int32Array(size + 1)
  const way = new Int32Array(size + 1)
  for (let row = 1; row <= size; row += 1) {
    rowOf[0] = row
    let column = 0
    const least = new Float64Array(size + 1).fill(Infinity)
    const done = new Uint8Array(size + 1)
    do {
      done[column] = 1
      const from = rowOf[column] ?? 0
      let [delta, next] = [Infinity, 0]
      for (let one = 1; one <= size; one += 1) {
        if (done[one] === 1) continue
        const reduced = cost(from - 1, one - 1) - (rowPrice[from] ?? 0) - (columnPrice[one] ?? 0)
        if (reduced < (least[one] ?? Infinity)) {
          least[one] = reduced
          way[one] = column
        }
        if ((least[one] ?? Infinity) < delta) [delta, next] = [least[one] ?? Infinity, one]
      }
      for (let one = 0; one <= size; one += 1) {
        if (done[one] === 1) {
          rowPrice[rowOf[one] ?? 0] = (rowPrice[rowOf[one] ?? 0] ?? 0) + delta
          columnPrice[one] = (columnPrice[one] ?? 0) - delta
        } else least[one] = (least[one] ?? Infinity) - delta
      }
      column = next
    } while ((rowOf[column] ?? 0) !== 0)
    do {
      const before = way[column] ?? 0
      rowOf[column] = rowOf[before] ?? 0
      column = before
    } while (column !== 0)
  }
  const columnOf = new Array<number>(rows).fill(-1)
  for (let column = 1; column <= columns; column += 1) {
    const row = (rowOf[column] ?? 0) - 1
    if (row >= 0 && row < rows && (gains[row]?.[column - 1] ?? 0) > 0) columnOf[row] = column - 1
  }
  return columnOf
}
