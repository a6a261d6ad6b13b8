import { extent, median } from 'd3'

/**
 * What pairs of runs in turn say: the machine's speed changes in minutes, so each run is held against its neighbour.
 * @param these times of one thing @param those times of what it is held against, one for each
 * @returns the median of the ratios, all of them in order, and their noise: how far the outermost are apart, as a share of the median
 */
export function medianPair(
  these: readonly number[],
  those: readonly number[],
): { readonly value: number; readonly ratios: readonly number[]; readonly noise: number } {
  const ratios = these.map((time, n) => time / (those[n] ?? NaN))
  const value = median(ratios) ?? NaN
  const [least = NaN, most = NaN] = extent(ratios)
  const round = (ratio: number): number => Number(ratio.toFixed(2))
  return { value: round(value), ratios: ratios.map(round), noise: round((most - least) / value) }
}
