/**
 * Index of the last entry that is not after `at`, in a list sorted ascending; -1 when all are after it.
 * @param times sorted ascending
 */
export function lastNotAfter(times: readonly number[], at: number): number {
  let low = 0
  let high = times.length
  while (low < high) {
    const middle = (low + high) >>> 1
    if ((times[middle] ?? Infinity) <= at) low = middle + 1
    else high = middle
  }
  return low - 1
}
