import type { Ratio } from '@core/model'

/** Slowest and fastest that pictures are kept, in pictures a second. */
const RANGE = { least: 5, most: 60 } as const
/** What files at no rate of their own are made to have: those with times in hundredths of a second fit both. */
const SLOW: Ratio = { num: 25, den: 1 }
const FAST: Ratio = { num: 50, den: 1 }
/** Terms of rates that the trade has: more is no rate but a mean of times. */
const MOST_DEN = 1001

const parsed = (text: string): Ratio | null => {
  const [num = 0, den = 0] = text.split('/').map(Number)
  return Number.isInteger(num) && Number.isInteger(den) && num > 0 && den > 0 ? { num, den } : null
}

/**
 * The constant rate that a film is kept at: its own, if it has one, else one that is fast enough.
 * @param mean of its pictures, as `num/den` a second
 * @param own the rate by which its times can be told, likewise
 */
export function frameRate(mean: string, own: string): Ratio {
  const [average, exact] = [parsed(mean), parsed(own)]
  const rate = average === null ? 0 : average.num / average.den
  const constant = exact !== null && Math.abs(exact.num / exact.den - rate) < 0.01 * rate
  if (constant && exact.den <= MOST_DEN && rate >= RANGE.least && rate <= RANGE.most) return exact
  if (rate > RANGE.most) return { num: RANGE.most, den: 1 }
  return rate > SLOW.num ? FAST : SLOW
}
