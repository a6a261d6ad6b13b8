import { spawn } from 'node:child_process'
import type { Page } from 'playwright-core'
import { FAITHFUL } from '../harness/stand-in'
import { median, sleep } from '../harness/timed-take'
import { SPOKEN_LAST } from './row'
import type { Row } from './row'
import { setUp } from './stand'
import type { FaultStand } from './stand'
import { beginWatched, lostOf, openLectern } from './watched-take'

/** A camera as laptops have it. */
const LAPTOP = { ...FAITHFUL, camera: { ...FAITHFUL.camera, width: 1280, height: 720 } }
/** Times in a take at which something is killed, in ms: at random, and not before something was said. */
const someTime = (): number => 3000 + Math.random() * 5000

/** Comes back as a person does, and keeps what is offered. @returns what was said of it */
async function comeBack(stand: FaultStand, talk: string): Promise<string> {
  const page = await stand.browser.page()
  await page.goto(`${stand.product.url}/talks/${talk}/lectern`)
  const offer = page.getByText('was broken off').first()
  await offer.waitFor()
  const said = ((await offer.textContent()) ?? '').replace(/\s+/g, ' ').trim()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await offer.waitFor({ state: 'detached' })
  await page.close()
  return said
}

/** One take that is cut off. @returns what was lost and said */
async function cutOff(
  stand: FaultStand,
  cut: (page: Page) => Promise<void>,
  come: () => Promise<void>,
): Promise<{ readonly lost: number; readonly told: string }> {
  const { page, talk } = await openLectern(stand, LAPTOP)
  // The room check has seen whether this machine keeps up; a presenter takes that long to begin.
  await page.waitForTimeout(8000)
  const take = await beginWatched(page, talk)
  await sleep(someTime())
  const end = Date.now() - take.origin
  await cut(page)
  await come()
  const told = await comeBack(stand, talk)
  return { lost: await lostOf(stand, take, end), told }
}

async function repeated(
  fault: string,
  times: number,
  cut: (stand: FaultStand, page: Page) => Promise<void>,
  come: (stand: FaultStand) => Promise<void>,
): Promise<Row> {
  const stand = await setUp()
  try {
    const all: { lost: number; told: string }[] = []
    for (let n = 0; n < times; n += 1)
      all.push(
        await cutOff(
          stand,
          (page) => cut(stand, page),
          () => come(stand),
        ),
      )
    const lost = all.map((one) => one.lost)
    return {
      fault,
      lost: Math.max(...lost),
      most: SPOKEN_LAST,
      told: all[0]?.told ?? '',
      note: `${String(times)} times; median ${String(median(lost))} ms, worst ${String(Math.max(...lost))} ms`,
    }
  } finally {
    await stand.close()
  }
}

export const pageKilled = (times: number): Promise<Row> =>
  repeated(
    'page killed at a random moment',
    times,
    (stand, page) => stand.browser.killPage(page),
    () => Promise.resolve(),
  )

/** The same while another program keeps one of the processors busy. */
export async function pageKilledBusy(times: number): Promise<Row> {
  const busy = spawn(process.execPath, ['-e', 'for (;;) {}'], { stdio: 'ignore' })
  try {
    return { ...(await pageKilled(times)), fault: 'page killed while another program fills a processor' }
  } finally {
    busy.kill('SIGKILL')
  }
}

export const browserKilled = (times: number): Promise<Row> =>
  repeated(
    'whole browser killed',
    times,
    (stand) => stand.browser.killBrowser(),
    (stand) => stand.newBrowser(),
  )
