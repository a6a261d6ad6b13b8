import { describe, expect, it } from 'vitest'
import { frameAt } from '@core/plan'
import { visitsOf } from '@core/programme'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, makeFile, newTalk, spokenMore } from '../harness/browser'
import { frameOf, meanColour } from '../harness/film-file'
import { makeOfficeDeck } from '../harness/office-decks'
import type { MadeSlide } from '../harness/office-decks'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()

const WIDTH = 1280
/** Where the two boxes of a slide stand, in fractions of it, away from where the face goes. */
const FIRST = { x: 1.5 / 13.333, y: 3.5 / 7.5, w: 1 / 13.333, h: 1 / 7.5 }
const SECOND = { x: 5.5 / 13.333, y: 3.5 / 7.5, w: 1 / 13.333, h: 1 / 7.5 }

const SLIDES = 30
/** Every slide brings one box at once and another in a fade; some are more. */
const slide = (n: number): MadeSlide => ({
  put: (made) => {
    made.addText(`Evening ${String(n + 1)}`, { x: 1, y: 0.5, w: 8, h: 1, fontSize: 32 })
    made.addShape('rect', { x: 1, y: 3, w: 2, h: 2, fill: { color: 'CC3333' } })
    made.addShape('rect', { x: 5, y: 3, w: 2, h: 2, fill: { color: '3333CC' } })
  },
  effects: [
    { shape: 3, does: 'entrance', begins: 'click' },
    { shape: 4, does: 'entrance', how: 'fade', begins: 'click' },
    ...(n === 1 ? [{ shape: 3, does: 'emphasis', begins: 'click' } as const] : []),
  ],
  notes: `Say what was seen on evening ${String(n + 1)}.`,
  ...(n % 10 === 0 ? { section: `Week ${String(n / 10 + 1)}` } : {}),
})

describe('an office deck of thirty slides', () => {
  it('is dropped, read with its steps and notes, recorded click by click, and shows every click in the file at its time', async () => {
    const page = await stand.browser.page()
    const file = await makeOfficeDeck(Array.from({ length: SLIDES }, (_, n) => slide(n)))
    const talk = await newTalk(page, stand.product.url, 'Evenings at the wall', { name: 'evenings.pptx', bytes: file })
    const report = page.getByRole('region', { name: 'What came of the file' })
    await report.getByText('30 slides, with 60 steps and notes on all of them').waitFor({ timeout: 120_000 })
    await report.getByText('Slide 2: something grows, turns or changes colour').waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('textbox', { name: 'Heading above slide 1' }).waitFor()
    expect(await page.getByRole('textbox', { name: 'Notes of slide 1' }).inputValue()).toBe('Say what was seen on evening 1.')
    await report.getByRole('button', { name: 'Show' }).first().click()
    await expect.poll(() => page.getByRole('article', { name: /^Slide 2:/ }).getAttribute('class')).toContain('current')
    await report.getByRole('button', { name: 'Close' }).click()
    await report.waitFor({ state: 'detached' })
    const { slides } = await stand.client.get<TalkView>('GET', `/talks/${talk}`)
    expect(slides.every(({ steps }) => steps.length === 3)).toBe(true)
    // Nothing is in the face's way on any slide, so it never moves.
    expect(new Set(slides.map(({ proposedInset }) => JSON.stringify(proposedInset?.rect))).size).toBe(1)

    await page
      .getByRole('article', { name: /^Slide 1:/ })
      .locator('.left')
      .click()
    await beginTake(page)
    for (let clicks = 0; clicks < 5; clicks += 1) {
      await spokenMore(page, 1)
      await page.keyboard.press('ArrowRight')
    }
    await spokenMore(page, 1)
    await endTake(page)
    await page.getByRole('link', { name: 'Listen in Review' }).click()
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
    const made = await makeFile(page, 720)
    expect(stand.browser.faults).toEqual([])

    const film = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    const [stretch] = film.stretches
    const shows = (stretch?.cues ?? []).flatMap((cue) => (cue.kind === 'show' ? [cue] : []))
    expect(shows.map(({ step }) => step)).toEqual([1, 2, 0, 1, 2])
    expect(visitsOf(film.programme)).toHaveLength(2)
    const seen = async (at: number): Promise<readonly boolean[]> => {
      const frame = await frameOf(made, frameAt(at, 30))
      const [first, second] = [meanColour(frame, WIDTH, FIRST), meanColour(frame, WIDTH, SECOND)]
      return [first[0] - first[2] > 80, second[2] - second[0] > 80]
    }
    const wanted = [
      [false, false],
      [true, false],
      [true, true],
    ]
    // Shortly before the next click each step is there, and shortly before its own click what it brings is not.
    for (const [n, { step }] of shows.entries()) {
      const until = shows[n + 1]?.at ?? stretch?.length ?? 0
      expect(await seen(until - 100), `step ${String(step)} before ${String(until)} ms`).toEqual(wanted[step])
    }
    expect(await seen((shows[0]?.at ?? 0) - 70)).toEqual([false, false])
  })
})
