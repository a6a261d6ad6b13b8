import type { Page } from 'playwright-core'
import type { Client } from './client'
import { KNOTS } from './decks'
import { colourGap } from './film-file'
import { facedRecording, sendTake } from './recording'
import { shareTalk } from './screening'
import { knotsTalk } from './talks'

/** What is asked of a canvas in the page. */
interface Picture {
  readonly width: number
  readonly height: number
  readonly getContext: (
    kind: '2d',
  ) => { getImageData: (x: number, y: number, w: number, h: number) => { readonly data: Iterable<number> } } | null
}

/** The colour of a place in the picture, in fractions of it. */
export const colourIn = (page: Page, x: number, y: number): Promise<readonly number[]> =>
  page
    .locator('canvas[role=img]')
    .first()
    .evaluate(
      (canvas, [x, y]) => {
        const picture = canvas as unknown as Picture
        const pixel = picture.getContext('2d')?.getImageData(Math.round(picture.width * x), Math.round(picture.height * y), 1, 1)
        return [...(pixel?.data ?? [])].slice(0, 3)
      },
      [x, y] as const,
    )
/** Whether a slide of the deck of knots is what is seen. */
export const showsSlide = async (page: Page, n: number): Promise<boolean> =>
  colourGap(await colourIn(page, 0.5, 0.9), KNOTS[n]?.colour ?? []) < 12
/** Where the film stands, in s. */
export async function standsAt(page: Page): Promise<number> {
  const [minutes, seconds] = ((await page.locator('.controls .clock').textContent()) ?? '').split(' of ')[0]?.split(':') ?? []
  return Number(minutes) * 60 + Number(seconds)
}
export const playButton = (page: Page, name = 'Play') => page.getByRole('button', { name, exact: true })

/** Three slides of four seconds each, with a face. */
export async function threeSlides(client: Client, name: string): Promise<{ talk: string; path: string }> {
  const { talk, slides } = await knotsTalk(client, name)
  const show = (at: number, n: number) => ({ kind: 'show', at, slide: slides[n], step: 0 })
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(12, 'magenta'),
      camera: true,
      length: 12_000,
      slide: slides[0] ?? '',
      cues: [show(4000, 1), show(8000, 2)],
    },
  ])
  const { path } = await shareTalk(client, talk)
  return { talk, path }
}
