import { describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { faceRect, framingOf } from '@core/layout'
import { frameAt } from '@core/plan'
import { programmeLength, visitsOf } from '@core/programme'
import type { Rect } from '@core/model'
import { toFilm } from '@contracts'
import type { FilmView } from '@contracts'
import { probe } from '@render/probe'
import { endTake, isRecording, makeFile, spokenMore, takeDevices } from '../harness/browser'
import { KNOTS } from '../harness/decks'
import { colourGap, frameOf, levelOf, meanColour } from '../harness/film-file'
import { until } from '../harness/product'
import { facedRecording, sendTake, toneRecording } from '../harness/recording'
import { inBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'
import { chooseOnWave } from '../harness/waveform'

const stand = inBrowser()
const WIDTH = 854
const FRAME = 1000 / 30
const MAGENTA = [255, 0, 255] as const
const filmOf = (talk: string): Promise<FilmView> => stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
/** The middle of a rectangle. */
const middle = ({ x, y, w, h }: Rect) => ({ x: x + w * 0.4, y: y + h * 0.4, w: w * 0.2, h: h * 0.2 })
const isFace = (frame: Buffer, part: Rect): boolean => colourGap(meanColour(frame, WIDTH, middle(part)), MAGENTA) < 60

const LINE = 'cccccccc-0000-4000-8000-000000000001'
/** A line across the lower half of a slide. */
const line = (slide: string | undefined) => ({
  id: LINE,
  slide,
  colour: 'brick',
  width: 'broad',
  pressure: false,
  points: Array.from({ length: 21 }, (_, n) => ({ dt: n * 20, x: 0.3 + n * 0.02, y: 0.8, p: 0.5 })),
})
const ON_LINE = { x: 0.45, y: 0.797, w: 0.1, h: 0.006 }

/** Slides one, two, three and two again, with a face in one colour and a line drawn on the second. */
async function facedTalk(): Promise<string> {
  const { talk, slides } = await knotsTalk(stand.client, 'Faces')
  const show = (at: number, n: number) => ({ kind: 'show', at, slide: slides[n], step: 0 })
  await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(12, 'magenta'),
      camera: true,
      length: 12_000,
      slide: slides[0] ?? '',
      cues: [show(3000, 1), { kind: 'ink', at: 4000, stroke: line(slides[1]) }, show(6000, 2), show(9000, 1)],
    },
  ])
  return talk
}

async function openReview(page: Page, talk: string): Promise<void> {
  await page.goto(`${stand.product.url}/talks/${talk}/review`)
  await page.locator('.visit').nth(1).waitFor()
}
const edited = (talk: string, what: string, is: (film: FilmView) => boolean): Promise<unknown> =>
  until(what, async () => is(await filmOf(talk)))

describe('ink and face afterwards', () => {
  it('deletes a stroke that is clicked on the picture, takes the face off the title and moves it on three others', async () => {
    const talk = await facedTalk()
    const before = await filmOf(talk)
    const page = await stand.browser.page()
    await openReview(page, talk)

    // The stroke is whole a second and a half into the second visit.
    await page.keyboard.press('ArrowDown')
    for (let n = 0; n < 1; n += 1) await page.keyboard.press('ArrowRight')
    const picture = await page.locator('.stage').boundingBox()
    if (picture === null) throw new Error('no picture')
    await page.mouse.click(picture.x + picture.width * 0.5, picture.y + picture.height * 0.8)
    await page.getByText('drawn at 0:04.0').waitFor()
    await page.keyboard.press('Delete')
    await edited(talk, 'the stroke to be gone', (film) => film.programme.inkEdits.some((edit) => edit.stroke === LINE && edit.hidden))

    await page.getByRole('tab', { name: 'Face' }).click()
    await page.keyboard.press('Home')
    await page.getByText('For visit 1').waitFor()
    await page.getByRole('radiogroup', { name: 'Where the face is' }).getByText('Off').click()
    await edited(talk, 'the face to be off', (film) => Object.keys(film.programme.framings).length === 1)
    for (const n of [2, 3, 4]) await page.getByRole('checkbox', { name: `Pick visit ${String(n)}` }).click()
    await page.getByText('For the 3 visits that are picked').waitFor()
    await page.keyboard.press('ArrowDown')
    const face = page.getByRole('button', { name: /^The face: drag it/ })
    const box = await face.boundingBox()
    if (box === null) throw new Error('no face')
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(picture.x + picture.width * 0.2, picture.y + picture.height * 0.3, { steps: 5 })
    await page.mouse.up()
    await edited(talk, 'the face to be moved', (film) => Object.keys(film.programme.framings).length === 4)

    const after = await filmOf(talk)
    const file = await makeFile(page, 480)
    const at = (t: number): Promise<Buffer> => frameOf(file, frameAt(t, 30))
    const film = toFilm(before)
    for (const [n, visit] of visitsOf(after.programme).entries()) {
      const frame = await at(visit.start + 2000)
      const slide = film.slides.get(visit.slide)
      const own = after.programme.framings[visit.id]
      if (slide === undefined || own === undefined) throw new Error('no framing')
      const usual = faceRect(framingOf(slide, before.shape))
      expect([n, isFace(frame, usual)]).toEqual([n, false])
      if (n > 0) expect([n, isFace(frame, faceRect(own))]).toEqual([n, true])
    }
    expect(colourGap(meanColour(await at(5000), WIDTH, ON_LINE), KNOTS[1]?.colour ?? [])).toBeLessThan(8)
    // All of it is taken back: the talk is what it was.
    await page.getByRole('link', { name: 'Review', exact: true }).click()
    for (let n = 0; n < 3; n += 1) {
      const {
        programme: { revision },
      } = await filmOf(talk)
      await page.getByRole('button', { name: 'Undo' }).click()
      await edited(talk, 'one taken back', (now) => now.programme.revision > revision)
    }
    expect({ ...(await filmOf(talk)).programme, revision: 0 }).toEqual({ ...before.programme, revision: 0 })
    expect(stand.browser.faults).toEqual([])
  })

  it('draws more on the picture, timed as it was drawn, and the file shows it', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Drawn on later')
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
      {
        // Long enough for a hand on a machine that is short of time.
        media: await toneRecording(16),
        length: 16_000,
        slide: slides[0] ?? '',
        cues: [{ kind: 'show', at: 14_000, slide: slides[1], step: 0 }],
      },
    ])
    const page = await stand.browser.page()
    await openReview(page, talk)
    await page.keyboard.press('Home')
    await page.keyboard.press('ArrowRight')
    await page.getByRole('toolbar', { name: 'Ink' }).getByRole('button', { name: 'Pen' }).click()
    const picture = await page.locator('.stage').boundingBox()
    if (picture === null) throw new Error('no picture')
    const place = (x: number): [number, number] => [picture.x + picture.width * x, picture.y + picture.height * 0.8]
    await page.mouse.move(...place(0.3))
    await page.mouse.down()
    for (let n = 1; n <= 20; n += 1) await page.mouse.move(...place(0.3 + n * 0.02))
    await page.mouse.up()
    await edited(talk, 'the stroke', (film) => film.programme.inkAdded.length === 1)
    const { programme } = await filmOf(talk)
    expect(programme.inkAdded[0]).toMatchObject({ at: 2000, stroke: { slide: slides[0] } })
    const drawn = programme.inkAdded[0]?.stroke.points.at(-1)?.dt ?? 0
    const file = await makeFile(page, 480)
    const seen = async (at: number): Promise<boolean> =>
      colourGap(meanColour(await frameOf(file, frameAt(at, 30)), WIDTH, ON_LINE), KNOTS[0]?.colour ?? []) > 30
    expect([await seen(1900), await seen(2000 + drawn + 100), await seen(13_900)]).toEqual([false, true, true])
    expect(stand.browser.faults).toEqual([])
  })
})

describe('saying again', () => {
  it('a part of a slide, spoken into what comes before it, and then everything from a slide on; the file holds both', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Said in parts')
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [
      {
        media: await toneRecording(16),
        length: 16_000,
        slide: slides[0] ?? '',
        cues: [
          { kind: 'show', at: 4000, slide: slides[1], step: 0 },
          { kind: 'show', at: 12_000, slide: slides[2], step: 0 },
        ],
      },
    ])
    const before = await filmOf(talk)
    const page = await stand.browser.page()
    await openReview(page, talk)
    await chooseOnWave(page, 1, 0.5, 0.75)
    await page.getByRole('link', { name: 'Say it again' }).click()
    await takeDevices(page)
    await page.getByRole('button', { name: /^Say .* of this slide again/ }).click()
    await page.getByText('Listen, and speak in').waitFor()
    await isRecording(page)
    await spokenMore(page, 4)
    await endTake(page)
    const said = await filmOf(talk)
    expect(visitsOf(said.programme).map(({ id }) => id)).toEqual(visitsOf(before.programme).map(({ id }) => id))
    const [, second] = visitsOf(said.programme)
    const [own, again] = said.programme.pieces
      .slice(...(second?.pieces ?? [0, 0]))
      .map((piece) => (piece.kind === 'recorded' ? piece.show : null))
    const first = before.programme.pieces[0]
    expect([own?.stretch, again?.stretch === own?.stretch]).toEqual([first?.kind === 'recorded' ? first.show.stretch : '', false])
    expect(Math.abs((own?.to ?? 0) - 8000)).toBeLessThan(260)

    await page.getByRole('button', { name: 'Back to the Lectern' }).click()
    await page.keyboard.press('g')
    await page.getByRole('dialog').getByRole('button', { name: /3/ }).first().click()
    await page.getByRole('button', { name: 'Go on from slide 3' }).click()
    await isRecording(page)
    await spokenMore(page, 3)
    await endTake(page)
    const after = await filmOf(talk)
    const kept = visitsOf(said.programme)
    expect(visitsOf(after.programme).slice(0, 2)).toEqual(kept.slice(0, 2))
    expect(visitsOf(after.programme)[2]?.id).not.toBe(kept[2]?.id)

    const file = await makeFile(page, 480)
    const length = programmeLength(after.programme)
    expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - length)).toBeLessThanOrEqual(FRAME + 1)
    for (const visit of visitsOf(after.programme)) {
      expect(
        colourGap(
          meanColour(await frameOf(file, frameAt(visit.start + visit.length / 2, 30)), WIDTH, { x: 0.3, y: 0.75, w: 0.3, h: 0.1 }),
          KNOTS[[0, 1, 3][slides.indexOf(visit.slide)] ?? 0]?.colour ?? [],
        ),
      ).toBeLessThan(12)
    }
    // Words are heard before the part, in it, after it, and in what was said at the end.
    const begins = (second?.start ?? 0) + 4000
    for (const [from, span] of [
      [begins - 1500, 1200],
      [begins + 300, 2000],
      [(second?.start ?? 0) + (second?.length ?? 0) - 1300, 1000],
      [length - 2500, 2200],
    ] as const)
      expect(await levelOf(file, from, span)).toBeGreaterThan(-40)

    // The slide as it was first recorded, heard beside the other and taken up again.
    await page.getByRole('link', { name: 'Review', exact: true }).click()
    await page.getByRole('button', { name: 'More for visit 2' }).click()
    await page.getByRole('menuitem', { name: 'Recordings side by side' }).filter({ visible: true }).click()
    const beside = page.getByRole('dialog', { name: /^Recordings of/ })
    await beside.getByRole('button', { name: 'Play', exact: true }).last().click()
    await expect.poll(() => page.evaluate('document.querySelector(".el-dialog video")?.currentTime ?? 0')).toBeGreaterThan(4.2)
    await beside.getByRole('button', { name: 'Take this one' }).last().click()
    await beside.waitFor({ state: 'hidden' })
    const restored = await filmOf(talk)
    expect(restored.programme.pieces.slice(...(visitsOf(restored.programme)[1]?.pieces ?? [0, 0]))).toEqual(
      before.programme.pieces.slice(...(visitsOf(before.programme)[1]?.pieces ?? [0, 0])),
    )
    expect(stand.browser.faults).toEqual([])
  })
})
