import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Page } from 'playwright-core'
import type { DeliveryView } from '@contracts'
import { clicksOf, turnsOf } from './read-back'

/** A product that runs: its address and its data folder. */
export interface Running {
  readonly url: string
  readonly data: string
}

export const RATE = 30
const LINES = 480
/** Claps that correct a device. */
const CLAPS = 6

/** Where in the picture a slide is seen and no face. */
const CORNER = { x: 0.02, y: 0.02, width: 0.3, height: 0.3 }

export const sleep = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, ms)
  })
export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? NaN
export const worstOf = (values: readonly number[]): number => Math.max(...values.map((value) => Math.abs(value)))

export async function ask<Answer>(product: Running, method: string, path: string, body?: unknown): Promise<Answer> {
  const answer = await fetch(`${product.url}/api${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  if (!answer.ok) throw new Error(`${method} ${path}: ${String(answer.status)} ${await answer.text()}`)
  return (await answer.json()) as Answer
}

/** Draws a dark and a bright picture. @returns their files */
export async function twoPictures(folder: string): Promise<readonly string[]> {
  const files = ['dark', 'light'].map((name) => join(folder, `${name}.png`))
  for (const [n, file] of files.entries()) {
    const canvas = createCanvas(1280, 720)
    const ctx = canvas.getContext('2d')
    ctx.fillStyle = n === 0 ? '#101010' : '#F0F0F0'
    ctx.fillRect(0, 0, 1280, 720)
    await writeFile(file, canvas.toBuffer('image/png'))
  }
  return files
}

/** Makes a talk of a dark and a bright slide through the Talks page. */
export async function darkAndBright(page: Page, product: Running): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-two-'))
  const files = await twoPictures(folder)
  await page.goto(product.url)
  await page.setInputFiles('input[type=file]', [...files])
  await page.getByRole('button', { name: 'Make this talk' }).click()
  await page.getByRole('article', { name: 'Slide 2' }).waitFor()
  await rm(folder, { recursive: true })
  return /talks\/([0-9a-f-]+)\//.exec(page.url())?.[1] ?? ''
}

/** Waits until the room check lets a take begin. */
const mayBegin = (page: Page): Promise<void> => page.locator('.el-dialog__footer .press.main:enabled').waitFor()

/** Opens a talk's Lectern and leaves its room check. @param clap whether its devices are put right by claps first */
export async function checkedRoom(page: Page, product: Running, talk: string, clap: boolean, voiceOnly = false): Promise<void> {
  await page.goto(`${product.url}/talks/${talk}/lectern`)
  await mayBegin(page)
  if (voiceOnly) {
    await page.getByRole('button', { name: 'Voice only' }).click()
    await page.getByText('No camera: the video').waitFor()
    await mayBegin(page)
  }
  if (clap) {
    await page.getByRole('button', { name: 'Measure by a clap' }).click()
    await page.getByText(`By ${String(CLAPS)} claps.`).waitFor()
    await page.getByRole('button', { name: 'Put takes right by this' }).click()
    await page.getByText('Takes are put right by that.').waitFor()
  }
  await page.getByRole('button', { name: 'Use these' }).click()
}

/** Records from the start. @throws Error with what the page asks first, if it does */
export async function record(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Record the talk/ }).click()
  const doubts = page.locator('.doubt')
  const recording = page.getByRole('status').filter({ hasText: 'Recording' })
  const again = page.getByRole('button', { name: 'Record again', exact: true })
  await recording.or(doubts.first()).or(again).first().waitFor()
  if ((await doubts.count()) > 0) throw new Error(`it asks first: ${(await doubts.allTextContents()).join(' ')}`)
  if (await again.isVisible()) await again.click()
  await recording.waitFor()
}

/** Presses a key at clicks to come. @param every time between clicks @returns when each was pressed against its click, in ms */
export async function pressAtClicks(page: Page, every: number, keys: readonly string[]): Promise<readonly number[]> {
  const origin = Number(await page.evaluate('performance.timeOrigin'))
  const first = Math.ceil((Date.now() - origin + 400) / every)
  const before = Number(await page.evaluate('window.keysPressed.length'))
  for (const [n, key] of keys.entries()) {
    await sleep(Math.max(0, origin + (first + n) * every - Date.now()))
    await page.keyboard.press(key)
  }
  // The last click is heard to its end.
  await sleep(400)
  const pressed = (await page.evaluate(`window.keysPressed.slice(${String(before)})`)) as readonly { readonly at: number }[]
  return pressed.map(({ at }, n) => at - (first + n) * every)
}

export async function stopTake(page: Page): Promise<void> {
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Stop and keep' }).click()
  await page.getByRole('link', { name: 'Listen in Review' }).waitFor({ timeout: 300_000 })
}

/** Makes a file of a talk. @returns where it is */
export async function deliver(product: Running, talk: string): Promise<string> {
  const { id } = await ask<{ id: string }>(product, 'POST', `/talks/${talk}/deliveries`, {
    lines: LINES,
    quality: 'good',
    name: 'timed',
    limit: { kind: 'none' },
  })
  let delivery: DeliveryView | undefined
  do {
    await sleep(500)
    delivery = (await ask<DeliveryView[]>(product, 'GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
  } while (delivery?.state !== 'done' && delivery?.state !== 'failed')
  if (delivery.state === 'failed') throw new Error(delivery.sentence ?? 'the delivery failed')
  return join(product.data, 'store', 'deliveries', id, 'film.mp4')
}

/** How the last take of a talk was timed. */
export async function timingOf(product: Running, talk: string): Promise<string> {
  const { takes } = await ask<{ takes: { id: string }[] }>(product, 'GET', `/talks/${talk}`)
  return (await ask<{ timing: string }>(product, 'GET', `/takes/${takes[0]?.id ?? ''}/report`)).timing
}

/**
 * How far each slide change of a file is from the click at which it was asked for, in ms; negative: the click is late.
 * @param pressed how far each key was from its click, which is no fault of the product
 * @throws Error when not every change is found with its click
 */
export async function changesAgainstClicks(file: string, pressed: readonly number[]): Promise<readonly number[]> {
  const clicks = await clicksOf(file, 400)
  const changes = await turnsOf(file, RATE, CORNER)
  if (changes.length !== pressed.length) throw new Error(`${String(changes.length)} changes were found of ${String(pressed.length)}`)
  return changes.map(({ at }, n) => {
    // On a machine that is short of time a key may be pressed long after its click; how long is known.
    const asked = at - (pressed[n] ?? 0)
    const click = clicks.reduce((near, one) => (Math.abs(one - asked) < Math.abs(near - asked) ? one : near), Infinity)
    if (Math.abs(click - asked) > 500)
      throw new Error(
        `no click is near the change at ${String(at)} ms; changes at ${changes.map((one) => one.at.toFixed(0)).join(', ')}; ` +
          `clicks at ${clicks.map((one) => one.toFixed(0)).join(', ')}`,
      )
    return asked - click
  })
}
