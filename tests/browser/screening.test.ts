import { readFile } from 'node:fs/promises'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, newTalk, startBrowser } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { KNOTS } from '../harness/decks'
import { colourGap } from '../harness/film-file'
import { facedRecording, sendTake } from '../harness/recording'
import { screeningOf, shareTalk } from '../harness/screening'
import { inBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'

const stand = inBrowser()
/** Another person's browser. */
let viewer: TestBrowser
beforeAll(async () => {
  viewer = await startBrowser()
})
afterAll(async () => {
  await viewer.close()
})

/** What is asked of a canvas in the page. */
interface Picture {
  readonly width: number
  readonly height: number
  readonly getContext: (
    kind: '2d',
  ) => { getImageData: (x: number, y: number, w: number, h: number) => { readonly data: Iterable<number> } } | null
}

/** The colour of a place in the picture, in fractions of it. */
const colourIn = (page: Page, x: number, y: number): Promise<readonly number[]> =>
  page
    .locator('canvas[role=img]')
    .first()
    .evaluate(
      (canvas, [x, y]) => {
        const picture = canvas as unknown as Picture
        const pixel = picture.getContext('2d')?.getImageData(Math.round(picture.width * x), Math.round(picture.height * y), 1, 1)
        return [...(pixel?.data ?? [])].slice(0, 3)
      },
      [x, y] as const,
    )
const showsSlide = async (page: Page, n: number): Promise<boolean> => colourGap(await colourIn(page, 0.5, 0.9), KNOTS[n]?.colour ?? []) < 12
/** Where the film stands, in s. */
async function standsAt(page: Page): Promise<number> {
  const [minutes, seconds] = ((await page.locator('.controls .clock').textContent()) ?? '').split(' of ')[0]?.split(':') ?? []
  return Number(minutes) * 60 + Number(seconds)
}
const playButton = (page: Page, name = 'Play') => page.getByRole('button', { name, exact: true })

/** Three slides of four seconds each, with a face. */
async function threeSlides(name: string): Promise<{ talk: string; path: string }> {
  const { talk, slides } = await knotsTalk(stand.client, name)
  const show = (at: number, n: number) => ({ kind: 'show', at, slide: slides[n], step: 0 })
  await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(12, 'magenta'),
      camera: true,
      length: 12_000,
      slide: slides[0] ?? '',
      cues: [show(4000, 1), show(8000, 2)],
    },
  ])
  const { path } = await shareTalk(stand.client, talk)
  return { talk, path }
}

describe('a talk that was just recorded', () => {
  it('is watched by its link in another browser: played, found in, waited at, asked about, taken along', async () => {
    const page = await stand.browser.page()
    await newTalk(page, stand.product.url, 'Knots to be shown')
    await beginTake(page)
    await page.waitForTimeout(2500)
    await page.keyboard.press('ArrowRight')
    await page.waitForTimeout(2500)
    await endTake(page)
    await page.getByRole('link', { name: 'Hand over', exact: true }).click()
    await page.getByRole('navigation', { name: 'Ways to hand over' }).getByRole('link', { name: /^Show/ }).click()
    await page.getByText('whoever has the link').click()
    const address = (await page.locator('.words a').getAttribute('href')) ?? ''
    const watching = await viewer.page()
    await watching.goto(address)
    await expect.poll(() => playButton(watching).isEnabled(), { timeout: 30_000 }).toBe(true)
    expect(await watching.getByRole('heading', { level: 1 }).textContent()).toBe('Knots to be shown')
    await playButton(watching).click()
    await expect.poll(() => standsAt(watching), { timeout: 60_000 }).toBeGreaterThanOrEqual(1)
    expect(await showsSlide(watching, 0)).toBe(true)
    await playButton(watching, 'Stop').click()
    // Found by a word, and gone to.
    await watching.getByRole('searchbox').fill('clove')
    await watching
      .getByRole('link', { name: /Clove hitch/ })
      .first()
      .click()
    await expect.poll(() => showsSlide(watching, 1)).toBe(true)
    // It stops at a slide's end, and goes on when it is told to.
    await watching.getByRole('searchbox').fill('')
    await watching.getByLabel('Wait at each slide').check()
    await watching.keyboard.press('PageUp')
    await watching.keyboard.press('PageUp')
    await playButton(watching).click()
    const goOn = watching.getByRole('button', { name: 'Go on to the next slide' })
    await goOn.waitFor()
    expect(await showsSlide(watching, 0)).toBe(true)
    await goOn.click()
    await expect.poll(() => showsSlide(watching, 1)).toBe(true)
    // A question reaches Review, and its answer comes back.
    await watching.getByRole('button', { name: 'Ask the presenter' }).click()
    await watching.getByLabel(/^Your question about/).fill('Which hand begins?')
    await watching.getByRole('button', { name: 'Send' }).click()
    await watching.getByText('Your question is with the presenter').waitFor()
    const asked = page.getByRole('article').filter({ hasText: 'Which hand begins?' })
    await asked.getByRole('button', { name: 'Answer' }).click()
    await page.getByRole('textbox', { name: 'Your answer' }).fill('The one that holds the end.')
    await page.getByRole('button', { name: 'Answer', exact: true }).last().click()
    await page.getByText('for the asker alone').waitFor()
    await watching.reload()
    await watching.getByText('The one that holds the end.').waitFor()
    const download = watching.waitForEvent('download')
    await watching.getByRole('link', { name: /as PDF/ }).click()
    const pdf = await readFile(await (await download).path())
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
    expect([...stand.browser.faults, ...viewer.faults]).toEqual([])
  })
})

describe('a screening page', () => {
  it('can be used by everybody at every width, as far as a program can tell', async () => {
    const { path } = await threeSlides('Knots for all')
    const page = await viewer.page()
    for (const width of [360, 768, 1280, 1920]) {
      await page.setViewportSize({ width, height: 800 })
      await page.goto(`${stand.product.url}${path}`)
      await expect.poll(() => playButton(page).isEnabled(), { timeout: 30_000 }).toBe(true)
      await page.getByRole('button', { name: 'Ask the presenter' }).click()
      expect([width, await accessFaults(page)]).toEqual([width, []])
      const [inner, outer] = await page.evaluate(
        () => [document.documentElement.scrollWidth, document.documentElement.clientWidth] as const,
      )
      expect([width, inner]).toEqual([width, outer])
    }
    expect(viewer.faults).toEqual([])
  })

  it('shows the face where it belongs, goes on by itself after the line was lost, and remembers the place', async () => {
    const { path } = await threeSlides('Knots on a bad line')
    const page = await viewer.page()
    await page.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(page).isEnabled(), { timeout: 30_000 }).toBe(true)
    await viewer.context.setOffline(true)
    await playButton(page).click()
    await page.waitForTimeout(3000)
    await viewer.context.setOffline(false)
    await expect.poll(() => standsAt(page), { timeout: 60_000 }).toBeGreaterThanOrEqual(6)
    const magenta = async (): Promise<boolean> => {
      const places = [0.05, 0.1, 0.15, 0.85, 0.9, 0.95]
      const seen = await Promise.all(places.flatMap((x) => places.map((y) => colourIn(page, x, y))))
      return seen.some((colour) => colourGap(colour, [255, 0, 255]) < 70)
    }
    expect(await magenta()).toBe(true)
    await expect.poll(() => playButton(page).isVisible(), { timeout: 60_000 }).toBe(true)
    expect(await standsAt(page)).toBe(12)
    expect(viewer.faults).toEqual([])
  })

  it('plays as a film to its end, once that is made, with another quality from the middle on', async () => {
    const { path } = await threeSlides('Knots as a film')
    const key = path.split('/')[2] ?? ''
    await expect.poll(async () => (await screeningOf(stand.product.url, key)).films, { timeout: 240_000 }).toEqual([480, 720, 1080])
    const page = await viewer.page()
    await page.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(page).isEnabled(), { timeout: 30_000 }).toBe(true)
    const choose = page.getByRole('combobox', { name: 'Picture' })
    const lines = (): Promise<number> => page.evaluate<number>('document.querySelector(".film video").videoHeight')
    await choose.selectOption({ label: 'film of 1080 lines' })
    await playButton(page).click()
    await expect.poll(lines, { timeout: 60_000 }).toBe(1080)
    await expect.poll(() => standsAt(page), { timeout: 60_000 }).toBeGreaterThanOrEqual(2)
    await choose.selectOption({ label: 'film of 480 lines' })
    await expect.poll(lines, { timeout: 60_000 }).toBe(480)
    await expect.poll(() => playButton(page).isVisible(), { timeout: 90_000 }).toBe(true)
    expect(await standsAt(page)).toBe(12)
    // A plain player gets it whole.
    const { media } = await screeningOf(stand.product.url, key)
    const whole = await fetch(`${stand.product.url}${media}/film.mp4`, { headers: { range: 'bytes=0-99' } })
    expect([whole.status, whole.headers.get('cache-control')]).toEqual([206, 'public, max-age=31536000, immutable'])
    expect(viewer.faults).toEqual([])
  })

  it('is there without scripts, and says nothing of what is closed', async () => {
    const { talk, path } = await threeSlides('Knots in words')
    const text = await (await fetch(`${stand.product.url}${path}`)).text()
    for (const words of ['Knots in words', 'Maren Holt', 'Bowline', 'Clove hitch', 'For everybody who ties boats up.', '<noscript'])
      expect(text).toContain(words)
    await shareTalk(stand.client, talk, { level: 'closed' })
    const closed = await fetch(`${stand.product.url}${path}`)
    const unknown = await fetch(`${stand.product.url}/s/${'A'.repeat(22)}`)
    expect([closed.status, unknown.status]).toEqual([404, 404])
    const body = await closed.text()
    expect(body).toContain('Nothing is shown here')
    for (const words of ['Knots', 'Maren', 'Bowline']) expect(body).not.toContain(words)
  })
})
