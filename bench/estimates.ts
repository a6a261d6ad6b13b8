import type { Recipe } from '@core/model'
import { deliverNow, demoProduct, demoTalk, forgetParts, lookedAt } from './demo-product'
import type { Figure } from './figure'

const MOST_SIZE = 25
const MOST_TIME = 30
const MOST_LEFT = 20
const without = (face: boolean, ink: boolean, voice: boolean): Partial<Recipe> => ({ without: { face, ink, voice } })
/** Files as different as they come. */
const WANTED: readonly Partial<Recipe>[] = [
  { lines: 720 },
  { lines: 1080 },
  { lines: 480, quality: 'small' },
  { lines: 720, quality: 'fine' },
  { lines: 1080, ...without(true, false, false) },
  { lines: 720, rate: 60 },
  { lines: 720, format: 'webm' },
  { lines: 480, part: { kind: 'range', from: 20_000, to: 80_000 } },
  { format: 'mp3' },
  { lines: 720, ...without(true, true, false) },
]

/**
 * Ten files, each estimated after a look at the talk before it is made: how far size and time were off, in percent of what came. The
 * last of both counts; every part is made anew.
 */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    const off = (said: number, was: number): number => Math.round(((said - was) / was) * 100)
    const rows: {
      readonly recipe: Partial<Recipe>
      readonly size: number
      readonly time: number
      readonly left: number | null
      readonly ms: number
    }[] = []
    for (const recipe of WANTED) {
      await lookedAt(talk, recipe)
      await forgetParts()
      const { facts, estimate, leftOff } = await deliverNow(talk, recipe)
      rows.push({
        recipe,
        size: off(estimate.bytes, facts.bytes),
        time: off(estimate.time, facts.madeIn),
        left: leftOff === null ? null : Math.round(leftOff * 100),
        ms: facts.madeIn,
      })
      console.log(JSON.stringify(rows.at(-1)))
    }
    const worst = (of: (row: (typeof rows)[number]) => number): number => Math.max(...rows.map((row) => Math.abs(of(row))))
    const [size, time] = [worst((row) => row.size), worst((row) => row.time)]
    const left = worst((row) => row.left ?? 0)
    return {
      value: Math.max(size, time),
      unit: '%',
      target: `size within ${String(MOST_SIZE)}, time within ${String(MOST_TIME)}, time left within ${String(MOST_LEFT)} after a tenth`,
      ok: size <= MOST_SIZE && time <= MOST_TIME && left <= MOST_LEFT,
      detail: { size, time, left, rows },
    }
  } finally {
    end()
  }
}
