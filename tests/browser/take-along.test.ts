import { chmod, mkdtemp, rename, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { accessFaults } from '../harness/access'
import { startPlainBrowser } from '../harness/browser'
import { exported, unzippedInto } from '../harness/exports'
import { inBrowser } from '../harness/stand'
import { heardTalk } from '../harness/talks'

const stand = inBrowser()
let elsewhere: Browser
let folder: string
beforeAll(async () => {
  elsewhere = await startPlainBrowser()
  folder = await mkdtemp(join(tmpdir(), 'aisle-stick-'))
})
afterAll(async () => {
  await elsewhere.close()
  await rm(folder, { recursive: true })
})

/** Opens a page from the file system where there is no network. @returns it, and what it asked for beyond files */
async function openedFrom(top: string, javaScriptEnabled = true): Promise<{ readonly page: Page; readonly asked: readonly string[] }> {
  const context = await elsewhere.newContext({ viewport: { width: 1280, height: 800 }, offline: true, javaScriptEnabled })
  const page = await context.newPage()
  const asked: string[] = []
  page.on('request', (request) => {
    if (!/^(file|data):/.test(request.url())) asked.push(request.url())
  })
  await page.goto(pathToFileURL(join(top, 'watch.html')).href)
  return { page, asked }
}

/** How far a page has played, in seconds. */
const playedTo = (page: Page): Promise<number> =>
  page.locator('#media').evaluate((media) => (media as { currentTime?: number }).currentTime ?? 0)

it('is made by a press, saved, and played from a stick without network, server or leave to write', async () => {
  const talk = await heardTalk(stand.client, 'Knots for a stick')
  const page = await stand.browser.page()
  await page.goto(`${stand.product.url}/talks/${talk}/hand-over`)
  await page
    .getByRole('navigation', { name: 'Ways to hand over' })
    .getByRole('link', { name: /^Take along/ })
    .click()
  const row = page.getByRole('article', { name: 'A folder with the film' })
  await row.getByText('480 lines').click()
  await row.getByRole('button', { name: 'Make it', exact: true }).click()
  const saving = row.getByRole('link', { name: 'Save' })
  await saving.waitFor({ timeout: 120_000 })
  expect(await accessFaults(page)).toEqual([])
  const [download] = await Promise.all([page.waitForEvent('download'), saving.click()])
  expect(download.suggestedFilename()).toBe('aisle-knots-for-a-stick-without-internet.zip')
  const top = await unzippedInto(folder, await stand.client.bytes(`/talks/${talk}/exports/bundle/file`))
  await chmod(top, 0o555)

  const { page: watching, asked } = await openedFrom(top)
  await watching.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => playedTo(watching)).toBeGreaterThan(1)
  await watching.getByLabel('Captions').check()
  await watching.getByText('Skerrow harbour').last().waitFor()
  await watching.getByRole('searchbox').fill('three times')
  await watching.getByText(/in 1 of \d+ sentences/).waitFor()
  await watching.getByRole('button', { name: /three times/ }).click()
  await expect.poll(() => playedTo(watching)).toBeGreaterThan(1.5)
  expect(await accessFaults(watching)).toEqual([])
  expect(asked).toEqual([])
  await watching.context().close()

  // An old browser, of which the script is too much: the film with its own controls, and all words.
  const { page: old } = await openedFrom(top, false)
  expect(await old.locator('video[controls]').count()).toBe(1)
  await old.getByText('Turn the rope three times around the post').first().waitFor()
  await old.context().close()

  // Somebody copied only a part of the folder.
  await chmod(top, 0o755)
  await rename(join(top, 'film.mp4'), join(folder, 'elsewhere.mp4'))
  const { page: torn } = await openedFrom(top)
  await torn.getByRole('alert').getByText('“film.mp4” is missing from this folder').waitFor()
  await torn.getByText('Turn the rope three times around the post').first().waitFor()
  await torn.context().close()
})

it('shows slides with their ink and plays the voice in its small form', async () => {
  const talk = await heardTalk(stand.client, 'Knots in little')
  const { bytes } = await exported(stand.client, talk, { kind: 'small-bundle' })
  const top = await unzippedInto(folder, bytes)
  const { page, asked } = await openedFrom(top)
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => playedTo(page)).toBeGreaterThan(1)
  // The slide is drawn: more than one colour is on the canvas.
  const shot = await loadImage(await page.locator('#canvas').screenshot())
  const ctx = createCanvas(shot.width, shot.height).getContext('2d')
  ctx.drawImage(shot, 0, 0)
  const { data } = ctx.getImageData(0, 0, shot.width, shot.height)
  const colours = new Set(Array.from({ length: data.length / 400 }, (_, n) => data.slice(n * 400, n * 400 + 3).join())).size
  expect(colours).toBeGreaterThan(3)
  expect(await accessFaults(page)).toEqual([])
  expect(asked).toEqual([])
  await page.context().close()
})

it('is a talk again where its archive is brought in on the page of talks', async () => {
  const talk = await heardTalk(stand.client, 'Knots to come back')
  const { bytes, view } = await exported(stand.client, talk, { kind: 'archive' })
  const page = await stand.browser.page()
  await page.goto(stand.product.url)
  const file = { name: view.file, mimeType: 'application/zip', buffer: Buffer.from(bytes) }
  await page.setInputFiles('.ways input:not([multiple])', file)
  await page.waitForURL(/\/prepare$/)
  await page.getByRole('article', { name: /^Slide 3:/ }).waitFor({ timeout: 60_000 })
  await page.getByRole('link', { name: 'Review', exact: true }).click()
  await page.getByRole('button', { name: /^Play from 1/ }).waitFor()
  // What is said came along, and is not listened to anew.
  await page.getByText('Skerrow').first().waitFor()

  // Two films are not one talk; what is said is said where they were chosen.
  await page.goto(stand.product.url)
  const films = ['a.mp4', 'b.mp4'].map((name) => ({ name, mimeType: 'video/mp4', buffer: Buffer.from('film') }))
  await page.setInputFiles('.ways input[multiple]', films)
  await page.getByRole('alert').getByText('Choose one film').waitFor()
})
