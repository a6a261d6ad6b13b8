import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { filmOfFaces } from '@core/archive'
import { narratedVisits } from '@core/narrated'
import type { NarratedVisit } from '@core/narrated'
import { insetBox, paintScene, paintStroke } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { renderPlan } from '@core/plan'
import { indexFilm, sceneAt, slideOf, withoutOverlays } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { Refusal, USUAL_RECIPE } from '@core/model'
import type { Size, Slide } from '@core/model'
import { cutVisitMedia, firstPicture, writeNarratedDeck } from '@render/narrated'
import type { NarratedSlide } from '@render/narrated'
import { PictureSource } from '@render/video'
import type { Drawn } from '@render/video'
import { bundleSource } from '@server/domain'
import type { BundleSource, Screening } from '@server/domain'
import { apartBounds } from '@server/settings'
import { assetHere } from '@server/store'
import { makeSound } from '../tasks/make-sound'
import type { ExportFacts, ExportWork } from './export-work'
import { silentFilm } from './silent-film'
import type { SilentFilm } from './silent-film'

/** Width at which slides are drawn, in pixels, and quality of the JPEG. */
const WIDTH = 1920
const QUALITY = 85
/** Lines of the film that faces are cut out of. */
const FACE_LINES = 720
/** How much of the work is done when the faces are there, and when all showings are cut. */
const FACES = 0.5
const CUT = 0.95
/** What stands where a voice is that is not seen, in pixels. */
const POSTER = { width: 64, height: 64 }

/** Draws slides as they were shown, without the face. */
class SlideDrawer {
  readonly #pictures = new PictureSource(assetHere, apartBounds())
  readonly #index: FilmIndex
  readonly #size: Size

  constructor(index: FilmIndex) {
    this.#index = index
    const { shape } = index.film
    this.#size = { width: WIDTH, height: Math.round((WIDTH * shape.height) / shape.width) }
  }

  /** States of a showing, with the ink that lay there from the beginning. */
  async states({ states, lying }: NarratedVisit): Promise<NarratedSlide['states']> {
    const drawn: { readonly at: number; readonly picture: Buffer }[] = []
    for (const { at, time } of states) {
      const scene = sceneAt(this.#index, time)
      if (scene === null) continue
      const shown = { ...scene, inset: null, transition: null, spot: null, ink: scene.ink.filter(({ stroke }) => lying.has(stroke.id)) }
      const canvas = createCanvas(this.#size.width, this.#size.height)
      const ctx: PaintContext<Drawn> = canvas.getContext('2d')
      paintScene(ctx, { ...shown, revealProgress: 1 }, this.#size, await this.#pictures.shelfFor(shown, this.#size))
      drawn.push({ at, picture: await canvas.encode('jpeg', QUALITY) })
    }
    return drawn
  }

  /** Ink that was drawn during a showing, on nothing; null: none was. */
  async ink({ drawn }: NarratedVisit): Promise<Buffer | null> {
    if (drawn.length === 0) return null
    const canvas = createCanvas(this.#size.width, this.#size.height)
    const ctx: PaintContext<Drawn> = canvas.getContext('2d')
    for (const { stroke } of drawn) paintStroke(ctx, { stroke, elapsed: null }, this.#size)
    return await canvas.encode('png')
  }

  close(): void {
    this.#pictures.close()
  }
}

/** A mark for a voice whose presenter is not seen. */
async function voiceMark(): Promise<Buffer> {
  const canvas = createCanvas(POSTER.width, POSTER.height)
  const ctx = canvas.getContext('2d')
  ctx.fillStyle = '#1F5A4C'
  ctx.beginPath()
  ctx.arc(POSTER.width / 2, POSTER.height / 2, POSTER.width / 3, 0, Math.PI * 2)
  ctx.fill()
  return await canvas.encode('png')
}

/** What a slide says of itself where it is not seen. */
const altOf = ({ description, text, title }: Screening['slides'][number]): string => (description !== '' ? description : text || title)

/** What all slides are made with. */
interface Making {
  readonly work: ExportWork
  readonly source: BundleSource
  readonly drawer: SlideDrawer
  readonly voice: string | null
  /** The face alone, in the film's time; null: it is never seen. */
  readonly faces: SilentFilm | null
}

async function mediaOf({ work, source, voice, faces }: Making, visit: NarratedVisit, n: number): Promise<NarratedSlide['media']> {
  const { face, start, length } = visit
  const seen = face !== null && faces !== null
  if (voice === null && !seen) return null
  const out = join(work.folder, `visit-${String(n)}.mp4`)
  const frame = { width: WIDTH, height: (WIDTH * source.screening.film.shape.height) / source.screening.film.shape.width }
  const cut = seen ? { file: faces.path, size: faces.frame, framing: face.framing, shown: insetBox(face.framing, frame) } : null
  await cutVisitMedia({ voice, face: cut, start, length, out, signal: work.watch.signal })
  return { file: out, face: seen ? face.rect : null, poster: seen ? await firstPicture(out, work.watch.signal) : await voiceMark() }
}

async function slideFor(making: Making, visit: NarratedVisit, n: number): Promise<NarratedSlide> {
  const { source, drawer } = making
  const { slides, visits, whole } = source.screening
  const id = visits[n]?.slide
  const shown = slides.find((one) => one.id === id)
  if (id === undefined || shown === undefined) throw new Error('a showing has no slide')
  const slide: Slide = slideOf(whole.film, id)
  return {
    title: shown.title,
    notes: slide.notes,
    alt: altOf(shown),
    length: visit.length,
    transition: slide.transition,
    states: await drawer.states(visit),
    media: await mediaOf(making, visit, n),
    ink: visit.drawn,
    inkPicture: await drawer.ink(visit),
    pointer: visit.pointer,
  }
}

/** Makes an office deck that is shown as the talk was, with its voice and face on its slides. */
export async function makeNarrated(work: ExportWork): Promise<ExportFacts> {
  const { db, of, out, label, watch } = work
  const source = await bundleSource(db, of.talk)
  const { screening, title, presenter } = source
  if (!source.isRecorded) throw new Refusal('conflict', 'Nothing is recorded yet: there is no voice to put into the deck.')
  const index = withoutOverlays(indexFilm(screening.film))
  const plan = renderPlan(screening.whole, { ...USUAL_RECIPE, format: 'wav' })
  const voice = screening.voice ? (await makeSound(plan, label, watch.signal)).file : null
  const faced = filmOfFaces(screening.whole.film)
  const faces = faced === null ? null : await silentFilm(work, faced, { lines: FACE_LINES, name: 'faces', until: FACES })
  const visits = narratedVisits(index, screening.visits)
  const drawer = new SlideDrawer(index)
  try {
    const slides: NarratedSlide[] = []
    for (const [n, visit] of visits.entries()) {
      slides.push(await slideFor({ work, source, drawer, voice, faces }, visit, n))
      watch.reached(FACES + (CUT - FACES) * ((n + 1) / visits.length))
    }
    await writeNarratedDeck({ title, presenter, shape: screening.film.shape, slides, out, signal: watch.signal })
  } finally {
    drawer.close()
  }
  const rubbed = visits.some(({ rubbedOut }) => rubbedOut)
  return { length: screening.length, sentence: rubbed ? 'What you rubbed out again is not in it: an office deck knows no eraser.' : null }
}
