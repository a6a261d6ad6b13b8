import { randomUUID } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import type { FilmView, TalkView } from '@contracts'
import { programmeLength } from '@core/programme'
import { accessFaults } from '../harness/access'
import { takeDevices } from '../harness/browser'
import { keepAsBefore } from '../harness/kept-before'
import { toneRecording } from '../harness/recording'
import { inBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'

const stand = inBrowser()

describe('someone who begins without a deck', () => {
  it('begins by a layout or an outline, in the dark, and puts the notes where the camera is', async () => {
    const page = await stand.browser.page()
    await page.goto(stand.product.url)
    await page.getByRole('button', { name: 'An empty deck' }).click()
    await page.getByRole('textbox', { name: 'Outline' }).fill('Reef knot\n  left over right\n  right over left\nBowline')
    await page.getByRole('button', { name: 'Light or dark' }).click()
    await page.getByRole('menuitem', { name: 'Dark' }).click()
    await page.getByRole('menuitem', { name: 'Dark' }).waitFor({ state: 'hidden' })
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'Make slides of it' }).click()
    await page.getByRole('article', { name: 'Slide 2' }).waitFor()
    const talk = /talks\/([0-9a-f-]+)\//.exec(page.url())?.[1] ?? ''
    const slides = (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).slides.map(({ composition }) => [
      composition?.heading,
      composition?.body,
    ])
    expect(slides).toEqual([
      ['Reef knot', '- left over right\n- right over left'],
      ['Bowline', ''],
    ])
    expect(await accessFaults(page)).toEqual([])

    await page.goto(stand.product.url)
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'An empty deck' }).click()
    await page.getByRole('button', { name: 'Claim' }).click()
    await page.getByRole('article', { name: 'Slide 1' }).waitFor()

    await page.getByRole('link', { name: 'To the Lectern' }).click()
    await takeDevices(page)
    const left = async (name: string): Promise<number> => (await page.locator(name).boundingBox())?.x ?? NaN
    await page.getByRole('button', { name: 'notes at the top' }).click()
    await page.getByRole('menuitem', { name: 'on the right' }).click()
    await expect.poll(() => left('.band')).toBeGreaterThan(await left('.stage'))
    const talkClock = page.getByRole('button', { name: 'landing', exact: true })
    await talkClock.click()
    await expect.poll(() => talkClock.getAttribute('aria-pressed')).toBe('true')
    await page.reload()
    await takeDevices(page)
    // Remembered for this camera.
    await page.getByRole('button', { name: 'notes on the right' }).waitFor()
    expect(stand.browser.faults).toEqual([])
  })

  it('is told by the self-test what there is, as text to send', async () => {
    const page = await stand.browser.page()
    await stand.browser.context.grantPermissions(['clipboard-read', 'clipboard-write'])
    await page.goto(`${stand.product.url}/self-test`)
    await page.getByRole('button', { name: 'Measure again' }).waitFor()
    for (const name of ['Recorder', 'Encoder', 'Keeping a chunk', 'Server', 'Picture and voice'])
      await page.getByRole('term').filter({ hasText: name }).waitFor()
    await page.getByRole('button', { name: 'Copy as text' }).click()
    await page.getByRole('button', { name: 'Copied' }).waitFor()
    const text = String(await page.evaluate('navigator.clipboard.readText()'))
    expect(text).toMatch(/Aisle Talk self-test[\s\S]*Recorder: VP8 and Opus[\s\S]*Encoder: kept[\s\S]*Keeping a chunk: [\d.]+ ms/)
    expect(await accessFaults(page)).toEqual([])
    expect(stand.browser.faults).toEqual([])
  })
})

describe('a take that an older page kept in this browser', () => {
  it('is offered by the new one, and kept with all that was said', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Kept before')
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/mark.svg`)
    const media = (await toneRecording(3)).toString('base64')
    await keepAsBefore(page, {
      media,
      take: { id: randomUUID(), talk, kind: 'full', intent: { kind: 'replaceAll' }, stopped: false, began: Date.now() - 60_000 },
      stretch: {
        id: randomUUID(),
        number: 0,
        camera: false,
        voice: true,
        mime: 'audio/webm;codecs=opus',
        opening: { slide: slides[0] ?? '', step: 0, blank: false, inset: true, ink: [] },
        offsets: { picture: 0, sound: 0 },
        kept: null,
      },
    })
    await page.goto(`${stand.product.url}/talks/${talk}/prepare`)
    await page.getByRole('button', { name: 'Keep it' }).click()
    await expect
      .poll(async () => programmeLength((await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)).programme))
      .toBeGreaterThan(2500)
    expect(stand.browser.faults).toEqual([])
  })
})
