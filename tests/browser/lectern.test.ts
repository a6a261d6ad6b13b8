import { describe, expect, it } from 'vitest'
import { frameAt } from '@core/plan'
import type { Ms } from '@core/model'
import type { FilmView } from '@contracts'
import { accessFaults } from '../harness/access'
import { beginTake, drawWave, endTake, makeFile, newTalk, spokenMore } from '../harness/browser'
import { KNOTS } from '../harness/decks'
import { colourGap, frameOf, levelOf, meanColour } from '../harness/film-file'
import { inBrowser } from '../harness/stand'
import { timed } from '../harness/turns'

const stand = inBrowser()

const WIDTH = 854

describe('a take with everything a hand can do', () => {
  it('shows each at its time in the file: marker, eraser, spot, mute, face off, blank, going back, pauses', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Everything')
    await beginTake(page)
    const stage = await page.locator('.stage').boundingBox()
    if (stage === null) throw new Error('no stage')
    const at = (x: number, y: number): [number, number] => [stage.x + stage.width * x, stage.y + stage.height * y]
    const drag = async (from: readonly [number, number], to: readonly [number, number]): Promise<void> => {
      await page.mouse.move(...at(...from))
      await page.mouse.down()
      for (let n = 1; n <= 20; n += 1)
        await page.mouse.move(...at(from[0] + ((to[0] - from[0]) * n) / 20, from[1] + ((to[1] - from[1]) * n) / 20))
      await page.mouse.up()
    }
    await spokenMore(page, 1)
    await drawWave(page)
    await page.keyboard.press('l')
    await drag([0.3, 0.7], [0.7, 0.7])
    await spokenMore(page, 2)
    await page.keyboard.press('e')
    await drag([0.5, 0.42], [0.5, 0.58])
    await spokenMore(page, 1)
    await page.keyboard.press('o')
    for (let n = 0; n <= 10; n += 1) await page.mouse.move(...at(0.3 + n * 0.02, 0.85))
    await spokenMore(page, 2)
    // A box drawn with its corners cut, and held still: it gets its corners. A label is typed beside it.
    await page.keyboard.press('2')
    const [left, top, right, bottom, cut] = [0.1, 0.4, 0.26, 0.62, 0.025]
    const corners = [
      [left, top + cut],
      [left, bottom - cut],
      [left + cut, bottom],
      [right - cut, bottom],
      [right, bottom - cut],
      [right, top + cut],
      [right - cut, top],
      [left + cut, top],
      [left, top + cut],
    ] as const
    await page.mouse.move(...at(left, top + cut))
    await page.mouse.down()
    for (const [x, y] of corners.slice(1)) await page.mouse.move(...at(x, y), { steps: 8 })
    const inked = (x: number, y: number): Promise<number> =>
      page.evaluate(`(() => {
      const canvas = document.querySelector('.stage .wet')
      return canvas.getContext('2d').getImageData(Math.round(canvas.width * ${String(x)}),
        Math.round(canvas.height * ${String(y)}), 1, 1).data[3]
    })()`)
    await expect.poll(() => inked(right, bottom)).toBeGreaterThan(0)
    await page.mouse.up()
    await page.keyboard.press('t')
    await page.mouse.click(...at(0.72, 0.3))
    await page.getByRole('textbox', { name: 'Label' }).fill('a loop')
    await page.keyboard.press('Enter')
    await spokenMore(page, 1)
    await page.keyboard.press('v')
    await page.keyboard.press('m')
    await page.getByText('Muted.').waitFor()
    await page.getByText('You are speaking, and nothing of it is kept.').waitFor()
    await spokenMore(page, 3)
    await page.keyboard.press('m')
    await page.keyboard.press('i')
    await spokenMore(page, 2)
    await page.keyboard.press('i')
    await page.keyboard.press('b')
    await spokenMore(page, 2)
    await page.keyboard.press('b')
    for (const pause of [1, 2]) {
      await page.keyboard.press('p')
      await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
      await page.keyboard.press('p')
      await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
      await spokenMore(page, pause)
    }
    expect(await accessFaults(page)).toEqual([])
    await page.keyboard.press('s')
    await page.getByText('1 stumble marked for Review').waitFor()
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 2)
    await page.keyboard.press('ArrowLeft')
    await spokenMore(page, 2)
    await endTake(page)
    await page.getByRole('link', { name: 'Listen in Review' }).click()
    await page.getByRole('button', { name: /^stumble at/ }).waitFor()
    const file = await makeFile(page, 480)
    expect(stand.browser.faults).toEqual([])

    const film = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    const [one, two] = [KNOTS[0]?.colour ?? [], KNOTS[1]?.colour ?? []]
    const seen = async (when: Ms, x: number, y: number): Promise<[number, number, number]> =>
      meanColour(await frameOf(file, frameAt(when, 30)), WIDTH, { x: x - 0.004, y: y - 0.004, w: 0.008, h: 0.008 })
    const gap = async (when: Ms, x: number, y: number, colour: readonly number[] = one): Promise<number> =>
      colourGap(await seen(when, x, y), colour)

    const ink = timed(film, 'ink')
    expect(ink.map(({ cue }) => cue.stroke.tool)).toEqual(['pen', 'marker', 'pen', 'label'])
    const [wave, marker, box, label] = ink
    const [erased] = timed(film, 'erase')
    expect(await gap((erased?.at ?? 0) - 150, 0.5, 0.5)).toBeGreaterThan(60)
    expect(await gap((erased?.at ?? 0) + 150, 0.5, 0.5)).toBeLessThan(8)
    expect(erased?.cue.stroke).toBe(wave?.cue.stroke.id)
    // A marker tints, and is not as dark as the pen: what is under it can be read.
    const tint = await gap((erased?.at ?? 0) + 150, 0.5, 0.7)
    expect(tint).toBeGreaterThan(25)
    expect(tint).toBeLessThan(110)
    expect(await gap((marker?.at ?? 0) - 100, 0.5, 0.7)).toBeLessThan(8)

    expect(box?.cue.stroke.clean).toBe(true)
    const boxed = (box?.at ?? 0) + (box?.cue.stroke.points.at(-1)?.dt ?? 0)
    expect(await gap(boxed + 150, right, bottom)).toBeGreaterThan(25)
    expect(await gap((box?.at ?? 0) - 100, right, bottom)).toBeLessThan(8)
    // Its plate, just inside the left edge, is there when it was set down and not before.
    expect(await gap((label?.at ?? 0) + 150, 0.7245, 0.3, [255, 253, 248])).toBeLessThan(12)
    expect(await gap((label?.at ?? 0) - 100, 0.7245, 0.3)).toBeLessThan(8)

    const spots = timed(film, 'point')
    // Where the hand rested, the spot stayed: between the last two points of some cue nothing moved for a while.
    const rest = spots.find(
      ({ cue: { path } }) => (path.at(-1)?.dt ?? 0) - (path.at(-2)?.dt ?? 0) > 150 && path.at(-1)?.x === path.at(-2)?.x,
    )
    if (rest === undefined)
      throw new Error(`the spot was never still: ${JSON.stringify(spots.map(({ cue }) => [cue.path.length, cue.path.at(-1)]))}`)
    const { dt, x, y } = rest.cue.path.at(-1) ?? { dt: 0, x: 0, y: 0 }
    expect(await gap(rest.at + dt - 50, x, y)).toBeGreaterThan(60)
    const last = spots.at(-1)
    expect(await gap((last?.at ?? 0) + (last?.cue.path.at(-1)?.dt ?? 0) + 150, x, y)).toBeLessThan(8)

    const [muted, unmuted] = timed(film, 'mute')
    expect(await levelOf(file, (muted?.at ?? 0) + 300, (unmuted?.at ?? 0) - (muted?.at ?? 0) - 600)).toBeLessThan(-60)
    expect(await levelOf(file, (muted?.at ?? 0) - 4000, 3500)).toBeGreaterThan(-35)

    const [off, on] = timed(film, 'inset')
    expect(await gap((off?.at ?? 0) - 200, 0.905, 0.9)).toBeGreaterThan(40)
    expect(await gap(((off?.at ?? 0) + (on?.at ?? 0)) / 2, 0.905, 0.9)).toBeLessThan(8)

    const blanks = timed(film, 'blank')
    expect(await gap(((blanks[0]?.at ?? 0) + (blanks[1]?.at ?? 0)) / 2, 0.5, 0.85, [16, 28, 26])).toBeLessThan(8)

    expect(film.stretches.length).toBe(3)
    const [forward, back] = timed(film, 'show')
    expect(await gap((forward?.at ?? 0) + 300, 0.5, 0.85, two)).toBeLessThan(8)
    // Back on the first slide its marker still lies there, over both pauses, and its wave is still gone.
    expect(await gap((back?.at ?? 0) + 300, 0.5, 0.7)).toBeGreaterThan(25)
    expect(await gap((back?.at ?? 0) + 300, 0.5, 0.5)).toBeLessThan(8)
    expect(timed(film, 'stumble').length).toBe(1)
  })
})
