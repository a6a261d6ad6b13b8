import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import type { FilmView } from '@contracts'
import type { Ms } from '@core/model'
import { checkRoom, newTalk } from '../harness/browser'
import { until } from '../harness/run-product'
import { FAITHFUL, standIn } from '../harness/stand-in'
import type { StandIn } from '../harness/stand-in'
import type { FaultStand } from './stand'

const RATE = 48_000
/** A click that is farther than this from where it belongs does not count as kept, in ms. */
const NEAR = 60

/** A take of which is known what must be in it: a microphone that clicks at known times, and keys pressed at known times. */
export interface WatchedTake {
  readonly page: Page
  readonly talk: string
  /** Where the page's clock began, on the clock on the wall. */
  readonly origin: number
  /** When the first slide change was asked for, on the page's clock. */
  readonly marked: number
}

/** Opens a new talk's Lectern with stand-in devices. @param scripts more for the page, before it loads */
export async function openLectern(
  stand: FaultStand,
  plan: StandIn = FAITHFUL,
  scripts: readonly string[] = [],
): Promise<{ readonly page: Page; readonly talk: string }> {
  const page = await stand.browser.page()
  for (const script of scripts) await page.addInitScript(script)
  await standIn(page, plan)
  const talk = await newTalk(page, stand.product.url, 'Hitches')
  await checkRoom(page)
  return { page, talk }
}

/** Records, and changes the slide once, which tells when the recording began. */
export async function beginWatched(page: Page, talk: string): Promise<WatchedTake> {
  await page.getByRole('button', { name: /^Record the talk/ }).click()
  await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
  const origin = Number(await page.evaluate('performance.timeOrigin'))
  await page.keyboard.press('ArrowRight')
  const keys = (await page.evaluate('window.keysPressed')) as readonly { readonly key: string; readonly at: number }[]
  return { page, talk, origin, marked: keys.findLast(({ key }) => key === 'ArrowRight')?.at ?? 0 }
}

/** What the page tells the person now. */
export async function told(page: Page): Promise<string> {
  const lines = await page.locator('[role=alert] p, .net').allTextContents()
  return [...new Set(lines.map((line) => line.replace(/\s+/g, ' ').trim()).filter((line) => line !== ''))].join(' / ')
}

/** Stops a take and waits until it is ready. @returns when it was asked to stop, on the page's clock */
export async function stopWatched(take: WatchedTake): Promise<number> {
  await take.page.keyboard.press('Escape')
  await take.page.getByRole('button', { name: 'Stop and keep' }).click()
  const stopped = Number(await take.page.evaluate('window.clickedAt'))
  await take.page.getByRole('link', { name: 'Listen in Review' }).waitFor({ timeout: 400_000 })
  return stopped
}

/** Clicks in a stretch's voice, in ms of the stretch. */
async function clicksIn(data: string, stretch: string): Promise<readonly Ms[]> {
  const bytes = await readFile(join(data, 'store', 'stretches', stretch, 'voice.pcm'))
  const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 2)
  const clicks: number[] = []
  let last = -Infinity
  for (const [n, sample] of samples.entries()) {
    if (Math.abs(sample) < 10_000) continue
    const at = (n / RATE) * 1000
    if (at - last > 400) clicks.push(at)
    last = at
  }
  return clicks
}

/**
 * How much of a take is missing, in ms: what was said until it ended and is not in it, clicks that should be heard and are not, and
 * slide changes that were asked for and are not there.
 * @param end when it ended, on the page's clock
 */
export async function lostOf(stand: FaultStand, take: WatchedTake, end: number, changes = 1): Promise<number> {
  const film = await until('the film', async () => {
    const view = await stand.client.get<FilmView>('GET', `/talks/${take.talk}/film`)
    return view.programme.pieces.length > 0 && view
  })
  const [first] = film.stretches
  const shows = film.stretches.flatMap((stretch) => stretch.cues.filter((cue) => cue.kind === 'show'))
  const [show] = shows
  if (first === undefined || show === undefined) return end - take.marked
  const began = take.marked - show.at
  let lost = (changes - shows.length) * 1000
  let at = began
  // Stretches of one take follow each other; each says for itself where its clicks must be.
  for (const stretch of film.stretches) {
    const heard = await clicksIn(stand.product.data, stretch.id)
    const { every } = FAITHFUL
    for (let click = Math.ceil((at + 30) / every) * every; click < Math.min(at + stretch.length, end) - 60; click += every) {
      if (!heard.some((one) => Math.abs(one - (click - at)) < NEAR)) lost += every
    }
    at += stretch.length
  }
  return Math.max(0, Math.round(lost + Math.max(0, end - at)))
}
