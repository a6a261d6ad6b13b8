import { spawn } from 'node:child_process'
import { chmodSync, openSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from 'playwright-core'
import type { Page } from 'playwright-core'

export interface RunningProduct {
  readonly url: string
  readonly data: string
  /** From the start command to its first page, in ms. */
  readonly took: number
  readonly stop: () => Promise<void>
}

/** What benches run with so that they give memory back (scripts/sparing.sh): the product sets it itself where it wants it. */
const SPARING = ['MALLOC_ARENA_MAX', 'MALLOC_MMAP_THRESHOLD_', 'MALLOC_TRIM_THRESHOLD_', 'NODE_OPTIONS']

/** The environment of what a bench starts beside itself. */
export const ownEnvironment = (): NodeJS.ProcessEnv =>
  Object.fromEntries(Object.entries(process.env).filter(([name]) => !SPARING.includes(name)))

/** Starts the product by its own command, with a data folder of its own unless one is given, and waits for its first page. */
export async function startRunning(port: number, kept?: string): Promise<RunningProduct> {
  const data = kept ?? mkdtempSync(join(tmpdir(), 'aisle-running-'))
  if (kept === undefined) chmodSync(data, 0o755)
  const began = performance.now()
  const url = `http://127.0.0.1:${String(port)}`
  // What the product says goes to a file, if somebody wants to know.
  const log = process.env['AISLE_BENCH_LOG']
  const output = log === undefined ? 'ignore' : openSync(log, 'a')
  const child = spawn('./start.sh', ['--data', data, '--port', String(port)], {
    stdio: ['ignore', output, output],
    env: ownEnvironment(),
  })
  const gone = new Promise((resolve) => {
    child.once('exit', resolve)
  })
  const stop = async (): Promise<void> => {
    child.kill('SIGINT')
    await gone
    if (kept === undefined) rmSync(data, { recursive: true, force: true })
  }
  for (;;) {
    if (
      await fetch(url).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      return { url, data, took: performance.now() - began, stop }
    if (child.exitCode !== null) throw new Error('the start command ended')
    await new Promise((resolve) => {
      setTimeout(resolve, 50)
    })
  }
}

/** Opens a page of headless Chromium at 1280x800. @param switches more for the browser */
export async function openPage(switches: readonly string[] = []): Promise<{ readonly page: Page; readonly close: () => Promise<void> }> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--no-first-run',
      '--autoplay-policy=no-user-gesture-required',
      ...switches,
    ],
  })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  page.setDefaultTimeout(120_000)
  return { page, close: () => browser.close() }
}

/** Opens the first demo talk's Lectern, takes the devices and begins a take. */
export async function beginTake(page: Page, url: string): Promise<string> {
  const talks = (await (await fetch(`${url}/api/talks`)).json()) as { id: string; name: string }[]
  const talk = talks.find((one) => one.name === 'Counting swifts by ear')?.id ?? ''
  await page.goto(`${url}/talks/${talk}/lectern`)
  const use = page.getByRole('button', { name: 'Use these' })
  await use.waitFor()
  await page.locator('.el-dialog__footer .press.main:enabled').waitFor()
  await use.click()
  await page.getByRole('button', { name: /^Record the talk/ }).click()
  await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
  return talk
}
