import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { probe } from '@render/probe'
import { isRecording, spokenMore } from '../../harness/browser'
import { twoPictures } from '../../harness/timed-take'
import { inBrowser } from '../../harness/stand'

const stand = inBrowser()
/** Most steps from anywhere on a page to what is wanted next. */
const FAR = 60

/** What has the focus: what it says, and whether it shows that it has it. */
const FOCUSED = `(() => {
  const one = document.activeElement
  const label = one.getAttribute('aria-label') ?? (one.labels?.[0]?.textContent ?? one.textContent ?? '').trim()
  const style = getComputedStyle(one)
  const box = one.getBoundingClientRect()
  return { label: label.replace(/\\s+/g, ' '), shows: style.outlineStyle !== 'none' || style.boxShadow !== 'none',
    inSight: box.width > 0 && box.bottom > 0 && box.top < innerHeight }
})()`

/** Goes on by the Tab key to what says something. @throws Error with what was passed when it is not reached */
async function tabTo(page: Page, says: RegExp): Promise<void> {
  const passed: string[] = []
  for (let n = 0; n < FAR; n += 1) {
    await page.keyboard.press('Tab')
    const { label, shows, inSight } = (await page.evaluate(FOCUSED)) as {
      readonly label: string
      readonly shows: boolean
      readonly inSight: boolean
    }
    passed.push(label.slice(0, 40))
    if (!says.test(label)) continue
    expect(shows, `${label} shows that it has the focus`).toBe(true)
    expect(inSight, `${label} is in sight`).toBe(true)
    return
  }
  throw new Error(`${String(says)} is not reached; passed ${passed.join(' | ')}`)
}

async function press(page: Page, says: RegExp): Promise<void> {
  await tabTo(page, says)
  await page.keyboard.press('Enter')
}

describe('the whole journey by keys alone', () => {
  it('goes from pictures to a file without a pointer', async () => {
    const page = await stand.browser.page()
    await page.goto(stand.product.url)
    await page.getByRole('heading', { name: 'Talks' }).waitFor()
    const choosing = page.waitForEvent('filechooser')
    await press(page, /^New talk/)
    await (await choosing).setFiles([...(await twoPictures(stand.product.data))])
    await page.getByRole('button', { name: 'Make this talk' }).waitFor()
    await press(page, /^Make this talk/)
    await page.getByRole('article', { name: 'Slide 2' }).waitFor()
    await tabTo(page, /Notes of slide 1/)
    await page.keyboard.type('Said by keys.')
    await press(page, /^(To the )?Lectern/)
    await page.locator('.el-dialog__footer .press.main:enabled').waitFor()
    await press(page, /^Use these/)
    await page.keyboard.press('r')
    await isRecording(page)
    await spokenMore(page, 2)
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 2)
    await page.keyboard.press('Escape')
    await press(page, /^Stop and keep/)
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor({ timeout: 120_000 })
    await press(page, /Listen in Review/)
    await page.locator('.visit').first().waitFor({ timeout: 120_000 })
    await press(page, /^(To )?Hand over/)
    await page.getByRole('button', { name: /Make this file/ }).waitFor()
    await press(page, /^Make this file/)
    const saved = page.getByRole('link', { name: /Download/ })
    await saved.waitFor({ timeout: 200_000 })
    const loading = page.waitForEvent('download')
    await press(page, /Download/)
    const file = join(stand.product.data, 'by-keys.mp4')
    await (await loading).saveAs(file)
    expect((await probe(file)).streams.map((stream) => stream.codec_name)).toEqual(expect.arrayContaining(['h264', 'aac']))
  })
})
