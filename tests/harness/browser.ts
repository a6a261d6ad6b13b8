import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from 'playwright-core'
import type { Browser, BrowserContext, Page } from 'playwright-core'
import { KNOTS, makePdf } from './decks'
import { until } from './run-product'

export interface TestBrowser {
  readonly context: BrowserContext
  /** A new page; its errors fail the test that asks for `faults`. */
  readonly page: () => Promise<Page>
  readonly faults: string[]
  /** Ends a page's process, as a crash would. */
  readonly killPage: (page: Page) => Promise<void>
  /** Ends all of its processes at once. */
  readonly killBrowser: () => Promise<void>
  /** Closes the pages of a test that is over: their cameras would take the next one's time. */
  readonly closePages: () => Promise<void>
  readonly close: () => Promise<void>
}

const SWITCHES = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
]

/** Starts Debian's Chromium for contexts of other kinds: with a finger, without scripts. */
export const startPlainBrowser = (): Promise<Browser> => chromium.launch({ executablePath: '/usr/bin/chromium', args: SWITCHES })

/**
 * Starts Debian's Chromium with a profile of its own, so that what it stores survives its pages.
 * @param more switches for it
 * @param kept a profile that is there already, and stays
 * @param display a screen to be seen on; left out: it is not seen
 */
export async function startBrowser(more: readonly string[] = [], kept?: string, display?: string): Promise<TestBrowser> {
  const profile = kept ?? (await mkdtemp(join(tmpdir(), 'aisle-profile-')))
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: '/usr/bin/chromium',
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    ...(display === undefined ? {} : { headless: false, env: { ...process.env, DISPLAY: display } }),
    args: [...SWITCHES, ...more],
  })
  const faults: string[] = []
  return {
    context,
    faults,
    page: async () => {
      const page = await until('a new page', () => freshPage(context), 60_000)
      page.on('pageerror', (error) => {
        faults.push(error.message)
      })
      page.setDefaultTimeout(120_000)
      return page
    },
    killPage: async (page) => {
      const renderers = await processesOf(context, 'renderer')
      const crashed = page.waitForEvent('crash')
      for (const id of renderers) process.kill(id, 'SIGKILL')
      await crashed
    },
    killBrowser: async () => {
      const gone = new Promise((resolve) => {
        context.once('close', resolve)
      })
      for (const id of await processesOf(context, 'browser')) process.kill(id, 'SIGKILL')
      await gone
    },
    // The one that the browser came with stays, or it might go as well.
    closePages: async () => {
      for (const page of context.pages().slice(1)) await page.close()
    },
    close: async () => {
      await context.close()
      if (kept === undefined) await rm(profile, { recursive: true, force: true })
    },
  }
}

/** Ids of a browser's processes of a type. */
export async function processesOf(context: BrowserContext, type: 'renderer' | 'browser'): Promise<readonly number[]> {
  const session = await context.browser()?.newBrowserCDPSession()
  if (session === undefined) throw new Error('no browser to ask for its processes')
  const { processInfo } = await session.send('SystemInfo.getProcessInfo')
  return processInfo.filter((one) => one.type === type).map((one) => one.id)
}

/** A page, or nothing when the browser gave it a process that has just been killed. */
const freshPage = (context: BrowserContext): Promise<Page | false> =>
  Promise.race([
    context.newPage().catch(() => false as const),
    new Promise<false>((resolve) => {
      setTimeout(() => {
        resolve(false)
      }, 5000)
    }),
  ])

/**
 * Drops a deck on the Talks page and makes a talk of it.
 * @param deck left out: four knots as a PDF
 * @returns the talk's id once its run sheet shows three slides
 */
export async function newTalk(
  page: Page,
  url: string,
  name: string,
  deck?: { readonly name: string; readonly bytes: Uint8Array },
): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-deck-'))
  const file = join(folder, deck?.name ?? `${name}.pdf`)
  await writeFile(file, deck?.bytes ?? (await makePdf(KNOTS)))
  await page.goto(url)
  await page.setInputFiles('input[type=file]', file)
  await page.getByRole('textbox', { name: 'Name' }).fill(name)
  await page.getByRole('button', { name: 'Make this talk' }).click()
  await page.getByRole('article', { name: /^Slide 3/ }).waitFor({ timeout: 120_000 })
  await rm(folder, { recursive: true })
  return /talks\/([0-9a-f-]+)\//.exec(page.url())?.[1] ?? ''
}

/** Takes the devices that the room check offers. */
export async function takeDevices(page: Page): Promise<void> {
  const use = page.getByRole('button', { name: 'Use these' })
  await until('the devices', () => use.isEnabled(), 120_000)
  await use.click()
}

/** Goes to the Lectern and through its room check. */
export async function checkRoom(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Lectern', exact: true }).click()
  await takeDevices(page)
}

export const isRecording = async (page: Page): Promise<void> => {
  await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
}
export const isPaused = async (page: Page): Promise<void> => {
  await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
}

/** Goes to the Lectern, takes the practice devices, and records from the start. */
export async function beginTake(page: Page): Promise<void> {
  await checkRoom(page)
  await page.getByRole('button', { name: /^Record the talk/ }).click()
  await isRecording(page)
}

/** Chooses one of the other ways to record. */
export async function recordOtherwise(page: Page, way: string): Promise<void> {
  await page.getByRole('button', { name: 'More ways to record' }).click()
  await page.getByRole('button', { name: way }).click()
}

/** Seconds on the talk clock. */
export async function onClock(page: Page): Promise<number> {
  const [minutes, rest] = ((await page.locator('.clock.big').textContent()) ?? '0:00').split(':').map(Number)
  return (minutes ?? 0) * 60 + (rest ?? 0)
}

/** Waits until at least so many seconds more were spoken: the clock shows whole ones, and the first of them may be nearly over. */
export async function spokenMore(page: Page, seconds: number): Promise<void> {
  const end = (await onClock(page)) + seconds + 1
  await until(`${String(end)} s on the clock`, async () => (await onClock(page)) >= end, 240_000)
}

/** Stops the take and waits until it is ready to be heard. @throws Error with what the Lectern complains of, if it does */
export async function endTake(page: Page): Promise<void> {
  const complaints = await page.locator('.lectern > .notice').allTextContents()
  if (complaints.length > 0) throw new Error(`the Lectern says: ${complaints.join(' ')}`)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Stop and keep' }).click()
  await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
}

/** Draws a wave across the middle of the slide with the pen. @returns where its middle is, in fractions of the slide */
export async function drawWave(page: Page): Promise<{ x: number; y: number }> {
  await page.keyboard.press('1')
  await page.keyboard.press('w')
  const box = await page.locator('.stage').boundingBox()
  if (box === null) throw new Error('no stage')
  const at = (x: number, y: number): [number, number] => [box.x + box.width * x, box.y + box.height * y]
  await page.mouse.move(...at(0.3, 0.5))
  await page.mouse.down()
  for (let n = 1; n <= 40; n += 1) await page.mouse.move(...at(0.3 + n * 0.01, 0.5))
  await page.mouse.up()
  return { x: 0.5, y: 0.5 }
}

/** Makes a file in Hand over and waits until it is done. @returns where it was saved */
export async function makeFile(page: Page, lines: number): Promise<string> {
  await page.getByRole('link', { name: 'Hand over', exact: true }).click()
  await page.getByRole('button', { name: /^Resolution/ }).click()
  await page.getByRole('menuitem', { name: `${String(lines)} lines` }).click()
  await page
    .getByRole('button', { name: /^Resolution: / })
    .filter({ hasText: String(lines) })
    .waitFor()
  await page.getByRole('button', { name: 'Make this file' }).click()
  const link = page.getByRole('link', { name: 'Download' }).first()
  await link.waitFor({ timeout: 400_000 })
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()])
  return await download.path()
}
