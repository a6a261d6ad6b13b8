import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Image } from '@napi-rs/canvas'
import scanned from 'jsqr'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { paintPicture } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { frameAt } from '@core/plan'
import { programmeLength, visitsOf } from '@core/programme'
import { plannedTime } from '@core/pace'
import type { FilmView, ShareView, TalkView } from '@contracts'
import { probe } from '@render/probe'
import { PictureSource } from '@render/video'
import type { Drawn } from '@render/video'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, makeFile, spokenMore, takeDevices } from '../harness/browser'
import { LESSON, makePdf, makeZip, plainPng } from '../harness/decks'
import { colourGap, decodesClean, frameOf, meanColour, meanLevel } from '../harness/film-file'
import { likeness } from '../harness/likeness'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()
let folder: string

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-decks-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

/** Makes a talk of one file on the Talks page. */
async function talkOf(page: Page, name: string, bytes: Uint8Array, slides: number): Promise<string> {
  const file = join(folder, name)
  await writeFile(file, bytes)
  await page.goto(stand.product.url)
  await page.setInputFiles('input[type=file]', file)
  await page.getByRole('button', { name: 'Make this talk' }).click()
  await page.getByRole('article', { name: new RegExp(`^Slide ${String(slides)}:`) }).waitFor()
  return /talks\/([0-9a-f-]+)\//.exec(page.url())?.[1] ?? ''
}
function pixelsOf(image: Image): { readonly width: number; readonly height: number; readonly pixels: Uint8ClampedArray } {
  const canvas = createCanvas(image.width, image.height)
  const ctx = canvas.getContext('2d')
  ctx.drawImage(image, 0, 0)
  return { width: image.width, height: image.height, pixels: ctx.getImageData(0, 0, image.width, image.height).data }
}
const view = (talk: string): Promise<TalkView> => stand.client.get('GET', `/talks/${talk}`)
const filmOf = (talk: string): Promise<FilmView> => stand.client.get('GET', `/talks/${talk}/film`)
const row = (page: Page, n: number) => page.getByRole('article', { name: new RegExp(`^Slide ${String(n)}:`) })
const saved = async (page: Page): Promise<void> => {
  await page.getByText(/^Saved/).waitFor()
}

describe('a lesson written as text', () => {
  it('is recorded point by point and delivered with its picture, words and fades', async () => {
    const page = await stand.browser.page()
    const talk = await talkOf(
      page,
      'lesson.zip',
      await makeZip({ 'lesson/tides.md': LESSON, 'lesson/pier.png': plainPng(400, 300, '#c03020') }),
      3,
    )
    await row(page, 3).locator('.left').click()
    await page
      .locator('.el-select')
      .filter({ has: page.getByRole('combobox', { name: 'How this slide comes' }) })
      .click()
    await page.getByRole('option', { name: 'fading in' }).click()
    await saved(page)
    await beginTake(page)
    for (let n = 0; n < 4; n += 1) {
      await spokenMore(page, 1)
      await page.keyboard.press('ArrowRight')
    }
    await spokenMore(page, 1)
    await endTake(page)
    const file = await makeFile(page, 480)
    const film = await filmOf(talk)
    const length = programmeLength(film.programme)
    const found = await probe(file)
    expect(Math.abs(Number(found.format.duration) * 1000 - length)).toBeLessThanOrEqual(1000 / 30)
    expect(found.chapters.map((chapter) => chapter.tags?.title)).toEqual(['Tides for beginners', 'Why the water comes back', 'The pier'])
    expect(await meanLevel(file)).toBeGreaterThan(-35)
    expect(await decodesClean(file)).toBe(true)

    const cues = film.stretches[0]?.cues.flatMap((cue) => (cue.kind === 'show' ? [cue] : [])) ?? []
    expect(cues.map((cue) => cue.step)).toEqual([0, 1, 2, 0])
    // The first point stands in this part of the slide once it was called, and not before.
    const point = { x: 0.06, y: 0.2, w: 0.5, h: 0.08 }
    const dark = async (at: number): Promise<number> =>
      colourGap(meanColour(await frameOf(file, frameAt(at, 30)), 854, point), [252, 250, 244])
    expect(await dark((cues[1]?.at ?? 0) - 100)).toBeLessThan(3)
    expect(await dark((cues[1]?.at ?? 0) + 300)).toBeGreaterThan(6)
    // The pier fades in: half there in the middle of its coming, all there afterwards.
    const pier = { x: 0.4, y: 0.5, w: 0.05, h: 0.05 }
    const red = async (at: number): Promise<number> => meanColour(await frameOf(file, frameAt(at, 30)), 854, pier)[1]
    const [before, during, after] = await Promise.all([-60, 250, 900].map((by) => red((cues[3]?.at ?? 0) + by)))
    expect(before).toBeGreaterThan(230)
    expect(after).toBeLessThan(80)
    expect(during).toBeGreaterThan((after ?? 0) + 30)
    expect(during).toBeLessThan((before ?? 0) - 30)
  })

  it('looks the same in the browser and where the file is made', async () => {
    const [card] = await stand.client.get<{ id: string }[]>('GET', '/talks')
    const talk = await view(card?.id ?? '')
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk.id}/lectern`)
    await takeDevices(page)
    await page.getByRole('button', { name: /^Record the talk/ }).waitFor()
    const source = new PictureSource((digest) => join(stand.product.data, 'store', 'assets', digest.slice(0, 2), digest))
    for (const [n, slide] of talk.slides.entries()) {
      if (n > 0) for (const _ of talk.slides[n - 1]?.steps ?? []) await page.keyboard.press('ArrowRight')
      for (const __ of slide.steps.slice(1)) await page.keyboard.press('ArrowRight')
      const picture = slide.steps.at(-1)?.picture
      if (picture === undefined) throw new Error('a slide without steps')
      const shown = async () => {
        const address = await page
          .locator('.stage canvas')
          .first()
          .evaluate((element) => (element as unknown as { toDataURL: () => string }).toDataURL())
        return pixelsOf(await loadImage(Buffer.from(address.split(',')[1] ?? '', 'base64')))
      }
      const { width, height } = await shown()
      const canvas = createCanvas(width, height)
      const ctx: PaintContext<Drawn> = canvas.getContext('2d')
      const scene = {
        shown: slide.steps.at(-1) ?? null,
        ink: [],
        spot: null,
        clips: [],
        objects: [],
        stage: { x: 0, y: 0, w: 1, h: 1 },
        revealProgress: 1,
        transition: null,
      }
      paintPicture(ctx, picture, { width, height }, await source.shelfFor(scene, { width, height }))
      const made = canvas.getContext('2d').getImageData(0, 0, width, height).data
      // Pictures and fonts may still be loading when the slide is turned to.
      await expect.poll(async () => likeness((await shown()).pixels, made, width, height).worst).toBeGreaterThan(0.9)
      expect(likeness((await shown()).pixels, made, width, height).mean).toBeGreaterThan(0.98)
      // The check can fail: a slide without its last line is not the same.
      const other = createCanvas(width, height)
      other.getContext('2d').putImageData(canvas.getContext('2d').getImageData(0, 0, width, height), 0, 0)
      other.getContext('2d').fillRect(width * 0.06, height * 0.08, width * 0.3, height * 0.1)
      expect(likeness(other.getContext('2d').getImageData(0, 0, width, height).data, made, width, height).worst).toBeLessThan(0.9)
    }
    source.close()
  })
})

describe('a slide made here', () => {
  it('has a code that is scanned to the page of its talk', async () => {
    const page = await stand.browser.page()
    const talk = await talkOf(page, 'scanned.md', Buffer.from('# Knots\n\n## Come and try\n\nOn Thursday, at the pier.'), 2)
    await row(page, 2).locator('.left').click()
    await page.getByRole('button', { name: /^Put a code to scan/ }).click()
    await page.getByRole('button', { name: /^Have the code lead/ }).waitFor()
    await saved(page)
    const { address } = await stand.client.get<ShareView>('GET', `/talks/${talk}/share`)
    const last = (await view(talk)).slides[1]?.steps.at(-1)
    if (last === undefined) throw new Error('a slide without steps')
    expect(last.links?.map((link) => link.address)).toEqual([address])
    // Drawn as a film of 480 lines draws it.
    const size = { width: 854, height: 480 }
    const source = new PictureSource((digest) => join(stand.product.data, 'store', 'assets', digest.slice(0, 2), digest))
    const canvas = createCanvas(size.width, size.height)
    const scene = {
      shown: last,
      clips: [],
      objects: [],
      ink: [],
      spot: null,
      stage: { x: 0, y: 0, w: 1, h: 1 },
      revealProgress: 1,
      transition: null,
    }
    paintPicture<Drawn>(canvas.getContext('2d') as PaintContext<Drawn>, last.picture, size, await source.shelfFor(scene, size))
    source.close()
    expect(scanned(canvas.getContext('2d').getImageData(0, 0, size.width, size.height).data, size.width, size.height)?.data).toBe(address)
  })
})

describe('the face', () => {
  it('is put beside five slides in one action, and stands there in the file', async () => {
    const page = await stand.browser.page()
    const colours = [
      [240, 200, 190],
      [190, 235, 195],
      [190, 205, 245],
      [245, 240, 180],
      [220, 190, 240],
    ] as const
    const talk = await talkOf(page, 'five.pdf', await makePdf(colours.map((colour, n) => ({ colour, title: `Tower ${String(n + 1)}` }))), 5)
    await row(page, 1).getByRole('checkbox').click()
    await row(page, 5)
      .getByRole('checkbox')
      .click({ modifiers: ['Shift'] })
    await page.getByText('5 picked').waitFor()
    await page.getByRole('tab', { name: 'Face' }).click()
    await page.getByText('for 5 picked slides').waitFor()
    await page.getByText('Beside it').click()
    await expect
      .poll(async () => (await view(talk)).slides.map((slide) => slide.framing?.placing))
      .toEqual(Array.from({ length: 5 }, () => 'beside'))
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect.poll(async () => (await view(talk)).slides.map((slide) => slide.framing)).toEqual(Array.from({ length: 5 }, () => null))
    await page.getByRole('button', { name: 'Redo' }).click()
    await expect.poll(async () => (await view(talk)).slides.every((slide) => slide.framing?.placing === 'beside')).toBe(true)

    await beginTake(page)
    for (let n = 0; n < 4; n += 1) {
      await spokenMore(page, 1)
      await page.keyboard.press('ArrowRight')
    }
    await spokenMore(page, 1)
    await endTake(page)
    const file = await makeFile(page, 480)
    const { programme } = await filmOf(talk)
    expect(programme.pieces.length).toBe(5)
    for (const [n, { start, length }] of visitsOf(programme).entries()) {
      const frame = await frameOf(file, frameAt(start + length / 2, 30))
      const at = (x: number, y: number) => meanColour(frame, 854, { x, y, w: 0.02, h: 0.02 })
      expect(colourGap(at(0.3, 0.55), colours[n] ?? [])).toBeLessThan(8)
      // Above the slide, which has made room, there is the ground; on the right the wall behind the speaker.
      expect(colourGap(at(0.3, 0.05), [16, 28, 26])).toBeLessThan(8)
      expect(colourGap(at(0.76, 0.12), [16, 28, 26])).toBeGreaterThan(60)
    }
  })

  it('is cleared off everything it covers, and what was done is said', async () => {
    const page = await stand.browser.page()
    const talk = await talkOf(
      page,
      'covered.pdf',
      await makePdf([
        { colour: [250, 250, 250], title: 'Harbour' },
        { colour: [250, 250, 250], title: 'Pier' },
      ]),
      2,
    )
    await page.getByRole('tab', { name: 'Face' }).click()
    const face = page.getByRole('button', { name: /^The face: drag it/ })
    await face.focus()
    for (let n = 0; n < 20; n += 1) await page.keyboard.press('Shift+ArrowLeft')
    for (let n = 0; n < 20; n += 1) await page.keyboard.press('Shift+ArrowUp')
    await page
      .getByRole('status')
      .filter({ hasText: /^The face covers \d+%/ })
      .waitFor()
    await page.getByRole('button', { name: 'Clear everywhere' }).click()
    await page.getByText('Moved on slide 1.').waitFor()
    await page.getByText(/^It covers nothing of what is on this slide/).waitFor()
    await saved(page)
    const [first, second] = (await view(talk)).slides
    expect(first?.framing?.rect.x).toBeGreaterThan(0.5)
    expect(second?.framing).toBeNull()
    expect(stand.browser.faults).toEqual([])
  })
})

describe('the plan', () => {
  it('is shortened to its limit, and the notes are found and exchanged', async () => {
    const page = await stand.browser.page()
    const talk = await talkOf(
      page,
      'plan.pdf',
      await makePdf([
        { colour: [250, 250, 250], title: 'One' },
        { colour: [250, 250, 250], title: 'Two' },
        { colour: [250, 250, 250], title: 'Three' },
      ]),
      3,
    )
    const notes = ['swift '.repeat(130), 'swift '.repeat(65), 'one swift']
    for (const [n, text] of notes.entries()) await page.getByRole('textbox', { name: `Notes of slide ${String(n + 1)}` }).fill(text)
    const limit = page.getByRole('combobox', { name: 'Limit' })
    await limit.click()
    await limit.fill('1:00')
    await limit.press('Enter')
    await page
      .getByText(/0:3\d over/)
      .first()
      .waitFor()
    await page.getByRole('tab', { name: 'Plan' }).click()
    await page.getByRole('button', { name: 'Shorten to fit' }).click()
    await page.getByText('Shortened to the limit.').waitFor()
    await expect.poll(async () => (await view(talk)).slides.reduce((sum, slide) => sum + plannedTime(slide), 0)).toBe(60_000)
    expect(await accessFaults(page)).toEqual([])

    await page.getByRole('button', { name: 'Find', exact: true }).click()
    await page.getByRole('textbox', { name: 'Find' }).fill('swift')
    await page.getByText('on 3 slides').waitFor()
    await page.getByRole('textbox', { name: 'Replace with' }).fill('martin')
    await page.getByRole('button', { name: 'Replace 196 in notes' }).click()
    await expect.poll(async () => (await view(talk)).slides[2]?.notes).toBe('one martin')
    for (let n = 0; n < 2; n += 1) await page.getByRole('button', { name: 'Undo' }).click()
    await expect
      .poll(async () => (await view(talk)).slides.map((slide) => [slide.notes.includes('swift'), slide.planned]))
      .toEqual([
        [true, null],
        [true, null],
        [true, null],
      ])
  })

  it('left while it is saved and opened again, or left for another, loses nothing and stays what it is', async () => {
    const page = await stand.browser.page()
    const other = await talkOf(page, 'others.md', Buffer.from('## Another\n'), 1)
    const talk = await talkOf(page, 'slow.md', Buffer.from('## First\n\n---\n\n## Second\n'), 2)
    const gate = { held: Promise.resolve(), open: (): void => undefined }
    const hold = (): void => {
      gate.held = new Promise<void>((resolve) => {
        gate.open = resolve
      })
    }
    await page.route(`**/talks/${talk}/deck`, async (route) => {
      await gate.held
      await route.continue()
    })
    const notes = (n: number) => page.getByRole('textbox', { name: `Notes of slide ${String(n)}` })
    const goTo = async (name: RegExp): Promise<void> => {
      await page.getByRole('link', { name: 'All talks' }).click()
      await page.getByRole('link', { name }).first().click()
    }
    const said = async (n: number, words: string): Promise<void> => {
      const sent = page.waitForRequest(`**/talks/${talk}/deck`)
      await notes(n).fill(words)
      await sent
    }
    const answered = async (): Promise<void> => {
      const answer = page.waitForResponse(`**/talks/${talk}/deck`)
      gate.open()
      await answer
    }
    hold()
    await said(1, 'said once')
    await goTo(/slow/)
    await answered()
    await saved(page)
    await row(page, 2).waitFor()
    hold()
    await said(1, 'said first')
    await notes(2).fill('said second')
    await goTo(/others/)
    await row(page, 1).getByText('Another').first().waitFor()
    await answered()
    await expect.poll(async () => (await view(other)).slides.map((slide) => slide.notes)).toEqual([''])
    await goTo(/slow/)
    await expect.poll(async () => (await view(talk)).slides.map((slide) => slide.notes)).toEqual(['said first', 'said second'])
    expect([await notes(1).inputValue(), await notes(2).inputValue()]).toEqual(['said first', 'said second'])
    expect(stand.browser.faults).toEqual([])
  })

  it('stays quick to use with three hundred slides, of which only those in sight are there', async () => {
    const page = await stand.browser.page()
    const talk = await talkOf(page, 'one.md', Buffer.from('## First\n'), 1)
    const { revision } = await view(talk)
    const composition = (n: number) => ({
      layout: 'points',
      theme: 'paper',
      heading: `Count ${String(n)}`,
      body: '- one\n- two',
      second: '',
      pictures: [],
      reveal: 'together',
    })
    await stand.client.get('POST', `/talks/${talk}/deck`, {
      revision,
      edit: {
        kind: 'all',
        edits: Array.from({ length: 299 }, (_, n) => ({
          kind: 'compose',
          at: n + 1,
          slide: {
            id: crypto.randomUUID(),
            title: '',
            notes: '',
            section: '',
            viewerNotes: '',
            description: '',
            planned: null,
            skip: false,
            optional: false,
            framing: null,
            transition: 'cut',
            composition: composition(n + 2),
          },
        })),
      },
    })
    await page.getByText('300 slides').waitFor()
    expect(await page.getByRole('article').count()).toBeLessThan(30)
    await page.getByRole('button', { name: /^Add a slide/ }).focus()
    await page.locator('.rows').evaluate((element) => {
      ;(element as unknown as { scrollTop: number }).scrollTop = 1e6
    })
    await row(page, 300).waitFor()
    await page.getByRole('textbox', { name: 'Notes of slide 300' }).fill('the last one')
    await expect.poll(async () => (await view(talk)).slides.at(-1)?.notes).toBe('the last one')
    expect(stand.browser.faults).toEqual([])
  })
})
