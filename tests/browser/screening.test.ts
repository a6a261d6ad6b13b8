import { readFile } from 'node:fs/promises'
import { describe, expect, it } from 'vitest'
import type { TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, newTalk, startPlainBrowser } from '../harness/browser'
import { colourGap } from '../harness/film-file'
import { sendTake, toneRecording } from '../harness/recording'
import { screeningOf, shareTalk } from '../harness/screening'
import { colourIn, playButton, showsSlide, standsAt, threeSlides } from '../harness/screening-page'
import { inBrowser, otherBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'

const stand = inBrowser()
/** Another person's browser. */
const viewer = otherBrowser()

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
    await page
      .locator('.el-select')
      .filter({ has: page.getByRole('combobox', { name: 'Who may see it' }) })
      .click()
    await page.getByRole('option', { name: 'whoever has the link' }).click()
    const address = (await page.locator('.words a').getAttribute('href')) ?? ''
    // A worksheet and a link go with it, the link while the first slide is on.
    const withIt = page.getByRole('region', { name: 'With the talk' })
    await withIt
      .locator('input[type=file]')
      .setInputFiles({ name: 'knots to try.txt', mimeType: 'text/plain', buffer: Buffer.from('Try.') })
    await withIt.getByText('knots to try.txt').waitFor()
    await withIt.getByRole('button', { name: 'Add a link' }).click()
    for (const [name, text] of [
      ['Address of link 1', 'knots.example/bowline'],
      ['Name of link 1', 'The bowline, step by step'],
      [/^When link 1 comes/, '0:00'],
      ['When link 1 goes', '0:02'],
    ] as const) {
      await withIt.getByRole('textbox', { name }).fill(text)
      await withIt.getByRole('textbox', { name }).press('Enter')
    }
    await expect
      .poll(async () => (await screeningOf(stand.product.url, address.split('/s/')[1] ?? '')).links)
      .toEqual([{ address: 'https://knots.example/bowline', title: 'The bowline, step by step', during: { from: 0, to: 2000 } }])
    const watching = await viewer.browser.page()
    await watching.goto(address)
    await expect.poll(() => playButton(watching).isEnabled()).toBe(true)
    expect(await watching.getByRole('heading', { level: 1 }).textContent()).toBe('Knots to be shown')
    const spokenOf = watching.getByText('Spoken of now:')
    await spokenOf.waitFor()
    await playButton(watching).click()
    await expect.poll(() => standsAt(watching)).toBeGreaterThanOrEqual(1)
    expect(await showsSlide(watching, 0)).toBe(true)
    await playButton(watching, 'Stop').click()
    // Found by a word, and gone to.
    await watching.getByRole('searchbox').fill('clove')
    await watching
      .getByRole('link', { name: /Clove hitch/ })
      .first()
      .click()
    await expect.poll(() => showsSlide(watching, 1)).toBe(true)
    await spokenOf.waitFor({ state: 'detached' })
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
    // Its place is marked on its slide in Review, until it is answered.
    await page.getByRole('link', { name: 'Review', exact: true }).click()
    const mark = page.getByRole('button', { name: /^asked at/ })
    await mark.waitFor()
    expect(await mark.getAttribute('title')).toBe('Which hand begins?')
    await page
      .getByRole('tab', { name: 'Questions' })
      .or(page.getByRole('button', { name: 'Questions' }))
      .first()
      .click()
    const asked = page.getByRole('article').filter({ hasText: 'Which hand begins?' })
    await asked.getByRole('button', { name: 'Answer' }).click()
    await page.getByRole('textbox', { name: 'Your answer' }).fill('The one that holds the end.')
    await page.getByRole('button', { name: 'Answer', exact: true }).last().click()
    await page.getByText('for the asker alone').waitFor()
    await mark.waitFor({ state: 'detached' })
    await watching.reload()
    await watching.getByText('The one that holds the end.').waitFor()
    const taken = async (name: string | RegExp): Promise<Buffer> => {
      const download = watching.waitForEvent('download')
      await watching.getByRole('link', { name }).click()
      return await readFile(await (await download).path())
    }
    expect((await taken(/as PDF/)).subarray(0, 5).toString()).toBe('%PDF-')
    expect((await taken('knots to try.txt')).toString()).toBe('Try.')
    expect([...stand.browser.faults, ...viewer.browser.faults]).toEqual([])
  })
})

describe('a screening page', () => {
  it('can be used by everybody at every width, as far as a program can tell', async () => {
    const { path } = await threeSlides(stand.client, 'Knots for all')
    const page = await viewer.browser.page()
    for (const width of [360, 768, 1280, 1920]) {
      await page.setViewportSize({ width, height: 800 })
      await page.goto(`${stand.product.url}${path}`)
      await expect.poll(() => playButton(page).isEnabled()).toBe(true)
      await page.getByRole('button', { name: 'Ask the presenter' }).click()
      expect([width, await accessFaults(page)]).toEqual([width, []])
      const [inner, outer] = await page.evaluate<readonly number[]>(
        '[document.documentElement.scrollWidth, document.documentElement.clientWidth]',
      )
      expect([width, inner]).toEqual([width, outer])
    }
    expect(viewer.browser.faults).toEqual([])
  })

  it('shows the face where it belongs, goes on by itself after the line was lost, and remembers the place', async () => {
    const { path } = await threeSlides(stand.client, 'Knots on a bad line')
    const page = await viewer.browser.page()
    await page.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(page).isEnabled()).toBe(true)
    await viewer.browser.context.setOffline(true)
    await playButton(page).click()
    await page.waitForTimeout(10_000)
    await viewer.browser.context.setOffline(false)
    await expect.poll(() => standsAt(page)).toBeGreaterThanOrEqual(6)
    const magenta = async (): Promise<boolean> => {
      const places = [0.05, 0.1, 0.15, 0.85, 0.9, 0.95]
      const seen = await Promise.all(places.flatMap((x) => places.map((y) => colourIn(page, x, y))))
      return seen.some((colour) => colourGap(colour, [255, 0, 255]) < 70)
    }
    expect(await magenta()).toBe(true)
    await expect.poll(() => playButton(page).isVisible()).toBe(true)
    expect(await standsAt(page)).toBe(12)
    expect(viewer.browser.faults).toEqual([])
  })

  it('begins to play once its player is there, when that was asked for before', async () => {
    const { path } = await threeSlides(stand.client, 'Knots in a hurry')
    const page = await viewer.browser.page()
    let release = (): void => undefined
    const pressed = new Promise<void>((resolve) => {
      release = resolve
    })
    let held = 0
    await page.route('**/_nuxt/*.js', async (route) => {
      const response = await route.fetch()
      if ((await response.text()).includes('hlsMediaAttached')) {
        held += 1
        await pressed
      }
      await route.fulfill({ response })
    })
    await page.goto(`${stand.product.url}${path}`, { waitUntil: 'commit' })
    await expect.poll(() => playButton(page).isEnabled()).toBe(true)
    await expect.poll(() => held).toBeGreaterThanOrEqual(1)
    await playButton(page).click()
    release()
    await expect.poll(() => standsAt(page)).toBeGreaterThanOrEqual(1)
    expect(viewer.browser.faults).toEqual([])
  })

  it('tells what slides show: it waits at one that is described, says so, and goes on', async () => {
    const { talk, path } = await threeSlides(stand.client, 'Knots described')
    const { revision, slides } = await stand.client.get<TalkView>('GET', `/talks/${talk}`)
    const description = 'Two ropes, each laid twice around the other.'
    const edit = { kind: 'set', slides: [slides[1]?.id], fields: { description } }
    await stand.client.get('POST', `/talks/${talk}/deck`, { revision, edit })
    const page = await viewer.browser.page()
    await page.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(page).isEnabled()).toBe(true)
    await page.getByText('1 of 3 slides are described').waitFor()
    await page.getByLabel('Tell what slides show').check()
    await playButton(page).click()
    const told = page.getByRole('status').filter({ hasText: description })
    await told.waitFor()
    expect([await showsSlide(page, 1), await standsAt(page)]).toEqual([true, 4])
    expect(await accessFaults(page)).toEqual([])
    await playButton(page, 'Go on').click()
    await told.waitFor({ state: 'detached' })
    await expect.poll(() => standsAt(page)).toBe(12)
    // Once told is told.
    for (let n = 0; n < 3; n += 1) await page.keyboard.press('PageUp')
    await playButton(page).click()
    await expect.poll(() => standsAt(page)).toBeGreaterThanOrEqual(6)
    expect(viewer.browser.faults).toEqual([])
  })

  it('is swiped along by a finger where it is narrow, and a slab that is touched is gone to', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Many knots')
    // Twelve showings of two seconds.
    const cues = Array.from({ length: 11 }, (_, n) => ({ kind: 'show', at: 2000 * (n + 1), slide: slides[(n + 1) % 3], step: 0 }))
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
      { media: await toneRecording(24), length: 24_000, slide: slides[0] ?? '', cues },
    ])
    const { path } = await shareTalk(stand.client, talk)
    const page = await viewer.browser.page()
    await page.setViewportSize({ width: 360, height: 740 })
    const session = await page.context().newCDPSession(page)
    await session.send('Emulation.setTouchEmulationEnabled', { enabled: true })
    await page.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(page).isEnabled()).toBe(true)
    const aisle = page.getByRole('navigation', { name: 'Slides along the film' })
    const box = await aisle.boundingBox()
    if (box === null) throw new Error('no aisle')
    const swiped = () => aisle.evaluate((element) => element.scrollLeft)
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x: number) =>
      session.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y: box.y + 20 }] })
    await touch('touchStart', 320)
    for (let x = 310; x >= 40; x -= 10) await touch('touchMove', x)
    await touch('touchEnd', 0)
    await expect.poll(swiped).toBeGreaterThan(100)
    expect(await standsAt(page)).toBe(0)
    const last = page.getByRole('link', { name: /^Slide \d, .*, at 0:22$/ })
    await last.scrollIntoViewIfNeeded()
    const { x, width } = (await last.boundingBox()) ?? { x: 0, width: 0 }
    await touch('touchStart', x + width / 10)
    await touch('touchEnd', 0)
    await expect.poll(() => standsAt(page)).toBe(22)
    // What is on comes into sight by itself.
    await page.keyboard.press('PageUp')
    for (let n = 0; n < 11; n += 1) await page.keyboard.press('PageUp')
    await expect.poll(swiped).toBe(0)
    await session.detach()
    expect(viewer.browser.faults).toEqual([])
  })

  it('is read in a browser that runs no scripts', async () => {
    const { path } = await threeSlides(stand.client, 'Knots without scripts')
    const browser = await startPlainBrowser()
    const page = await browser.newPage({ javaScriptEnabled: false })
    await page.goto(`${stand.product.url}${path}`)
    await page.getByRole('heading', { name: 'Knots without scripts' }).waitFor()
    expect(await page.locator('noscript .notice').innerText()).toContain('This page plays with scripts switched on')
    expect(await page.getByText('Wait at each slide').isVisible()).toBe(false)
    // The first slide is there, and all that can be read.
    expect(await page.locator('.picture img').isVisible()).toBe(true)
    for (const words of ['Bowline', 'Clove hitch']) expect(await page.locator('.programme').getByText(words).first().isVisible()).toBe(true)
    await browser.close()
  })

  it('is there without scripts, and says nothing of what is closed', async () => {
    const { talk, path } = await threeSlides(stand.client, 'Knots in words')
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
