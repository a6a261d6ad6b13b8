/**
 * Rows and columns while they are assigned, with a price for each: no pair costs less than the prices of both, and assigned ones just as
 * much.
 */
class Assigning {
  readonly #cost: (row: number, column: number) => number
  readonly #size: number
  readonly #rowPrice: Float64Array
  readonly #columnPrice: Float64Array
  /** Row of each column, counted from 1; 0: none. The column 0 holds the row that is being assigned. */
  readonly #rowOf: Int32Array
  /** Column before each on the shortest path that was found. */
  readonly #before: Int32Array

  /** @param cost of a pair, counted from 0 @param size of rows and of columns */
  constructor(cost: (row: number, column: number) => number, size: number) {
    this.#cost = cost
    this.#size = size
    this.#rowPrice = new Float64Array(size + 1)
    this.#columnPrice = new Float64Array(size + 1)
    this.#rowOf = new Int32Array(size + 1)
    this.#before = new Int32Array(size + 1)
  }

  /** Assigns one row more, and moves others as that is worth it. */
  assign(row: number): void {
    this.#rowOf[0] = row
    const least = new Float64Array(this.#size + 1).fill(Infinity)
    const done = new Uint8Array(this.#size + 1)
    let column = 0
    do {
      done[column] = 1
      const next = this.#nearest(column, least, done)
      this.#reprice(least[next] ?? 0, least, done)
      column = next
    } while ((this.#rowOf[column] ?? 0) !== 0)
    this.#turn(column)
  }

  /** The column that costs least more from those that were reached, the last of them `from`. */
  #nearest(from: number, least: Float64Array, done: Uint8Array): number {
    const row = this.#rowOf[from] ?? 0
    let next = 0
    for (let column = 1; column <= this.#size; column += 1) {
      if (done[column] === 1) continue
      const more = this.#cost(row - 1, column - 1) - (this.#rowPrice[row] ?? 0) - (this.#columnPrice[column] ?? 0)
      if (more < (least[column] ?? Infinity)) {
        least[column] = more
        this.#before[column] = from
      }
      if (next === 0 || (least[column] ?? Infinity) < (least[next] ?? Infinity)) next = column
    }
    return next
  }

  #reprice(by: number, least: Float64Array, done: Uint8Array): void {
    for (let column = 0; column <= this.#size; column += 1) {
      if (done[column] === 1) {
        const row = this.#rowOf[column] ?? 0
        this.#rowPrice[row] = (this.#rowPrice[row] ?? 0) + by
        this.#columnPrice[column] = (this.#columnPrice[column] ?? 0) - by
      } else {
        least[column] = (least[column] ?? Infinity) - by
      }
    }
  }

  /** Every column on the path takes the row of the one before it. */
  #turn(last: number): void {
    for (let column = last; column !== 0; column = this.#before[column] ?? 0)
      this.#rowOf[column] = this.#rowOf[this.#before[column] ?? 0] ?? 0
  }

  /** @param column counted from 0 @returns its row, counted from 0 */
  rowOf(column: number): number {
    return (this.#rowOf[column + 1] ?? 0) - 1
  }
}

/**
 * The assignment of rows to columns that gains most (Kuhn, 1955; by shortest augmenting paths, Jonker and Volgenant, 1987).
 * @param gains of each row with each column, row by row, 0 or more: leaving a row without a column gains nothing
 * @returns of each row its column; -1: it has none
 */
export function assignment(gains: readonly Float64Array[], columns: number): readonly number[] {
  const rows = gains.length
  // What is beyond rows and columns costs as much as a pair that gains nothing.
  const assigning = new Assigning((row, column) => -(gains[row]?.[column] ?? 0), Math.max(rows, columns))
  for (let row = 1; row <= Math.max(rows, columns); row += 1) assigning.assign(row)
  const columnOf = new Array<number>(rows).fill(-1)
  for (let column = 0; column < columns; column += 1) {
    const row = assigning.rowOf(column)
    if (row < rows && (gains[row]?.[column] ?? 0) > 0) columnOf[row] = column
  }
  return columnOf
}
