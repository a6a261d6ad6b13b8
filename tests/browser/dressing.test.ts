import { mkdtemp } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { programmeLength } from '@core/programme'
import type { FilmView } from '@contracts'
import { probe } from '@render/probe'
import { run } from '@render/process'
import { accessFaults } from '../harness/access'
import { makeFile } from '../harness/browser'
import { colourGap, frameOf, levelOf, meanColour } from '../harness/film-file'
import { livelyRecording } from '../harness/lively-camera'
import { sendTake } from '../harness/recording'
import { colourIn } from '../harness/screening-page'
import { inBrowser } from '../harness/stand'
import { heardTalk, knotsTalk } from '../harness/talks'

const stand = inBrowser()
const WIDTH = 854
const filmOf = (talk: string): Promise<FilmView> => stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
const PINE = [0x24, 0x41, 0x3b] as const
const DUSK = [0x2b, 0x23, 0x40] as const

describe('a talk that is dressed in Review', () => {
  it('gets a card, a name, music and a tidy voice, heard before and after by a key, and its file shows all of it', async () => {
    const talk = await heardTalk(stand.client, 'Knots that hold')
    const before = programmeLength((await filmOf(talk)).programme)
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    await page.getByRole('tab', { name: 'Dressing' }).click()
    const lane = page.getByRole('group', { name: 'What lies over the talk' })
    await lane.getByText('Titles, pictures and music stand here').waitFor()

    await page.getByRole('button', { name: 'Opening card' }).click()
    const card = page.getByRole('group', { name: 'Card' })
    await card.waitFor()
    expect(await card.getByLabel('Title').inputValue()).toBe('Knots that hold')
    await card.getByLabel('Title').fill('Knots')
    await card.getByLabel('Under it').fill('Harbour school, Tidewick')
    await card.getByRole('button', { name: /^Theme/ }).click()
    await page.getByRole('menuitem', { name: 'dusk' }).click()
    await expect
      .poll(async () => (await filmOf(talk)).programme.overlays?.[0])
      .toMatchObject({
        heading: 'Knots',
        body: 'Harbour school, Tidewick',
        theme: 'dusk',
      })

    for (let n = 0; n < 3; n += 1) await page.keyboard.press('ArrowRight')
    await page.getByRole('group', { name: 'Add' }).getByRole('button', { name: 'Name' }).click()
    const name = page.getByRole('group', { name: 'Name', exact: true })
    await name.getByLabel('Name').fill('Ilse Marrak')
    await name.getByLabel('Under it').fill('Pilot')
    await name.getByLabel('Under it').press('Enter')
    const onLane = lane.getByRole('button', { name: /^Ilse Marrak, from/ })
    await onLane.waitFor()
    // It is moved on the lane by keys, and on the picture by keys.
    const begun = (await filmOf(talk)).programme.overlays?.[1]?.offset ?? 0
    await onLane.press('Shift+ArrowLeft')
    await expect.poll(async () => (await filmOf(talk)).programme.overlays?.[1]?.offset).toBe(begun - 1000)
    await onLane.press('Enter')
    const box = page.getByRole('button', { name: /^Name: drag it/ })
    await box.press('Shift+ArrowRight')
    await expect
      .poll(async () => {
        const overlay = (await filmOf(talk)).programme.overlays?.[1]
        return overlay?.kind === 'lower-third' && overlay.at !== null
      })
      .toBe(true)

    await page.getByRole('button', { name: 'Music' }).click()
    await page.getByRole('menuitem', { name: 'Quayside' }).click()
    await page.getByRole('group', { name: 'Music: Quayside' }).waitFor()
    await page.getByText('Tidy voice').click()
    const hold = page.getByRole('button', { name: /as recorded/ })
    await hold.waitFor()
    await page.keyboard.down('o')
    await expect.poll(() => hold.getAttribute('aria-pressed')).toBe('true')
    await page.keyboard.up('o')
    await expect.poll(() => hold.getAttribute('aria-pressed')).toBe('false')
    expect(await accessFaults(page)).toEqual([])
    // What was taken off by mistake is back with a key.
    await lane.getByRole('button', { name: /^Quayside/ }).press('Delete')
    await expect.poll(async () => (await filmOf(talk)).programme.beds).toBeUndefined()
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await filmOf(talk)).programme.beds?.length).toBe(1)

    const file = await makeFile(page, 480)
    const facts = await probe(file)
    expect(Math.abs(Number(facts.format.duration) * 1000 - before - 4000)).toBeLessThan(60)
    expect(colourGap(meanColour(await frameOf(file, 60), WIDTH, { x: 0.5, y: 0.1, w: 0.4, h: 0.2 }), DUSK)).toBeLessThan(8)
    expect(await levelOf(file, 1500, 1500)).toBeGreaterThan(-45)
    expect(stand.browser.faults).toEqual([])
  })

  it('gets another light and another backdrop behind its face, tried before they are used, and its file shows them', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Knots in a lively room')
    const camera = await livelyRecording({ width: 640, height: 360 }, 3000)
    const sent = { media: camera, camera: true, length: 3000, slide: slides[0] ?? '' }
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [sent])
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    await page.getByRole('tab', { name: 'Face' }).click()
    await page.getByText('Fills the frame').click()

    const light = page.getByRole('group', { name: 'Light' })
    await light.getByRole('slider', { name: 'Warmth' }).press('ArrowRight')
    await expect.poll(async () => Object.values((await filmOf(talk)).programme.lights?.stretches ?? {})[0]?.warmth).toBe(0.01)
    await light.getByRole('button', { name: 'As measured' }).click()
    await expect.poll(async () => Object.values((await filmOf(talk)).programme.lights?.stretches ?? {})[0]?.contrast).not.toBe(1)
    await light.getByRole('button', { name: 'As filmed' }).click()
    await expect.poll(async () => (await filmOf(talk)).programme.lights).toBeUndefined()

    const backdrop = page.getByRole('group', { name: 'Backdrop' })
    await backdrop.getByText('Plain', { exact: true }).click()
    await page.getByAltText('The face with this backdrop').waitFor()
    await backdrop.getByText('The outline is clear.').waitFor()
    expect((await filmOf(talk)).programme.backdrops).toBeUndefined()
    expect(await accessFaults(page)).toEqual([])
    await backdrop.getByRole('button', { name: 'Use it' }).click()
    const hold = backdrop.getByRole('button', { name: /as filmed/ })
    await hold.waitFor()
    await page.getByText('Until then the face is seen as filmed').waitFor({ state: 'hidden' })
    // A corner of the picture in Review: the colour, and the room while the key is held.
    const corner = (): Promise<readonly number[]> => colourIn(page, 0.025, 0.5)
    await expect.poll(async () => colourGap(await corner(), PINE)).toBeLessThan(12)
    await page.keyboard.down('o')
    await expect.poll(async () => colourGap(await corner(), PINE)).toBeGreaterThan(40)
    await page.keyboard.up('o')
    await expect.poll(async () => colourGap(await corner(), PINE)).toBeLessThan(12)

    const file = await makeFile(page, 480)
    const beside = { x: 0.02, y: 0.3, w: 0.1, h: 0.3 }
    expect(colourGap(meanColour(await frameOf(file, 45), WIDTH, beside), PINE)).toBeLessThan(8)
    expect(stand.browser.faults).toEqual([])
  })

  it('has a finished film played before it, which counts against its limit', async () => {
    const talk = await heardTalk(stand.client, 'Knots after a film')
    const before = programmeLength((await filmOf(talk)).programme)
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review`)
    await page.getByRole('tab', { name: 'Dressing' }).click()
    const film = join(await mkdtemp(join(tmpdir(), 'aisle-intro-')), 'intro.mp4')
    await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'color=c=magenta:s=640x360:r=25:d=2', '-pix_fmt', 'yuv420p', film])
    await page.getByRole('button', { name: 'Film', exact: true }).click()
    const chosen = page.waitForEvent('filechooser')
    await page.getByRole('menuitem', { name: 'Before the talk …' }).click()
    await (await chosen).setFiles(film)
    await expect.poll(async () => Math.round(programmeLength((await filmOf(talk)).programme) - before)).toBe(2000)
    const file = await makeFile(page, 480)
    const middle = { x: 0.4, y: 0.4, w: 0.2, h: 0.2 }
    expect(colourGap(meanColour(await frameOf(file, 20), WIDTH, middle), [255, 0, 255])).toBeLessThan(24)
    expect(colourGap(meanColour(await frameOf(file, 80), WIDTH, middle), [255, 0, 255])).toBeGreaterThan(60)
    expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - before - 2000)).toBeLessThan(60)
  })
})
