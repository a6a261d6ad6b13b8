import { describe, expect, it } from 'vitest'
import type { FilmView } from '@contracts'
import { programmeLength } from '@core/programme'
import { probe } from '@render/probe'
import { makeFile } from '../harness/browser'
import { heardFor, levelOf } from '../harness/film-file'
import { until } from '../harness/product'
import { sendTake, spokenRecording } from '../harness/recording'
import { inBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'
import { chooseOnWave } from '../harness/waveform'

const stand = inBrowser()
const FRAME = 1000 / 30

/** A talk whose three slides are spoken over, the second one with a cough at 5.0 s, and long pauses in the last. */
async function spokenTalk(name: string): Promise<string> {
  const { talk, slides } = await knotsTalk(stand.client, name)
  const media = await spokenRecording([
    { word: 2.5, pause: 0.5 },
    { word: 1.6, pause: 0.4 },
    { word: 0.6, pause: 0.4, cough: true },
    { word: 2, pause: 0 },
    { word: 1, pause: 3 },
    { word: 1, pause: 3 },
    { word: 1, pause: 0 },
  ])
  await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media,
      length: 17_000,
      slide: slides[0] ?? '',
      cues: [
        { kind: 'show', at: 3000, slide: slides[1], step: 0 },
        { kind: 'show', at: 8000, slide: slides[2], step: 0 },
      ],
    },
  ])
  return talk
}
const lengthOf = async (talk: string): Promise<number> =>
  programmeLength((await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)).programme)

describe('mending in Review', () => {
  it('cuts a cough by its waveform; it is not in the file, its seam opens again, and the history knows', async () => {
    const talk = await spokenTalk('Coughs')
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    await page.locator('.visit').nth(2).waitFor()
    // The cough lies from 5.0 to 5.6 s, which is from 0.4 to 0.52 of the second visit.
    await chooseOnWave(page, 1, 0.37, 0.58)
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    const seam = page.getByRole('button', { name: /^Open the cut of/ })
    await seam.waitFor()
    const after = await lengthOf(talk)
    expect(17_000 - after).toBeGreaterThan(900)
    expect(17_000 - after).toBeLessThan(1200)

    const file = await makeFile(page, 480)
    expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - after)).toBeLessThanOrEqual(FRAME + 1)
    // Words before and after it are there; where they meet is no louder than they are.
    const join = 3000 + 0.37 * 5000
    expect(await levelOf(file, 3100, 1200)).toBeGreaterThan(-30)
    expect(await levelOf(file, join + 100, 1500)).toBeGreaterThan(-30)
    expect(await levelOf(file, join - 60, 120)).toBeLessThanOrEqual((await levelOf(file, 3100, 1200)) + 1)

    await page.getByRole('link', { name: 'Review', exact: true }).click()
    await seam.click()
    await until('the cut to be open again', async () => (await lengthOf(talk)) === 17_000)
    await page.getByRole('button', { name: 'Undo' }).click()
    await until('the cut again', async () => (await lengthOf(talk)) === after)
    await page.keyboard.press('Control+z')
    await until('nothing cut', async () => (await lengthOf(talk)) === 17_000)
    await page.getByRole('tab', { name: 'History' }).click()
    await page.getByText('Took back: cut a part').first().waitFor()
    await page.getByLabel('A name for the talk as it is now').fill('with the cough')
    await page.getByRole('button', { name: 'Name it' }).click()
    await page.getByText('with the cough:').waitFor()
  })

  it('fits a talk that is 40 s over to its limit by its pauses alone, and the file keeps to it', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Too long')
    const media = await spokenRecording(Array.from({ length: 14 }, () => ({ word: 1.5, pause: 4 })))
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
      { media, length: 77_000, slide: slides[0] ?? '', cues: [{ kind: 'show', at: 30_000, slide: slides[1], step: 0 }] },
    ])
    await stand.client.get('PATCH', `/talks/${talk}`, { limit: 37_000 })
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    const plan = page.getByRole('region', { name: 'Fit to the limit' })
    await plan.getByText('over the limit of 0:37').waitFor()
    await plan.getByText(/^Pauses down to/).waitFor()
    await plan.getByRole('button', { name: /^Do (all of )?this:/ }).click()
    await plan.getByText('Nothing needs to go.').waitFor()
    const after = await lengthOf(talk)
    expect(after).toBeLessThanOrEqual(37_000)
    expect(after).toBeGreaterThan(35_000)
    const file = await makeFile(page, 480)
    const found = await probe(file)
    for (const length of [found.format.duration, ...found.streams.map((stream) => stream.duration)])
      expect(Number(length) * 1000).toBeLessThanOrEqual(37_000)
    // Every word is there: fourteen of one and a half seconds, as long as they were.
    expect(await heardFor(file)).toBeGreaterThan(14 * 1.5 - 0.5)
  })

  it('stays quick with three hundred visits over three hours, of which only those in sight are there', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'A long afternoon')
    const cues = Array.from({ length: 299 }, (_, n) => ({ kind: 'show', at: (n + 1) * 36_000, slide: slides[(n + 1) % 3], step: 0 }))
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [{ media: null, length: 10_800_000, slide: slides[0] ?? '', cues }])
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    await page.locator('.visit').nth(2).waitFor()
    expect(await page.locator('.visit').count()).toBeLessThan(20)
    await page.locator('.sheet').evaluate((sheet) => {
      sheet.scrollTop = sheet.scrollHeight
    })
    await page.getByRole('button', { name: /^Play from 300/ }).waitFor()
    expect(await page.locator('.visit').count()).toBeLessThan(20)
    await page.getByRole('button', { name: 'More for visit 300' }).click()
    await page.getByRole('menuitem', { name: 'Cut all of it' }).filter({ visible: true }).click()
    await until('the last to be gone', async () => (await lengthOf(talk)) === 10_800_000 - 36_000)
    expect(stand.browser.faults).toEqual([])
  })

  it('refuses to overwrite what another page has changed, and says so', async () => {
    const talk = await spokenTalk('Twice open')
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    await page.locator('.visit').nth(2).waitFor()
    // The other page's change is not told here, as when the line was away for a moment.
    await page.route('**/api/talks/*/film', (route) => route.abort())
    const { programme } = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    await stand.client.get('POST', `/talks/${talk}/programme`, {
      revision: programme.revision,
      author: crypto.randomUUID(),
      edit: { kind: 'cut', parts: [{ from: 3500, to: 4000 }] },
    })
    // On a slow machine the page may still be laying itself out when the wave is first drawn over.
    await expect
      .poll(
        async () => {
          await chooseOnWave(page, 1, 0.5, 0.7)
          return await page.getByRole('button', { name: 'Cut', exact: true }).isVisible()
        },
        { timeout: 60_000 },
      )
      .toBe(true)
    await page.unroute('**/api/talks/*/film')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await page.getByText(/changed elsewhere in the meantime\. Nothing was overwritten/).waitFor()
    expect(await lengthOf(talk)).toBe(16_500)
  })
})
