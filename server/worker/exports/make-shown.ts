import { createCanvas } from '@napi-rs/canvas'
import { viewerLines } from '@core/formats'
import { paintScene } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { linksOn } from '@core/screening'
import { LAST_MOMENT, indexFilm, sceneAt, withoutOverlays } from '@core/scene'
import { transcriptOf } from '@core/words'
import type { FilmWord } from '@core/words'
import { writeShown } from '@render/shown'
import type { ShownPart } from '@render/shown'
import { PictureSource } from '@render/video'
import type { Drawn } from '@render/video'
import { bundleSource, wordsOfFilm } from '@server/domain'
import type { BundleSource, Screening } from '@server/domain'
import { apartBounds } from '@server/settings'
import { assetHere } from '@server/store'
import type { ExportFacts, ExportWork } from './export-work'

/** Width at which slides are drawn, in pixels, and quality of the JPEG. */
const WIDTH = 1400
const QUALITY = 82

type Visit = Screening['visits'][number]

/** What was said while a slide was shown. */
function saidIn(words: readonly FilmWord[], { id }: Visit): readonly string[] {
  const own = words.filter((word) => word.visit === id)
  return transcriptOf(own, true).flatMap(({ paragraphs }) => paragraphs)
}

/** Every showing with its slide as it was at the end. */
async function* partsOf(
  { screening }: BundleSource,
  words: readonly FilmWord[],
  reached: (share: number) => void,
): AsyncGenerator<ShownPart> {
  const { film, visits, slides } = screening
  const index = withoutOverlays(indexFilm(film))
  const size = { width: WIDTH, height: Math.round((WIDTH * film.shape.height) / film.shape.width) }
  const pictures = new PictureSource(assetHere, apartBounds())
  const canvas = createCanvas(size.width, size.height)
  const ctx: PaintContext<Drawn> = canvas.getContext('2d')
  try {
    for (const [n, visit] of visits.entries()) {
      const scene = sceneAt(index, Math.max(visit.start, visit.start + visit.length - LAST_MOMENT))
      const slide = slides.find(({ id }) => id === visit.slide)
      if (scene === null || slide === undefined) continue
      const shown = { ...scene, inset: null, transition: null, stage: { x: 0, y: 0, w: 1, h: 1 } }
      paintScene(ctx, shown, size, await pictures.shelfFor(shown, size))
      yield {
        number: slide.number,
        title: slide.title,
        from: visit.start,
        until: visit.start + visit.length,
        picture: await canvas.encode('jpeg', QUALITY),
        ratio: size.height / size.width,
        alt: slide.description === '' ? slide.text : slide.description,
        links: linksOn(shown, film.shape),
        paragraphs: saidIn(words, visit),
        viewerNotes: viewerLines(slide),
      }
      reached((n + 1) / visits.length)
    }
  } finally {
    pictures.close()
  }
}

/** Makes a PDF of what was shown. */
export async function makeShown({ db, of, out, watch }: ExportWork): Promise<ExportFacts> {
  const source = await bundleSource(db, of.talk)
  const { title, presenter, language, screening } = source
  const words = await wordsOfFilm(db, screening.whole)
  await writeShown({ title, presenter, language, length: screening.length, parts: partsOf(source, words, watch.reached), out })
  return { length: screening.length, sentence: words.length === 0 ? 'What is said is not known yet, so it holds no words of yours.' : null }
}
