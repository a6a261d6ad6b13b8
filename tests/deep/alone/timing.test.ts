import { describe, expect, it } from 'vitest'
import type { FilmView } from '@contracts'
import { programmeLength } from '@core/programme'
import { probe } from '@render/probe'
import { endTake, isPaused, isRecording } from '../../harness/browser'
import { clicksOf, turnsOf } from '../../harness/read-back'
import { FAITHFUL, standIn } from '../../harness/stand-in'
import type { StandIn } from '../../harness/stand-in'
import { inBrowser } from '../../harness/stand'
import {
  changesAgainstClicks,
  checkedRoom,
  darkAndBright,
  deliver,
  median,
  pressAtClicks,
  record,
  timingOf,
} from '../../harness/timed-take'

const stand = inBrowser()
const { every } = FAITHFUL
/** Most that a change may be from its click, in ms. */
const WORST = 45

/** A page with such devices, at the Lectern of a talk of two slides. */
async function atLectern(plan: StandIn, clap: boolean) {
  const page = await stand.browser.page()
  await standIn(page, plan)
  const talk = await darkAndBright(page, stand.product)
  await checkedRoom(page, stand.product, talk, clap)
  return { page, talk }
}

describe('what is seen and what is heard', () => {
  it(
    'meet in the file: a late stereo microphone at 44.1 kHz put right by claps, a camera that starts late and slows down in ' + 'the dark',
    async () => {
      const { page, talk } = await atLectern(
        {
          ...FAITHFUL,
          mic: { rate: 44_100, channels: 2, ppm: 0, late: 150, jitter: 3 },
          camera: { ...FAITHFUL.camera, starts: 1500, change: { after: 25_000, rate: 5 } },
        },
        true,
      )
      await record(page)
      const pressed = [...(await pressAtClicks(page, every, ['ArrowRight', 'ArrowLeft', 'ArrowRight', 'ArrowLeft', 'ArrowRight']))]
      await page.keyboard.press('p')
      await isPaused(page)
      await page.keyboard.press('p')
      await isRecording(page)
      pressed.push(...(await pressAtClicks(page, every, ['ArrowLeft', 'ArrowRight', 'ArrowLeft'])))
      await endTake(page)
      const file = await deliver(stand.product, talk)
      const offs = await changesAgainstClicks(file, pressed)
      expect(await timingOf(stand.product, talk)).toBe('measured')
      expect(Math.abs(median(offs))).toBeLessThanOrEqual(25)
      for (const off of offs) expect(Math.abs(off)).toBeLessThanOrEqual(WORST)
      const film = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
      expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - programmeLength(film.programme))).toBeLessThanOrEqual(1000 / 30)
    },
  )

  it('go on when the microphone changes its rate, and the take pauses when it is pulled out', async () => {
    const { page, talk } = await atLectern(
      { ...FAITHFUL, mic: { ...FAITHFUL.mic, change: { after: 'told', rate: 44_100 }, ends: 'told' } },
      false,
    )
    await record(page)
    const pressed = [...(await pressAtClicks(page, every, ['ArrowRight', 'ArrowLeft']))]
    await page.evaluate("window.tellDevice('mic', 'change')")
    await page.getByText('changed its sample rate').waitFor()
    pressed.push(...(await pressAtClicks(page, every, ['ArrowRight', 'ArrowLeft'])))
    await page.evaluate("window.tellDevice('mic', 'end')")
    await page.getByText('The microphone stopped').waitFor()
    await isPaused(page)
    await page.getByRole('button', { name: 'Close' }).click()
    await endTake(page)
    const file = await deliver(stand.product, talk)
    const offs = await changesAgainstClicks(file, pressed)
    expect(await timingOf(stand.product, talk)).toBe('measured')
    for (const off of offs) expect(Math.abs(off)).toBeLessThanOrEqual(WORST)
    // Not a click is missing between the first and the last, also where the new stretch took over.
    const clicks = await clicksOf(file, 400)
    for (const [n, click] of clicks.slice(1).entries()) expect(Math.abs(click - (clicks[n] ?? 0) - every)).toBeLessThan(every / 4)
    expect((await turnsOf(file, 30)).length).toBeGreaterThan(0)
  })
})
