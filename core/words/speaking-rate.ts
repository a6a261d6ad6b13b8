import { lastNotAfter } from '@core/scene'
import type { Ms } from '@core/model'

/** How fast somebody speaks at some time. */
export interface RatePoint {
  readonly at: Ms
  /** Words a minute; pauses count, so nothing is said where it is 0. */
  readonly wordsPerMinute: number
}

/** The rate is told at least so often, over so long. */
const EVERY: Ms = 4000
const OVER: Ms = 16_000
/** More points than that are seen by nobody. */
const MOST_POINTS = 1200

/**
 * Words a minute over a film.
 * @param words in order, in the film's time
 * @param length of the film, in ms
 */
export function speakingRates(words: readonly { readonly from: Ms }[], length: Ms): readonly RatePoint[] {
  if (length <= 0 || words.length === 0) return []
  const froms = words.map(({ from }) => from)
  const step = Math.max(EVERY, length / MOST_POINTS)
  const count = Math.max(1, Math.round(length / step))
  return Array.from({ length: count + 1 }, (_, n) => {
    const at = (length * n) / count
    const [begin, end] = [Math.max(0, at - OVER / 2), Math.min(length, at + OVER / 2)]
    const said = lastNotAfter(froms, end - 1) - lastNotAfter(froms, begin - 1)
    return { at, wordsPerMinute: Math.round((said * 60_000) / Math.max(1, end - begin)) }
  })
}

/** How fast is spoken at a time, in words a minute; null: that is not known. @param rates of `speakingRates`, which lie evenly */
export function rateAt(rates: readonly RatePoint[], at: Ms): number | null {
  const end = rates.at(-1)?.at ?? 0
  return end === 0 ? null : (rates[Math.floor((Math.max(0, Math.min(at, end)) * (rates.length - 1)) / end)]?.wordsPerMinute ?? null)
}
