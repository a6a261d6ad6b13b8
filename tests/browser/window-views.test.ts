import { describe, expect, it } from 'vitest'
import { indexFilm, sceneAt } from '@core/scene'
import { PROGRAM_LENGTH } from '@core/practice'
import { toFilm } from '@contracts'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { checkRoom, endTake, makeFile, newTalk, spokenMore } from '../harness/browser'
import { colourGap, frameOf, meanColour } from '../harness/film-file'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()
const FPS = 30
const WIDTH = 1280
/** The head of the practice window, beside its words, and the bar that is chosen in it first. */
const HEAD = { x: 0.5, y: 0.02, w: 0.3, h: 0.05 }
const DARK_GREEN = [38, 68, 62] as const
/** The words in it: white on dark. */
const WORDS = { x: 0.03, y: 0.025, w: 0.24, h: 0.05 }

/** Lightest and darkest that is seen in a part of a frame. */
function contrastIn(frame: Buffer, part: { x: number; y: number; w: number; h: number }): number {
  const height = frame.length / 3 / WIDTH
  let [least, most] = [255, 0]
  for (let y = Math.round(part.y * height); y < (part.y + part.h) * height; y += 1)
    for (let x = Math.round(part.x * WIDTH); x < (part.x + part.w) * WIDTH; x += 1) {
      const green = frame[(y * WIDTH + x) * 3 + 1] ?? 0
      least = Math.min(least, green)
      most = Math.max(most, green)
    }
  return most - least
}

describe('a window at the Lectern', () => {
  it('is held ready, shown in the place of the slide over a pause, drawn on, left again, and is in the file', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'A program')
    await checkRoom(page)
    await page.keyboard.press('q')
    const dialog = page.getByRole('dialog', { name: 'Show a window' })
    await dialog.getByRole('button', { name: 'Practice window' }).click()
    await dialog.getByText('is ready').waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.keyboard.press('Escape')
    await dialog.waitFor({ state: 'hidden' })
    await page.getByRole('button', { name: /^Record the talk/ }).click()
    await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
    await spokenMore(page, 1)
    await page.keyboard.press('q')
    await page.getByRole('button', { name: /^To the slides/ }).waitFor()
    await spokenMore(page, PROGRAM_LENGTH / 1000)
    await page.keyboard.press('p')
    await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
    await page.keyboard.press('p')
    await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
    await spokenMore(page, 3)
    await page.keyboard.press('q')
    await page.getByRole('button', { name: /^Window/ }).waitFor()
    await spokenMore(page, 1)
    await endTake(page)
    expect(stand.browser.faults).toEqual([])

    const view = await stand.client.get<TalkView>('GET', `/talks/${talk}`)
    expect(view.slides[1]?.title).toBe('Practice window')
    // One for each stretch in which it was shown.
    expect(view.slides[1]?.clips?.map(({ captured, name }) => [captured, name])).toEqual([
      [true, 'Practice window'],
      [true, 'Practice window'],
    ])
    const index = indexFilm(toFilm(await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)))
    const visits = index.film.programme.pieces
    expect([...new Set(visits.map(({ slide }) => view.slides.findIndex(({ id }) => id === slide)))]).toEqual([0, 1])
    const shown = visits.flatMap(({ slide }, n) => (slide === view.slides[1]?.id ? [n] : []))
    const [from = 0, to = 0] = [index.starts[shown[0] ?? 0], index.starts[(shown.at(-1) ?? 0) + 1]]
    expect(to - from).toBeGreaterThan(PROGRAM_LENGTH)
    // At every moment of it there is something of the window, and somewhere it rests.
    const moments = Array.from({ length: 40 }, (_, n) => from + ((n + 0.5) * (to - from)) / 40)
    const scenes = moments.map((at) => sceneAt(index, at)?.clips ?? [])
    expect(scenes.map((clips) => clips.length)).toEqual(scenes.map(() => 1))
    const rest = moments.find((_, n) => n > 2 && scenes[n]?.[0]?.playing === false)
    expect(rest).toBeDefined()

    const file = await makeFile(page, 720)
    for (const at of moments.filter((_, n) => n % 6 === 0)) {
      const frame = await frameOf(file, Math.round((at / 1000) * FPS))
      expect(colourGap(meanColour(frame, WIDTH, HEAD), DARK_GREEN)).toBeLessThan(12)
    }
    expect(contrastIn(await frameOf(file, Math.round(((rest ?? 0) / 1000) * FPS)), WORDS)).toBeGreaterThan(160)
  })
})
