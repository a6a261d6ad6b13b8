import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { TalkView } from '@contracts'
import { WINDOW_RATE } from '@core/model'
import { checkRoom, endTake, newTalk, spokenMore, startBrowser } from '../../harness/browser'
import type { TestBrowser } from '../../harness/browser'
import { Client } from '../../harness/client'
import { startDisplay } from '../../harness/display'
import type { Display } from '../../harness/display'
import { colourGap, frameOf, meanColour } from '../../harness/film-file'
import { startProduct } from '../../harness/product'
import type { Product } from '../../harness/product'

let product: Product
let display: Display
let browser: TestBrowser
let folder: string
beforeAll(async () => {
  product = await startProduct()
  display = await startDisplay()
  browser = await startBrowser(['--auto-select-tab-capture-source-by-title=Swifts'], undefined, display.name)
  folder = await mkdtemp(join(tmpdir(), 'aisle-tab-'))
})
afterAll(async () => {
  await browser.close()
  display.end()
  await product.stop()
  await rm(folder, { recursive: true, force: true })
})

const GROUND = [32, 64, 96] as const

it("a tab is taken by the browser's own capture, is in the talk in its own colours, and its closing is said", async () => {
  const tab = await browser.page()
  const style = `margin:0;background:rgb(${GROUND.join(',')});color:#fff;font:48px sans-serif`
  await tab.setContent(`<title>Swifts</title><body style="${style}"><h1>Swifts</h1></body>`)
  const page = await browser.page()
  const talk = await newTalk(page, product.url, 'A tab')
  await checkRoom(page)
  await page.keyboard.press('q')
  const dialog = page.getByRole('dialog', { name: 'Show a window' })
  await dialog.getByRole('button', { name: /^Choose a window/ }).click()
  await dialog.getByText('A tab is ready').waitFor()
  await page.keyboard.press('Escape')
  await dialog.waitFor({ state: 'hidden' })
  await page.getByRole('button', { name: /^Record the talk/ }).click()
  await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
  await spokenMore(page, 1)
  await page.keyboard.press('q')
  await page.getByRole('button', { name: /^To the slides/ }).waitFor()
  await spokenMore(page, 3)
  await tab.close()
  const said = page.getByRole('alert').filter({ hasText: 'The window was closed' })
  await said.waitFor()
  await said.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('q')
  await page.getByRole('button', { name: /^Window/ }).waitFor()
  await spokenMore(page, 1)
  await endTake(page)

  const client = new Client(product.url)
  const { slides } = await client.get<TalkView>('GET', `/talks/${talk}`)
  const [clip] = slides[1]?.clips ?? []
  expect(clip).toMatchObject({ name: 'A tab', captured: true })
  const file = join(folder, 'tab.mp4')
  await writeFile(file, await client.bytes(`/talks/${talk}/assets/${clip?.media.file ?? ''}`))
  const { width = 0, height = 0 } = clip?.media.picture?.size ?? {}
  expect(Math.min(width, height)).toBeGreaterThan(500)
  for (const n of [WINDOW_RATE, 2 * WINDOW_RATE]) {
    const colour = meanColour(await frameOf(file, n), width, { x: 0.6, y: 0.6, w: 0.2, h: 0.2 })
    expect(colourGap(colour, GROUND)).toBeLessThan(8)
  }
  expect(browser.faults).toEqual([])
})
