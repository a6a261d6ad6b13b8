import { algebraRun } from '@core/testing'
import type { Figure } from './figure'

const RUNS = 10_000
const EDITS = 14

/** Random talks, edited at random and held to a list of their milliseconds after each edit. */
export function measure(): Promise<Figure> {
  const failed: string[] = []
  const began = performance.now()
  for (let seed = 1; seed <= RUNS; seed += 1) {
    try {
      algebraRun(seed, EDITS)
    } catch (error) {
      failed.push(error instanceof Error ? error.message : String(error))
    }
  }
  const value = RUNS - failed.length
  return Promise.resolve({
    value,
    unit: 'equal',
    target: `all of ${String(RUNS)}`,
    ok: failed.length === 0,
    detail: { runs: RUNS, edits: EDITS, seconds: Math.round((performance.now() - began) / 1000), failed: failed.slice(0, 20) },
  })
}
