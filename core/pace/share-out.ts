import type { Ms } from '@core/model'

/** What is shared out among slides. */
export interface Share<Id> {
  readonly id: Id
  /** As it is planned now; more than 0. */
  readonly planned: Ms
  /** It must not become shorter than this. */
  readonly least: Ms
}

export interface SharedOut<Id> {
  /** New times of those that change. */
  readonly times: ReadonlyMap<Id, Ms>
  /** Those that could not be made shorter, since they are at their least already. */
  readonly untouched: readonly Id[]
  /** How far the sum stays above what was wanted, when even the least of all is too much; else 0. */
  readonly short: Ms
}

/** Times are shared out in whole seconds. */
const UNIT: Ms = 1000

/**
 * Makes planned times add up to a total, each in proportion to what it was, none below its least. The sum is exact to the
 * second below the total, and a slide that was planned longer than another never ends up shorter than it unless its
 * least is smaller.
 * @param wanted the sum to come to, ms
 */
export function shareOut<Id>(shares: readonly Share<Id>[], wanted: Ms): SharedOut<Id> {
  const units = Math.max(0, Math.floor(wanted / UNIT))
  const now = shares.map((share) => Math.max(1, share.planned / UNIT))
  const sum = now.reduce((all, one) => all + one, 0)
  const growing = units >= sum
  // Whoever is below its least already may stay there, but goes no lower.
  const least = shares.map((share, n) => Math.ceil(Math.min(growing ? 0 : share.least / UNIT, now[n] ?? 0)))
  const floorSum = least.reduce((all, one) => all + one, 0)
  if (floorSum >= units && !growing) {
    const times = new Map(
      shares.map((share, n) => [share.id, (least[n] ?? 0) * UNIT] as const).filter(([, time], n) => time !== shares[n]?.planned),
    )
    return {
      times,
      untouched: shares.filter((share, n) => (least[n] ?? 0) * UNIT >= share.planned).map((share) => share.id),
      short: floorSum * UNIT - units * UNIT,
    }
  }
  const exact = inProportion(now, least, units)
  const whole = wholeUnits(exact, least, units)
  return {
    times: new Map(
      shares.flatMap((share, n) => ((whole[n] ?? 0) * UNIT === share.planned ? [] : [[share.id, (whole[n] ?? 0) * UNIT] as const])),
    ),
    untouched: growing ? [] : shares.filter((share, n) => (least[n] ?? 0) * UNIT >= share.planned).map((share) => share.id),
    short: 0,
  }
}

/** One factor for all, but never below the least: whoever would be is set to it, and the rest share again. */
function inProportion(now: readonly number[], least: readonly number[], units: number): readonly number[] {
  const held = new Set<number>()
  for (;;) {
    const free = now.reduce((all, one, n) => all + (held.has(n) ? 0 : one), 0)
    const left = units - least.reduce((all, one, n) => all + (held.has(n) ? one : 0), 0)
    const factor = free === 0 ? 0 : left / free
    const low = now.findIndex((one, n) => !held.has(n) && one * factor < (least[n] ?? 0))
    if (low === -1) return now.map((one, n) => (held.has(n) ? (least[n] ?? 0) : one * factor))
    held.add(low)
  }
}

/** Rounds to whole units whose sum is exact: the units that rounding down leaves go to the largest remainders. */
function wholeUnits(exact: readonly number[], least: readonly number[], units: number): readonly number[] {
  const down = exact.map((one, n) => Math.max(least[n] ?? 0, Math.floor(one + 1e-9)))
  let left = units - down.reduce((all, one) => all + one, 0)
  const order = exact
    .map((one, n) => ({ n, rest: one - (down[n] ?? 0), one }))
    .sort((a, b) => b.rest - a.rest || b.one - a.one || a.n - b.n)
  for (const { n } of order) {
    if (left <= 0) break
    down[n] = (down[n] ?? 0) + 1
    left -= 1
  }
  return down
}
