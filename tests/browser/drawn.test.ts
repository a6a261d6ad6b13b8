import { describe, expect, it } from 'vitest'
import { PALETTES } from '@core/compose'
import type { Cue, Point } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { toFilm } from '@contracts'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, makeFile, newTalk, spokenMore } from '../harness/browser'
import { frameOf } from '../harness/film-file'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()
const SIZE = { width: 1280, height: 720 }

/** The middle of what is of a colour in a frame, in pixels. */
function middleOf(frame: Buffer, hex: string): Point {
  const colour = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))
  let [x, y, count] = [0, 0, 0]
  for (let at = 0; at < frame.length; at += 3) {
    if (colour.some((part, n) => Math.abs((frame[at + n] ?? 0) - part) > 24)) continue
    x += (at / 3) % SIZE.width
    y += Math.floor(at / 3 / SIZE.width)
    count += 1
  }
  return { x: x / count + 0.5, y: y / count + 0.5 }
}

describe('what is drawn on a slide', () => {
  it('is put there, written on and moved; it goes along its way as the presenter goes on, and so it does in the file', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'The ferry')
    const slideNow = async () => (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).slides[0]
    const choose = async (menu: string, item: string): Promise<void> => {
      await page.getByRole('button', { name: menu }).click()
      await page.getByRole('menuitem', { name: item, exact: true }).click()
    }
    await page.getByRole('tab', { name: /^Drawn/ }).click()
    await choose('Put on it …', 'Box')
    const chip = page.getByRole('list', { name: 'Objects on this slide' }).getByRole('button').first()
    await chip.focus()
    for (let n = 0; n < 5; n += 1) await page.keyboard.press('Shift+ArrowLeft')
    for (let n = 0; n < 2; n += 1) await page.keyboard.press('Shift+ArrowUp')
    await expect.poll(async () => (await slideNow())?.drawing?.objects[0]?.box.x).toBeCloseTo(0.15)
    const canvas = page.locator('.stage canvas').last()
    const onStage = async (x: number, y: number): Promise<readonly [number, number]> => {
      const box = await canvas.boundingBox()
      if (box === null) throw new Error('a stage')
      return [box.x + x * box.width, box.y + y * box.height]
    }
    await page.mouse.dblclick(...(await onStage(0.25, 0.4)))
    await page.getByRole('textbox', { name: 'Words on the object' }).waitFor()
    await page.keyboard.type('Ferry')
    await page.keyboard.press('Escape')
    await expect.poll(async () => (await slideNow())?.drawing?.objects[0]?.form).toMatchObject({ kind: 'box', label: 'Ferry' })

    // Along a way with a click of its own, whose end is dragged; then larger by itself once it is there.
    await choose('It moves …', 'It goes along a way')
    const lane = page.getByRole('region', { name: 'What moves when' })
    await lane.getByRole('button', { name: 'Ferry goes along a way' }).waitFor()
    await page.mouse.move(...(await onStage(0.55, 0.4)))
    await page.mouse.down()
    await page.mouse.move(...(await onStage(0.6, 0.55)), { steps: 5 })
    await page.mouse.up()
    const motionsNow = async () => (await slideNow())?.drawing?.motions ?? []
    await expect.poll(async () => (await motionsNow())[0]?.does).toMatchObject({ kind: 'path', line: 'straight' })
    await expect
      .poll(async () => {
        const does = (await motionsNow())[0]?.does
        return does?.kind === 'path' && (does.points[0]?.y ?? 0) > 0.1
      })
      .toBe(true)
    await choose('It moves …', 'It grows or shrinks')
    await page.getByRole('group', { name: 'How it moves' }).getByRole('combobox', { name: 'With step' }).press('Enter')
    await page.getByRole('option', { name: 'a new step 3' }).click()
    await page.getByRole('combobox', { name: 'This step begins' }).press('Enter')
    await page.getByRole('option', { name: /come to rest/ }).click()
    await expect.poll(async () => (await slideNow())?.drawing?.starts).toEqual([{ step: 2, after: 'ended', wait: 1000 }])
    expect((await slideNow())?.steps).toHaveLength(3)
    await lane.getByRole('button', { name: 'Play step 3' }).click()
    await lane.getByRole('button', { name: 'Play step 3' }).waitFor()
    expect(await accessFaults(page)).toEqual([])

    await beginTake(page)
    await spokenMore(page, 1)
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 5)
    await endTake(page)
    const view = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    const shows = (view.stretches[0]?.cues ?? []).filter((cue): cue is Extract<Cue, { kind: 'show' }> => cue.kind === 'show')
    expect(shows.map(({ step }) => step)).toEqual([1, 2])
    const [first, second] = shows.map(({ at }) => at)
    // Two seconds along the way, and one at rest; to the millisecond, however late the page came to it.
    expect(Math.abs((second ?? 0) - (first ?? 0) - 3000)).toBeLessThanOrEqual(40)

    await page.getByRole('link', { name: 'Listen in Review' }).click()
    await page.locator('.visit').first().waitFor()
    const file = await makeFile(page, SIZE.height)
    const index = indexFilm(toFilm(view))
    for (const after of [-300, 500, 1000, 1500, 2500, 3200, 4500]) {
      const frame = Math.round((((first ?? 0) + after) * 30) / 1000)
      const [ferry] = sceneAt(index, (frame * 1000) / 30)?.objects ?? []
      const seen = middleOf(await frameOf(file, frame), PALETTES[ferry?.theme ?? 'paper'].mark)
      const off = Math.hypot(seen.x - (ferry?.at.x ?? 0) * SIZE.width, seen.y - (ferry?.at.y ?? 0) * SIZE.height)
      expect(off, `${String(after)} ms after it set out`).toBeLessThan(3)
    }
    expect(stand.browser.faults).toEqual([])
  })
})
