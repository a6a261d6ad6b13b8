import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import type { Recipe } from '@core/model'
import type { TalkView } from '@contracts'
import { probe } from '@render/probe'
import { accessFaults } from '../harness/access'
import { decodesClean } from '../harness/film-file'
import { until } from '../harness/product'
import { facedRecording, sendTake, spokenRecording } from '../harness/recording'
import { inBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'

const stand = inBrowser()

/** A recorded talk of three slides, three seconds each, open in Hand over. */
async function handOver(name: string): Promise<Page> {
  const { talk, slides } = await knotsTalk(stand.client, name)
  await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(9, 'magenta'),
      camera: true,
      length: 9000,
      slide: slides[0] ?? '',
      cues: [
        { kind: 'show', at: 3000, slide: slides[1], step: 0 },
        { kind: 'show', at: 6000, slide: slides[2], step: 0 },
      ],
    },
  ])
  const page = await stand.browser.page()
  await page.goto(`${stand.product.url}/talks/${talk}/hand-over`)
  await page.getByRole('button', { name: 'Make this file' }).waitFor()
  return page
}
/** Exchanges a word of the recipe. */
async function say(page: Page, word: string, choice: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${word}: `) }).click()
  await page.getByRole('menuitem', { name: choice }).click()
}
/** Has the file made that the recipe says. @returns its line in the ledger */
async function make(page: Page) {
  const before = await page.getByRole('link', { name: 'Download' }).count()
  await page.getByRole('button', { name: 'Make this file' }).click()
  await until('the file', async () => (await page.getByRole('link', { name: 'Download' }).count()) > before)
  return page.locator('article').first()
}
async function download(page: Page): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download' }).first().click()])
  return await file.path()
}
/** Plays what a line of the ledger shows to its end. @returns how long that was, in s */
async function playedToEnd(page: Page, kind: 'video' | 'audio'): Promise<number> {
  await page.getByRole('button', { name: 'Play it here' }).first().click()
  const player = page.locator(`article ${kind}`)
  await player.waitFor()
  // Faster, since every second of it is waited for.
  await player.evaluate((media: { playbackRate: number }) => {
    media.playbackRate = 4
  })
  await until('its end', () => player.evaluate((media: { ended: boolean }) => media.ended))
  const length = await player.evaluate((media: { currentTime: number }) => media.currentTime)
  await page.getByRole('button', { name: 'Close the player' }).click()
  return length
}

/**
 * Has a page keep what it would notify of in `told`, and look away, or back, when `lookAway` says so: a browser without a desktop can
 * do neither.
 */
const standInNotifications = `
  window.told = []
  let away = false
  window.lookAway = (now) => { away = now; document.dispatchEvent(new Event('visibilitychange')) }
  Object.defineProperty(document, 'visibilityState', { get: () => (away ? 'hidden' : 'visible') })
  window.Notification = class extends EventTarget {
    static permission = 'default'
    static requestPermission() { Notification.permission = 'granted'; return Promise.resolve('granted') }
    constructor(title) { super(); if (title !== '') window.told.push(title) }
    close() {}
  }
`

describe('a file', () => {
  it('in every format is asked for in a sentence, plays to its end and decodes clean', async () => {
    const page = await handOver('Every format')
    await say(page, 'Resolution', '480 lines')
    for (const [format, kind] of [
      ['An MP4 video', 'video'],
      ['A WebM video', 'video'],
      ['An M4A sound file', 'audio'],
      ['An MP3 sound file', 'audio'],
      ['A WAV sound file', 'audio'],
    ] as const) {
      await say(page, 'Format', new RegExp(`^${format}`))
      await make(page)
      expect(Math.abs((await playedToEnd(page, kind)) - 9)).toBeLessThan(0.2)
      expect(await decodesClean(await download(page))).toBe(true)
    }
    expect(await accessFaults(page)).toEqual([])
    expect(stand.browser.faults).toEqual([])
  })

  it('that its limit refuses is fitted where that is said, and made', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Over by a little')
    const media = await spokenRecording(Array.from({ length: 5 }, () => ({ word: 1.5, pause: 4 })))
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
      { media, length: 27_000, slide: slides[0] ?? '', cues: [{ kind: 'show', at: 11_000, slide: slides[1], step: 0 }] },
    ])
    const recipeNow = async (): Promise<Recipe> => (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).recipe
    const wanted = { ...(await recipeNow()), lines: 480, limit: { kind: 'hold', limit: 15_000 } }
    await stand.client.get('PUT', `/talks/${talk}/recipe`, { ...wanted, part: { kind: 'range', from: 1000, to: 26_000 } })
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/hand-over`)
    await page.getByText('It is refused as it is.').waitFor()
    // A part of it ends sooner, in a pause.
    await page.getByRole('button', { name: /^End it at 0:1\d/ }).click()
    await page.getByText('in hand').first().waitFor()
    const { part } = await recipeNow()
    expect(part.kind === 'range' && part.to > 13_000 && part.to <= 16_000).toBe(true)
    await stand.client.get('PUT', `/talks/${talk}/recipe`, wanted)
    await page.reload()
    await page.getByText('It is refused as it is.').waitFor()
    await page.getByText(/^Pauses down to/).waitFor()
    await page.getByRole('button', { name: /^Fit it: 0:1\d long/ }).click()
    await page.getByText('in hand').first().waitFor()
    await make(page)
    expect(Number((await probe(await download(page))).format.duration)).toBeLessThanOrEqual(15)
  })

  it('of a part, under a size, named by a pattern, comes out as the sentence says', async () => {
    const page = await handOver('A part')
    await say(page, 'Resolution', '480 lines')
    await say(page, 'Part', /^a part of the talk/)
    await page.getByRole('textbox', { name: 'From', exact: true }).fill('0:03')
    await page.getByRole('textbox', { name: 'From', exact: true }).press('Tab')
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('8 s')
    await page.getByRole('textbox', { name: 'To', exact: true }).press('Tab')
    await say(page, 'Quality', /^under a size/)
    await page.getByRole('textbox', { name: 'Size in MB' }).fill('1')
    await page.getByRole('textbox', { name: 'Size in MB' }).press('Tab')
    await page.getByRole('textbox', { name: 'File name' }).fill('{paper}-{surname}')
    await page.getByRole('textbox', { name: 'File name' }).press('Tab')
    await page.getByText('Say paper and surname').waitFor()
    for (const [field, value] of [
      ['paper', '117'],
      ['surname', 'Okonjo'],
    ] as const) {
      await page.getByRole('textbox', { name: field }).fill(value)
      await page.getByRole('textbox', { name: field }).press('Tab')
    }
    const line = await make(page)
    expect(await line.getAttribute('aria-label')).toBe('117-Okonjo.mp4')
    const { format } = await probe(await download(page))
    expect(Math.abs(Number(format.duration) - 5)).toBeLessThan(0.05)
    expect(Number(format.size)).toBeLessThanOrEqual(1_000_000)
  })
})

describe('a recipe', () => {
  it('is kept, and there to begin with in another talk', async () => {
    const page = await handOver('The first')
    await say(page, 'Frames', /^25/)
    await page.getByRole('button', { name: 'Keep this recipe for other talks' }).click()
    await page.getByRole('textbox', { name: 'Name of this recipe' }).fill('for the sailing club')
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await page.getByRole('button', { name: 'for the sailing club', exact: true, pressed: true }).waitFor()
    const other = await handOver('The second')
    await other.getByRole('button', { name: 'for the sailing club', exact: true }).click()
    await other.getByRole('button', { name: 'Frames: 25 frames a second' }).waitFor()
    await other.getByRole('button', { name: 'class page' }).click()
    await other.getByRole('button', { name: 'Resolution: 720 lines' }).waitFor()
  })
})

describe('the queue', () => {
  it('waits for an evening, begins at once when told to, stands still and goes on', async () => {
    const page = await handOver('In the evening')
    await say(page, 'Resolution', '480 lines')
    await page.getByText('begin later').click()
    await page.getByLabel('Begin at').waitFor()
    await page.getByRole('button', { name: 'Make this file' }).click()
    await page.getByText(/^Begins .* or later\.$/).waitFor()
    await page.getByRole('button', { name: 'Pause' }).click()
    await page.getByText('Stands still at').waitFor()
    await page.getByRole('button', { name: 'Go on' }).click()
    await page.getByRole('link', { name: 'Download' }).waitFor({ timeout: 120_000 })
  })

  it('tells whoever looks elsewhere that a file is ready, in the tab and by a notification', async () => {
    const page = await handOver('Told of')
    await page.addInitScript(standInNotifications)
    await page.reload()
    await say(page, 'Resolution', '480 lines')
    await page.getByText('begin later').click()
    await page.getByRole('button', { name: 'Make this file' }).click()
    await page.getByText(/^Begins .* or later\.$/).waitFor()
    await page.getByRole('button', { name: 'Tell me when it is ready' }).click()
    await until('not being asked again', async () => !(await page.getByRole('button', { name: 'Tell me when it is ready' }).isVisible()))
    const title = await page.title()
    await page.evaluate('lookAway(true)')
    const [delivery] = await stand.client.get<{ id: string }[]>(
      'GET',
      `/talks/${/talks\/([0-9a-f-]+)/.exec(page.url())?.[1] ?? ''}/deliveries`,
    )
    await stand.client.ask('POST', `/deliveries/${delivery?.id ?? ''}/first`)
    await until('the tab to say so', async () => (await page.title()).startsWith('✓ ready · '))
    expect(await page.evaluate('told')).toEqual(['aisle-told-of.mp4 is ready'])
    await page.evaluate('lookAway(false)')
    await until('the title as it was', async () => (await page.title()) === title)
  })
})
