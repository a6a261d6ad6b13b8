import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FilmView } from '@contracts'
import { isRecording, spokenMore, startPlainBrowser } from '../../harness/browser'
import { inBrowser } from '../../harness/stand'
import { twoPictures } from '../../harness/timed-take'

const stand = inBrowser()
let browser: Browser
beforeAll(async () => {
  browser = await startPlainBrowser()
})
afterAll(async () => {
  await browser.close()
})

/** Draws one line across the slide with a finger. */
async function drawnByFinger(page: Page): Promise<void> {
  const box = await page.locator('.stage').boundingBox()
  if (box === null) throw new Error('no slide to draw on')
  const session = await page.context().newCDPSession(page)
  const at = (share: number) => [{ x: box.x + box.width * (0.2 + 0.4 * share), y: box.y + box.height * 0.4 }]
  await session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(0) })
  for (let n = 1; n <= 20; n += 1) await session.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(n / 20) })
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
}

describe('the whole journey by touch', () => {
  it('goes from pictures over a stroke of the finger to a file', async () => {
    const context = await browser.newContext({ hasTouch: true, viewport: { width: 1024, height: 768 } })
    const page = await context.newPage()
    page.setDefaultTimeout(120_000)
    const tap = (name: string | RegExp, role: 'button' | 'link' = 'button') => page.getByRole(role, { name }).first().tap()
    await page.goto(stand.product.url)
    await page.setInputFiles('input[type=file]', [...(await twoPictures(stand.product.data))])
    await tap('Make this talk')
    await page.getByRole('article', { name: 'Slide 2' }).waitFor()
    const talk = /talks\/([0-9a-f-]+)\//.exec(page.url())?.[1] ?? ''
    await tap('Lectern', 'link')
    await page.locator('.el-dialog__footer .press.main:enabled').waitFor()
    await tap('Use these')
    await tap(/^Record the talk/)
    await isRecording(page)
    await spokenMore(page, 1)
    await tap(/^Pen/)
    await drawnByFinger(page)
    await spokenMore(page, 1)
    // All of it is in sight, in one row.
    const foot = await page.locator('.transport').evaluate((bar) => ({ wider: bar.scrollWidth - bar.clientWidth, high: bar.clientHeight }))
    expect(foot.wider).toBeLessThanOrEqual(0)
    expect(foot.high).toBeLessThan(70)
    await tap(/^Next/)
    await spokenMore(page, 2)
    await tap(/^Stop/)
    await tap('Stop and keep')
    await tap('Listen in Review', 'link')
    await page.locator('.visit').nth(1).waitFor()
    const film = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(film.stretches[0]?.cues.filter((cue) => cue.kind === 'ink')).toHaveLength(1)
    expect(film.stretches[0]?.cues.filter((cue) => cue.kind === 'show')).toHaveLength(1)
    await tap(/^Hand over$/, 'link')
    await tap(/^Make this file/)
    await page.getByRole('link', { name: /Download/ }).waitFor({ timeout: 200_000 })
    await context.close()
  })
})
