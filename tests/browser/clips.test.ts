import { beforeAll, describe, expect, it } from 'vitest'
import type { Cue } from '@core/model'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, makeFile, newTalk, spokenMore } from '../harness/browser'
import { frameOf, levelOf, meanColour } from '../harness/film-file'
import { redThenGreen } from '../harness/office-decks'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()
let film: Buffer
beforeAll(async () => {
  film = await redThenGreen({ red: 2, seconds: 8, width: 640, hertz: 1760 })
})

const WIDTH = 1280

describe('a film on a slide', () => {
  it('is put there, started while it is spoken, halted and skipped, and is in the file as it was shown', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'The tank')
    await page.getByRole('tab', { name: /^Clips/ }).click()
    await page.setInputFiles('input[aria-label="A film or sound for this slide"]', {
      name: 'tank.mp4',
      mimeType: 'video/mp4',
      buffer: film,
    })
    const row = page.getByRole('listitem', { name: 'tank.mp4' })
    await row.waitFor()
    await row.getByRole('textbox', { name: /ends at/ }).fill('0:06.5')
    await row.getByRole('textbox', { name: /ends at/ }).press('Enter')
    const box = page.getByRole('button', { name: /^Clip tank.mp4/ })
    await box.focus()
    await page.keyboard.press('Shift+ArrowLeft')
    const clipNow = async () => (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).slides[0]?.clips?.[0]
    await expect.poll(async () => (await clipNow())?.to).toBe(6500)
    const placed = await clipNow()
    expect(await accessFaults(page)).toEqual([])

    await beginTake(page)
    await spokenMore(page, 1)
    const clip = page.getByRole('group', { name: 'Clip tank.mp4' })
    await page.keyboard.press('ArrowRight')
    await clip.getByRole('button', { name: 'Halt tank.mp4' }).waitFor()
    await spokenMore(page, 3)
    await page.keyboard.press('f')
    await clip.getByRole('button', { name: 'Play tank.mp4' }).waitFor()
    await spokenMore(page, 1)
    await page.keyboard.press('k')
    await expect.poll(() => clip.textContent()).toContain('0:07 of 0:07')
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 1)
    await endTake(page)

    const { stretches } = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    const cues = (stretches[0]?.cues ?? []).filter((cue): cue is Extract<Cue, { kind: 'clip' }> => cue.kind === 'clip')
    const [started, halted, skipped] = cues
    if (started === undefined || halted === undefined || skipped === undefined) throw new Error('the clip was started, halted and skipped')
    expect(cues.map(({ playing }) => playing)).toEqual([true, false, false])
    expect([started.place, skipped.place]).toEqual([0, 6500])
    // Both ends of what was played are whole milliseconds.
    expect(Math.abs(halted.place - (halted.at - started.at))).toBeLessThanOrEqual(1)

    await page.getByRole('link', { name: 'Listen in Review' }).click()
    await page.getByRole('tab', { name: 'Clips' }).click()
    await page.getByRole('listitem', { name: 'tank.mp4' }).waitFor()
    const file = await makeFile(page, 720)
    expect(stand.browser.faults).toEqual([])

    const { x = 0, y = 0, w = 0, h = 0 } = placed?.box ?? {}
    const middle = { x: x + w * 0.4, y: y + h * 0.4, w: w * 0.2, h: h * 0.2 }
    const colour = async (ms: number) => meanColour(await frameOf(file, Math.round((ms * 30) / 1000)), WIDTH, middle)
    // A picture of the clip is as long as 1.2 of the film's.
    const [before, after] = [await colour(started.at + 1940), await colour(started.at + 2060)]
    expect((before[0] > 200 && before[1] < 80) || before).toBe(true)
    expect((after[1] > 200 && after[0] < 80) || after).toBe(true)
    const tone = (from: number) => levelOf(file, from, 300, 1760)
    expect(Math.min(await tone(started.at + 400), await tone(started.at + 2500))).toBeGreaterThan(
      Math.max(await tone(started.at - 800), await tone(halted.at + 300)) + 12,
    )
  })
})
