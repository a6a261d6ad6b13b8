import { describe, expect, it } from 'vitest'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { newTalk, onClock, spokenMore } from '../harness/browser'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()

describe('rehearsing', () => {
  it('keeps the timings of two run-throughs and nothing else, and makes them the plan', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Rehearsed knots')
    const view = () => stand.client.get<TalkView>('GET', `/talks/${talk}`)
    await page.getByRole('link', { name: 'Lectern', exact: true }).click()
    await page.getByRole('dialog').waitFor()
    await page.keyboard.press('Escape')
    const turned: (readonly [number, number])[] = []
    for (const [run, turns] of [
      [2, 2, 1],
      [3, 1, 2],
    ].entries()) {
      await page.getByRole('button', { name: 'Rehearse', exact: true }).click()
      await page.getByRole('status').filter({ hasText: 'Rehearsing' }).waitFor()
      await spokenMore(page, turns[0] ?? 0)
      await page.keyboard.press('p')
      await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
      // The second time the slide is turned while the run-through is paused.
      const inPause = run === 1
      if (!inPause) await page.keyboard.press('p')
      for (const [n, seconds] of turns.slice(1).entries()) {
        const before = await onClock(page)
        await page.keyboard.press('ArrowRight')
        turned.push([before, await onClock(page)])
        if (inPause && n === 0) await page.keyboard.press('p')
        await spokenMore(page, seconds)
      }
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'End it' }).click()
      await page.getByText('rehearsed', { exact: false }).first().waitFor()
      await expect.poll(async () => (await view()).rehearsals.length).toBe(run + 1)
      if (run === 0) await page.getByRole('button', { name: 'Back to the Lectern' }).click()
    }
    expect(await accessFaults(page)).toEqual([])
    const { rehearsals, slides, takes } = await view()
    // The second slide has two steps: turning to the second of them is no new visit.
    expect(rehearsals.map((run) => run.visits.map((visit) => visit.slide))).toEqual([
      [slides[0]?.id, slides[1]?.id],
      [slides[0]?.id, slides[1]?.id],
    ])
    const [first, second] = rehearsals[1]?.visits ?? []
    // As long as the clock said when the key was pressed, which rounds.
    expect(first?.length).toBeGreaterThanOrEqual(((turned[0]?.[0] ?? 0) - 0.6) * 1000)
    expect(first?.length).toBeLessThanOrEqual(((turned[0]?.[1] ?? 0) + 0.6) * 1000)
    expect(second?.length).toBeGreaterThanOrEqual(2400)
    const [paused] = rehearsals[0]?.visits ?? []
    expect(paused?.length).toBeGreaterThanOrEqual(((turned[2]?.[0] ?? 0) - 0.6) * 1000)
    expect(paused?.length).toBeLessThanOrEqual(((turned[2]?.[1] ?? 0) + 0.6) * 1000)
    expect(takes).toEqual([])
    expect((await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)).programme.pieces).toEqual([])

    await page.getByRole('button', { name: 'Use the medians' }).click()
    await page.getByText(/^The medians are the plan of 2 slides now/).waitFor()
    const median = (n: 0 | 1) =>
      Math.round(Math.round(rehearsals.reduce((sum, run) => sum + (run.visits[n]?.length ?? 0), 0) / 2) / 1000) * 1000
    await expect.poll(async () => (await view()).slides.map((slide) => slide.planned)).toEqual([median(0), median(1), null])
    await page.getByRole('link', { name: 'Prepare', exact: true }).click()
    await page
      .getByRole('article', { name: /^Slide 1:/ })
      .getByText('rehearsed')
      .waitFor()
    expect(stand.browser.faults).toEqual([])
  })
})
