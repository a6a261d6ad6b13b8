import { FAITHFUL, standIn } from '../tests/harness/stand-in'
import { openPage, startRunning } from './running-product'
import type { RunningProduct } from './running-product'
import {
  changesAgainstClicks,
  checkedRoom,
  darkAndBright,
  deliver,
  median,
  pressAtClicks,
  record,
  sleep,
  stopTake,
  timingOf,
} from '../tests/harness/timed-take'
import type { Figure } from './figure'

const { every } = FAITHFUL
const MINUTES = 20
const CHANGES = 20
const keys = Array.from({ length: CHANGES }, (_, n) => (n % 2 === 0 ? 'ArrowRight' : 'ArrowLeft'))

interface Drifted {
  readonly ppm: number
  readonly apart: number
  readonly start: number
  readonly end: number
  readonly timing: string
}

/** One stretch of twenty minutes with a microphone whose clock runs fast or slow: changes at its beginning against changes at its end. */
async function once(product: RunningProduct, ppm: number): Promise<Drifted> {
  const { page, close } = await openPage()
  try {
    await standIn(page, { ...FAITHFUL, mic: { ...FAITHFUL.mic, ppm } })
    const talk = await darkAndBright(page, product)
    await checkedRoom(page, product, talk, false, true)
    await record(page)
    const began = Date.now()
    const pressed = [...(await pressAtClicks(page, every, keys))]
    await sleep(MINUTES * 60_000 - CHANGES * every - 5000 - (Date.now() - began))
    pressed.push(...(await pressAtClicks(page, every, keys)))
    await page.waitForTimeout(every)
    await stopTake(page)
    const offs = await changesAgainstClicks(await deliver(product, talk), pressed)
    const [start, end] = [median(offs.slice(0, CHANGES)), median(offs.slice(CHANGES))]
    return { ppm, apart: Math.abs(end - start), start, end, timing: await timingOf(product, talk) }
  } finally {
    await close()
  }
}

/**
 * Slide changes against clicks at the start and at the end of 20 real minutes, the microphone's clock off by 200 parts in a million
 * either way.
 */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4395)
  try {
    const runs = await Promise.all([once(product, 200), once(product, -200)])
    const apart = Math.max(...runs.map((run) => run.apart))
    return {
      value: Number(apart.toFixed(1)),
      unit: 'ms',
      target: 'under 20 apart',
      ok: apart < 20,
      detail: { minutes: MINUTES, runs, uncorrectedWouldBeMs: MINUTES * 60 * 0.2 },
    }
  } finally {
    await product.stop()
  }
}
