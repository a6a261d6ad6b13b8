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
  stopTake,
  timingOf,
  worstOf,
} from '../tests/harness/timed-take'
import type { Figure } from './figure'

const { every } = FAITHFUL

interface Run {
  readonly offs: readonly number[]
  readonly timing: string
  readonly pressed: readonly number[]
}

/**
 * Records slide changes at clicks over several stretches, and reads them back from the file.
 * @param late time in the microphone of which nobody knows
 */
async function once(product: RunningProduct, late: number, clap: boolean, stretches: number): Promise<Run> {
  const { page, close } = await openPage()
  try {
    await standIn(page, { ...FAITHFUL, mic: { ...FAITHFUL.mic, late } })
    const talk = await darkAndBright(page, product)
    await checkedRoom(page, product, talk, clap)
    await record(page)
    const pressed: number[] = []
    for (let n = 0; n < stretches; n += 1) {
      if (n > 0) {
        await page.keyboard.press('p')
        await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
        await page.keyboard.press('p')
        await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
      }
      pressed.push(
        ...(await pressAtClicks(
          page,
          every,
          Array.from({ length: 10 }, (_, change) => (change % 2 === 0 ? 'ArrowRight' : 'ArrowLeft')),
        )),
      )
    }
    await page.waitForTimeout(every)
    await stopTake(page)
    return { offs: await changesAgainstClicks(await deliver(product, talk), pressed), timing: await timingOf(product, talk), pressed }
  } finally {
    await close()
  }
}

const said = ({ offs, timing, pressed }: Run): Readonly<Record<string, unknown>> => ({
  changes: offs.length,
  medianMs: Number(median(offs).toFixed(1)),
  worstMs: Number(worstOf(offs).toFixed(1)),
  timing,
  keysAfterClickMs: Number(median(pressed).toFixed(1)),
})

/**
 * Slide change against its click, read back from the exported file; also with time lost in the microphone, before and after it was put
 * right by claps.
 */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4394)
  try {
    const plain = await once(product, 0, false, 4)
    const wrong = [
      { late: 80, run: await once(product, 80, false, 1) },
      { late: 200, run: await once(product, 200, false, 1) },
    ]
    const right = [
      { late: 80, run: await once(product, 80, true, 4) },
      { late: 200, run: await once(product, 200, true, 4) },
    ]
    const runs = [plain, ...right.map(({ run }) => run)]
    const shown = wrong.every(({ late, run }) => Math.abs(median(run.offs) + late) < 25)
    const worst = Math.max(...runs.map(({ offs }) => worstOf(offs)))
    return {
      value: Math.round(worst),
      unit: 'ms',
      target: 'median within 20, worst within 45',
      ok: shown && worst <= 45 && runs.every(({ offs }) => Math.abs(median(offs)) <= 20),
      detail: {
        plain: said(plain),
        ...Object.fromEntries(wrong.map(({ late, run }) => [`mic${String(late)}Uncorrected`, said(run)])),
        ...Object.fromEntries(right.map(({ late, run }) => [`mic${String(late)}Corrected`, said(run)])),
        frameMs: 33.3,
      },
    }
  } finally {
    await product.stop()
  }
}
