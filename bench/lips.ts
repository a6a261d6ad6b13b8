import type { PersonView } from '@contracts'
import { clicksOf, turnsOf } from '../tests/harness/read-back'
import { FAITHFUL, standIn } from '../tests/harness/stand-in'
import { openPage, startRunning } from './running-product'
import type { RunningProduct } from './running-product'
import { RATE, ask, checkedRoom, deliver, median, record, sleep, stopTake, timingOf, worstOf } from '../tests/harness/timed-take'
import type { Figure } from './figure'

const CLAPS = 20
/** Time lost in the stand-in's camera, in ms. */
const LATE = 120

interface Run {
  readonly offs: readonly number[]
  readonly clicks: number
  readonly timing: string
}

/** The demo talk whose first slide shows nothing but the face. */
async function faceTalk(product: RunningProduct): Promise<string> {
  const talks = await ask<readonly { readonly id: string; readonly name: string }[]>(product, 'GET', '/talks')
  return talks.find((one) => one.name === 'Counting swifts by ear')?.id ?? ''
}

/** Records claps and reads them back. @param late in the stand-in's camera; null: the practice devices that flash and click */
async function once(product: RunningProduct, late: number | null, clap: boolean): Promise<Run> {
  const { page, close } = await openPage()
  try {
    const every = late === null ? 2000 : FAITHFUL.every
    if (late === null) {
      const { person } = await ask<{ person: PersonView | null }>(product, 'GET', '/session')
      const device = (label: string) => ({ id: 'practice-clap', label })
      const habits = { camera: device('Practice flash (to test timing)'), mic: device('Practice click (to test timing)') }
      await page.addInitScript(`localStorage.setItem('aisle-habits:${person?.id ?? 'here'}', ${JSON.stringify(JSON.stringify(habits))})`)
    } else await standIn(page, { ...FAITHFUL, camera: { ...FAITHFUL.camera, late } })
    const talk = await faceTalk(product)
    await checkedRoom(page, product, talk, clap)
    await record(page)
    await sleep(CLAPS * every)
    await stopTake(page)
    const file = await deliver(product, talk)
    const flashes = (await turnsOf(file, RATE)).filter(({ bright }) => bright)
    const clicks = await clicksOf(file)
    const offs = clicks.flatMap((click) => {
      const flash = flashes.find((one) => Math.abs(one.at - click) < every / 3)
      return flash === undefined ? [] : [flash.at - click]
    })
    if (offs.length < CLAPS / 3)
      throw new Error(
        `only ${String(offs.length)} claps were found in ${String(clicks.length)} clicks and ${String(flashes.length)} flashes`,
      )
    return { offs, clicks: clicks.length, timing: await timingOf(product, talk) }
  } finally {
    await close()
  }
}

const said = ({ offs, clicks, timing }: Run): Readonly<Record<string, unknown>> => ({
  seen: offs.length,
  clicks,
  medianMs: Number(median(offs).toFixed(1)),
  leastMs: Number(Math.min(...offs).toFixed(1)),
  mostMs: Number(Math.max(...offs).toFixed(1)),
  timing,
})

/**
 * Flash against click, recorded at the Lectern, exported, and read back from the file; also with time lost in the camera, before and
 * after it was put right by claps.
 */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4393)
  try {
    const practice = await once(product, null, false)
    const plain = await once(product, 0, false)
    const wrong = await once(product, LATE, false)
    const right = await once(product, LATE, true)
    const worst = Math.max(...[practice, plain, right].map(({ offs }) => worstOf(offs)))
    const shown = Math.abs(median(wrong.offs) - LATE) < 35
    return {
      value: Math.round(worst),
      unit: 'ms',
      target: 'worst within 45',
      ok: shown && worst <= 45,
      detail: {
        practice: said(practice),
        standIn: said(plain),
        camera120Uncorrected: said(wrong),
        camera120Corrected: said(right),
        frameMs: Number((1000 / RATE).toFixed(1)),
      },
    }
  } finally {
    await product.stop()
  }
}
