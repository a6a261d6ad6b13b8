import { describe, expect, it } from 'vitest'
import { pieceStarts, programmeLength } from '@core/programme'
import { frameAt } from '@core/plan'
import type { FilmView } from '@contracts'
import { probe } from '@render/probe'
import { accessFaults } from '../harness/access'
import { beginTake, drawWave, endTake, isPaused, isRecording, makeFile, newTalk, spokenMore } from '../harness/browser'
import { KNOTS } from '../harness/decks'
import { colourGap, decodesClean, frameOf, meanColour, meanLevel } from '../harness/film-file'
import { until } from '../harness/product'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()

/** A place on every test slide that neither title nor face ever covers. */
const GROUND = { x: 0.3, y: 0.75, w: 0.3, h: 0.1 }
const WIDTH = 1280

describe('from a deck to a file', () => {
  it('records voice, face and pen over three slides and delivers them as they were', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots for the harbour')
    await page.getByRole('textbox', { name: 'Notes of slide 1' }).fill('The bowline makes a loop that holds.')
    await expect
      .poll(async () => (await stand.client.get<{ slides: { notes: string }[] }>('GET', `/talks/${talk}`)).slides[0]?.notes, {
        timeout: 40_000,
      })
      .toBe('The bowline makes a loop that holds.')

    await beginTake(page)
    await spokenMore(page, 1)
    await drawWave(page)
    await spokenMore(page, 1)
    await page.keyboard.press('p')
    await isPaused(page)
    await page.getByRole('button', { name: 'Go on P', exact: true }).click()
    await isRecording(page)
    await spokenMore(page, 1)
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 1)
    await page.keyboard.press('PageDown')
    await spokenMore(page, 1)
    await page.keyboard.press('v')
    await page.locator('.stage').click({ position: { x: 200, y: 300 } })
    await spokenMore(page, 1)
    await endTake(page)

    await page.getByRole('link', { name: 'Listen in Review' }).click()
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await expect.poll(() => page.locator('.time').textContent()).toMatch(/^0:0[1-9]\.\d/)

    const file = await makeFile(page, 720)
    expect(stand.browser.faults).toEqual([])

    const film = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    const length = programmeLength(film.programme)
    const found = await probe(file)
    const video = found.streams.find((stream) => stream.codec_type === 'video')
    expect([video?.codec_name, video?.width, video?.height, video?.avg_frame_rate]).toEqual(['h264', 1280, 720, '30/1'])
    expect(Math.abs(Number(found.format.duration) * 1000 - length)).toBeLessThanOrEqual(1000 / 30)
    expect(await meanLevel(file)).toBeGreaterThan(-35)
    expect(await decodesClean(file)).toBe(true)
    expect(found.chapters.map((chapter) => chapter.tags?.title)).toEqual(['Bowline', 'Clove hitch', 'Reef knot'])

    // Every turn of slide or step is seen in exactly the frame that its cue falls on.
    const starts = pieceStarts(film.programme)
    const turns = film.programme.pieces.flatMap((piece, n) => {
      if (piece.kind === 'still') return []
      const cues = film.stretches.find((stretch) => stretch.id === piece.show.stretch)?.cues ?? []
      return cues.flatMap((cue) =>
        cue.kind === 'show' && cue.at >= piece.show.from && cue.at < piece.show.to
          ? [{ at: (starts[n] ?? 0) + cue.at - piece.show.from, slide: cue.slide, step: cue.step }]
          : [],
      )
    })
    expect(turns.length).toBe(3)
    const pages = [0, 1, 2, 3]
    for (const [n, turn] of turns.entries()) {
      const frame = frameAt(turn.at, 30)
      const colours = await Promise.all(
        [frame - 1, frame + 1].map(async (number) => meanColour(await frameOf(file, number), WIDTH, GROUND)),
      )
      expect(colourGap(colours[0] ?? [], KNOTS[pages[n] ?? 0]?.colour ?? [])).toBeLessThan(6)
      expect(colourGap(colours[1] ?? [], KNOTS[pages[n + 1] ?? 0]?.colour ?? [])).toBeLessThan(6)
    }

    // The stroke is there once it was drawn, over the pause too, and not before.
    const ink = film.stretches.flatMap((stretch) => stretch.cues).find((cue) => cue.kind === 'ink')
    if (ink?.kind !== 'ink') throw new Error('no stroke was recorded')
    const middle = { x: 0.495, y: 0.497, w: 0.01, h: 0.006 }
    const ends = ink.at + (ink.stroke.points.at(-1)?.dt ?? 0)
    const paused = starts[1] ?? 0
    const inkAt = async (at: number) => colourGap(meanColour(await frameOf(file, frameAt(at, 30)), WIDTH, middle), KNOTS[0]?.colour ?? [])
    expect(await inkAt(ink.at - 60)).toBeLessThan(6)
    expect(await inkAt(ends + 100)).toBeGreaterThan(80)
    expect(await inkAt(paused + 200)).toBeGreaterThan(80)

    // The face moves.
    const rect = { x: 0.84, y: 0.62, w: 0.12, h: 0.32 }
    const [early, late] = await Promise.all([10, 70].map((number) => frameOf(file, number)))
    if (early === undefined || late === undefined) throw new Error('no frames')
    let moved = 0
    for (let y = Math.floor(rect.y * 720); y < (rect.y + rect.h) * 720; y += 2) {
      for (let x = Math.floor(rect.x * WIDTH); x < (rect.x + rect.w) * WIDTH; x += 2) {
        if (Math.abs((early[(y * WIDTH + x) * 3] ?? 0) - (late[(y * WIDTH + x) * 3] ?? 0)) > 40) moved += 1
      }
    }
    expect(moved).toBeGreaterThan(100)
  })
})

describe('every screen', () => {
  it('can be used by everybody, as far as a program can tell', async () => {
    const page = await stand.browser.page()
    await page.goto(stand.product.url)
    await page.getByRole('heading', { name: 'Knots for the harbour' }).waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('link', { name: 'Open Knots for the harbour' }).click()
    await page.getByRole('article', { name: 'Slide 3' }).waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('link', { name: 'Lectern', exact: true }).click()
    await until('the devices', () => page.getByRole('button', { name: 'Use these' }).isEnabled())
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'Use these' }).click()
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('link', { name: 'Review', exact: true }).click()
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('link', { name: 'Hand over', exact: true }).click()
    await page.getByRole('link', { name: 'Download' }).waitFor()
    expect(await accessFaults(page)).toEqual([])
  })

  it('has its run sheet ordered by dragging and by keys, and taken back', async () => {
    const page = await stand.browser.page()
    await newTalk(page, stand.product.url, 'Order')
    const titles = () =>
      page
        .getByRole('textbox', { name: /^Title of slide/ })
        .evaluateAll((fields) => fields.map((field) => (field as unknown as { value: string }).value))
    const inOrder = (...order: string[]) => until(order.join(), async () => (await titles()).join() === order.join(), 60_000)
    await page.locator('.handle').nth(2).hover()
    await page.mouse.down()
    // Moved on until the place is marked where the row would go, as a hand does.
    const first = page.getByRole('article', { name: 'Slide 1' })
    await until('the mark', async () => {
      const box = await first.boundingBox()
      if (box === null) return false
      await page.mouse.move(box.x + 20, box.y + box.height * 0.3, { steps: 4 })
      return await page.locator('.before').isVisible()
    })
    await page.mouse.up()
    await inOrder('Reef knot', 'Bowline', 'Clove hitch')
    await page.getByRole('button', { name: 'Undo' }).click()
    await inOrder('Bowline', 'Clove hitch', 'Reef knot')
    await page.getByRole('textbox', { name: 'Title of slide 1' }).press('Alt+ArrowDown')
    await inOrder('Clove hitch', 'Bowline', 'Reef knot')
    await page.getByRole('button', { name: 'Delete slide 3' }).click()
    await inOrder('Clove hitch', 'Bowline')
    await page.getByRole('button', { name: 'Undo' }).click()
    await page.getByRole('button', { name: 'Undo' }).click()
    await inOrder('Bowline', 'Clove hitch', 'Reef knot')
    // What came in by itself is taken out and put back like everything else.
    await page.getByRole('button', { name: 'Undo' }).click()
    await inOrder('')
    await page.getByRole('button', { name: 'Redo' }).click()
    await inOrder('Bowline', 'Clove hitch', 'Reef knot')
    await page.getByText(/^Saved/).waitFor()
    await page.reload()
    await page.getByRole('article', { name: 'Slide 3' }).waitFor()
    await inOrder('Bowline', 'Clove hitch', 'Reef knot')
    expect(stand.browser.faults).toEqual([])
  })
})
