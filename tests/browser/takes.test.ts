import { describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { frameAt } from '@core/plan'
import { programmeLength, visitsOf } from '@core/programme'
import type { FilmView, TalkView } from '@contracts'
import { probe } from '@render/probe'
import {
  beginTake,
  checkRoom,
  drawWave,
  endTake,
  isPaused,
  isRecording,
  makeFile,
  newTalk,
  onClock,
  recordOtherwise,
  spokenMore,
  takeDevices,
} from '../harness/browser'
import { KNOTS } from '../harness/decks'
import { colourGap, frameOf, levelOf, meanColour, meanLevel } from '../harness/film-file'
import { until } from '../harness/product'
import { inBrowser } from '../harness/stand'
import { timed } from '../harness/turns'

const stand = inBrowser()
const filmOf = (talk: string): Promise<FilmView> => stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
const GROUND = { x: 0.3, y: 0.75, w: 0.3, h: 0.1 }
const WIDTH = 854

/** The practice voice pauses for a second now and then: in so many seconds it is heard wherever they begin. */
const HEARD = 3

/** A talk on which slides one and two were recorded. */
async function recordedTalk(page: Page, name: string): Promise<string> {
  const talk = await newTalk(page, stand.product.url, name)
  await beginTake(page)
  await spokenMore(page, HEARD)
  await page.keyboard.press('ArrowRight')
  await spokenMore(page, HEARD)
  await endTake(page)
  return talk
}
const slidesOf = async (talk: string): Promise<readonly string[]> =>
  (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).slides.map((slide) => slide.id)

describe('a take', () => {
  it('ends at the limit by itself, to the millisecond, having warned', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Short knots')
    await stand.client.get('PATCH', `/talks/${talk}`, { limit: 12_000 })
    await checkRoom(page)
    await page.getByRole('button', { name: 'More ways to record' }).click()
    await page.getByText('End at the limit').click()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Record the talk' }).click()
    await isRecording(page)
    await page.getByRole('status').filter({ hasText: 'Ends in' }).waitFor()
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor({ timeout: 240_000 })
    await page.getByText('The talk is 0:12 long, 0:00 in hand').waitFor()
    const film = await filmOf(talk)
    expect(programmeLength(film.programme)).toBe(12_000)
    const file = await makeFile(page, 480)
    const found = await probe(file)
    for (const length of [found.format.duration, ...found.streams.map((stream) => stream.duration)])
      expect(Number(length)).toBeLessThanOrEqual(12)
    expect(stand.browser.faults).toEqual([])
  })

  it('has a slide said again while it is paused, after hearing it, and goes on from a chosen place', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots said again')
    await beginTake(page)
    await drawWave(page)
    await spokenMore(page, 1)
    await page.keyboard.press('ArrowRight')
    const second = await onClock(page)
    await drawWave(page)
    await spokenMore(page, 3)
    await page.keyboard.press('p')
    await isPaused(page)
    await page.getByRole('button', { name: 'Hear this slide' }).click()
    // It is heard: the place moves on from where the slide came.
    const back = page.getByRole('region', { name: 'Hear and say again' })
    await until('it to be heard', async () => Number(await back.getByRole('slider').inputValue()) > (second + 1) * 1000, 60_000)
    await page.getByRole('button', { name: 'Say this slide again' }).click()
    await isRecording(page)
    await spokenMore(page, 1)
    await page.keyboard.press('p')
    await isPaused(page)
    await back.getByRole('slider').press('Home')
    await back.getByRole('slider').press('ArrowRight')
    const chosen = Number(await back.getByRole('slider').inputValue())
    await page.getByRole('button', { name: /^Go on from/ }).click()
    await isRecording(page)
    await spokenMore(page, 2)
    await endTake(page)

    const film = await filmOf(talk)
    const [one, two] = await slidesOf(talk)
    // Both slides are there; of the second only what was said last, and the wave drawn on it the first time is gone.
    expect(visitsOf(film.programme).map((visit) => visit.slide)).toEqual(chosen > second * 1000 ? [one, two] : [one])
    expect(timed(film, 'ink').map(({ cue }) => cue.stroke.slide)).toEqual(chosen > 1500 ? [one] : [])
    // The programme counts what the clock counted: what was said over is in neither, though the recordings hold it.
    const recorded = film.stretches.reduce((sum, stretch) => sum + stretch.length, 0)
    expect(programmeLength(film.programme)).toBeLessThan(recorded - 3000)
    expect(programmeLength(film.programme)).toBeGreaterThan(chosen + 1400)
    expect(stand.browser.faults).toEqual([])
  })

  it('goes on without a gap when the camera is switched off, and on again', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots half seen')
    await beginTake(page)
    await spokenMore(page, 1)
    await page.keyboard.press('c')
    await page.getByRole('button', { name: 'Camera is off' }).waitFor()
    await spokenMore(page, 1)
    await page.keyboard.press('c')
    await page.getByRole('button', { name: 'Camera off' }).waitFor()
    await spokenMore(page, 1)
    await page.keyboard.press('p')
    await isPaused(page)
    const said = await onClock(page)
    // Another tab is told that this one is recording.
    const tab = await stand.browser.page()
    await tab.goto(`${stand.product.url}/talks/${talk}/lectern`)
    await takeDevices(tab)
    await tab.getByRole('button', { name: 'Record the talk' }).click()
    await tab.getByRole('alert').filter({ hasText: 'being recorded in another tab' }).waitFor()
    await tab.close()
    await endTake(page)
    const film = await filmOf(talk)
    expect(film.stretches.length).toBe(3)
    expect(Math.abs(programmeLength(film.programme) - said * 1000)).toBeLessThanOrEqual(501)
    expect(visitsOf(film.programme).length).toBe(1)
    // No pictures of the face while it was off, and the voice all through.
    expect(film.programme.pieces.map((piece) => piece.kind === 'recorded' && [piece.camera !== null, piece.voice !== null])).toEqual([
      [true, true],
      [false, true],
      [true, true],
    ])
  })

  it('follows at the end, or takes the place of one slide, and leaves the rest as it was', async () => {
    const page = await stand.browser.page()
    const talk = await recordedTalk(page, 'More knots')
    const before = await filmOf(talk)
    await page.getByRole('button', { name: 'Go on at the end' }).click()
    await isRecording(page)
    await spokenMore(page, HEARD)
    await endTake(page)
    const longer = await filmOf(talk)
    const slides = await slidesOf(talk)
    expect(longer.programme.pieces.slice(0, before.programme.pieces.length)).toEqual(before.programme.pieces)
    // It went on with the first slide that was not shown yet.
    expect(visitsOf(longer.programme).map((visit) => visit.slide)).toEqual(slides)

    await page.getByRole('link', { name: 'Listen in Review' }).click()
    await page.getByRole('link', { name: 'Retake', exact: true }).nth(1).click()
    await takeDevices(page)
    await page.getByRole('button', { name: 'Retake this slide' }).click()
    await isRecording(page)
    await spokenMore(page, 3)
    // The second slide has a second step; going on after it ends the retake.
    await page.keyboard.press('PageDown')
    await spokenMore(page, 1)
    await page.keyboard.press('PageDown')
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
    const after = await filmOf(talk)
    const [was, is] = [visitsOf(longer.programme), visitsOf(after.programme)]
    expect(is.map((visit) => visit.slide)).toEqual(slides)
    expect([is[0]?.length, is[2]?.length]).toEqual([was[0]?.length, was[2]?.length])
    expect(is[1]?.id).not.toBe(was[1]?.id)
    // The file shows each slide in its place, and is heard all through.
    const file = await makeFile(page, 480)
    expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - programmeLength(after.programme))).toBeLessThanOrEqual(
      1000 / 30 + 1,
    )
    for (const [n, visit] of is.entries()) {
      const frame = await frameOf(file, frameAt(visit.start + 500, 30))
      expect(colourGap(meanColour(frame, WIDTH, GROUND), KNOTS[[0, 1, 3][n] ?? 0]?.colour ?? [])).toBeLessThan(12)
      expect(await levelOf(file, visit.start, visit.length)).toBeGreaterThan(-45)
    }
    expect(stand.browser.faults).toEqual([])
  })

  it('of timings and ink alone gets its voice afterwards, over slides and ink that stay where they are', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots in two goes')
    await checkRoom(page)
    await page.getByRole('button', { name: 'More ways to record' }).click()
    await page.getByText('End when I go on after the last step').click()
    await page.getByRole('button', { name: 'Timings and ink, no voice' }).click()
    await isRecording(page)
    await page.getByText('No voice is recorded in this take.').waitFor()
    await spokenMore(page, 1)
    await drawWave(page)
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 1)
    await page.keyboard.press('PageDown')
    await page.keyboard.press('PageDown')
    await spokenMore(page, 1)
    // After the last step, going on is the end.
    await page.keyboard.press('PageDown')
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
    const silent = await filmOf(talk)
    expect(silent.programme.pieces.every((piece) => piece.kind === 'recorded' && piece.voice === null)).toBe(true)

    await page.getByRole('button', { name: 'Back to the Lectern' }).click()
    await recordOtherwise(page, 'Voice over what is there')
    await page.getByRole('status').filter({ hasText: 'Voice over' }).waitFor()
    // It ends by itself where what is there ends.
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor({ timeout: 240_000 })
    const film = await filmOf(talk)
    expect(film.programme.pieces.map((piece) => piece.kind === 'recorded' && piece.show)).toEqual(
      silent.programme.pieces.map((piece) => piece.kind === 'recorded' && piece.show),
    )
    expect(film.programme.pieces.every((piece) => piece.kind === 'recorded' && piece.voice !== null)).toBe(true)

    const file = await makeFile(page, 480)
    expect(await meanLevel(file)).toBeGreaterThan(-35)
    const length = programmeLength(film.programme)
    expect(await levelOf(file, length - 1200, 1000)).toBeGreaterThan(-50)
    const [turn] = timed(film, 'show')
    const at = async (when: number): Promise<Buffer> => await frameOf(file, frameAt(when, 30))
    expect(colourGap(meanColour(await at((turn?.at ?? 0) - 100), WIDTH, GROUND), KNOTS[0]?.colour ?? [])).toBeLessThan(8)
    expect(colourGap(meanColour(await at((turn?.at ?? 0) + 100), WIDTH, GROUND), KNOTS[1]?.colour ?? [])).toBeLessThan(8)
    const [wave] = timed(film, 'ink')
    const mark = { x: 0.46, y: 0.495, w: 0.02, h: 0.01 }
    expect(colourGap(meanColour(await at((wave?.at ?? 0) - 100), WIDTH, mark), KNOTS[0]?.colour ?? [])).toBeLessThan(8)
    expect(colourGap(meanColour(await at((turn?.at ?? 0) - 100), WIDTH, mark), KNOTS[0]?.colour ?? [])).toBeGreaterThan(30)
    expect(stand.browser.faults).toEqual([])
  })
})
