import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { newTalk, spoken, startBrowser } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { Client } from '../harness/client'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'

let product: Product
let browser: TestBrowser

beforeAll(async () => {
  product = await startProduct()
  browser = await startBrowser()
})
afterAll(async () => {
  await browser.close()
  await product.stop()
})

describe('rehearsing', () => {
  it('keeps the timings of two run-throughs and nothing else, and makes them the plan', async () => {
    const page = await browser.page()
    const client = new Client(product.url)
    const talk = await newTalk(page, product.url, 'Rehearsed knots')
    const view = () => client.get<TalkView>('GET', `/talks/${talk}`)
    await page.getByRole('link', { name: 'Lectern', exact: true }).click()
    await page.getByRole('dialog').waitFor()
    await page.keyboard.press('Escape')
    for (const [run, turns] of [[2, 4, 5], [3, 4, 6]].entries()) {
      await page.getByRole('button', { name: 'Rehearse', exact: true }).click()
      await page.getByRole('status').filter({ hasText: 'Rehearsing' }).waitFor()
      await spoken(page, turns[0] ?? 0)
      await page.keyboard.press('p')
      await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
      await page.keyboard.press('p')
      for (const seconds of turns.slice(1)) {
        await page.keyboard.press('ArrowRight')
        await spoken(page, seconds)
      }
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'End it' }).click()
      await page.getByText('rehearsed', { exact: false }).first().waitFor()
      await expect.poll(async () => (await view()).rehearsals.length, { timeout: 40_000 }).toBe(run + 1)
      if (run === 0) await page.getByRole('button', { name: 'Back to the Lectern' }).click()
    }
    expect(await accessFaults(page)).toEqual([])
    const { rehearsals, slides, takes } = await view()
    // The second slide has two steps: turning to the second of them is no new visit.
    expect(rehearsals.map((run) => run.visits.map((visit) => visit.slide))).toEqual([[slides[0]?.id, slides[1]?.id], [slides[0]?.id, slides[1]?.id]])
    const [first, second] = rehearsals[1]?.visits ?? []
    expect(first?.length).toBeGreaterThanOrEqual(1400)
    expect(first?.length).toBeLessThan(3500)
    expect(second?.length).toBeGreaterThanOrEqual(2400)
    expect(takes).toEqual([])
    expect((await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme.pieces).toEqual([])

    await page.getByRole('button', { name: 'Use the medians' }).click()
    await page.getByText(/^The medians are the plan of 2 slides now/).waitFor()
    const median = (n: 0 | 1) => Math.round(Math.round(rehearsals.reduce((sum, run) => sum + (run.visits[n]?.length ?? 0), 0) / 2) / 1000) * 1000
    await expect.poll(async () => (await view()).slides.map((slide) => slide.planned), { timeout: 40_000 }).toEqual([median(0), median(1), null])
    await page.getByRole('link', { name: 'Prepare', exact: true }).click()
    await page.getByRole('article', { name: /^Slide 1:/ }).getByText('rehearsed').waitFor()
    expect(browser.faults).toEqual([])
  })
})
