import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { dequal } from 'dequal'
import { clockText } from '@core/formats'
import { filmShowings, stillsIn, timeOfImage } from '@core/match'
import type { FilmShowing } from '@core/match'
import { Refusal } from '@core/model'
import type { ClipMedia, Size, Slide, SlideId } from '@core/model'
import { bringClip, analysisImages, filmStill, slideAnalysisImage } from '@render/clips'
import { bringRecorded } from '@render/sound'
import { database } from '@server/database'
import type { Database } from '@server/database'
import {
  JPEG,
  broughtFilm,
  importDone,
  importFailed,
  importOf,
  keepClip,
  keepForTalk,
  slidePicture,
  stepSeen,
  shapeOf,
  slidesOf,
  startReading,
  takeOfFilm,
  waitsForDeck,
} from '@server/domain'
import type { FilmSlideShown, FilmStill } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { here, removeTree, stage, uploadFolder } from '@server/store'
import type { Claim } from '../claims'

/** Width at which slides are drawn to be compared, in pixels. */
const COMPARED = 960
/** Images of what is shown that is none of the slides; less is part of a change. */
const LEAST_OTHER = 15
/** How far into its showing a picture of a slide is taken, in ms: what comes over in a while is there then. */
const SETTLED = 300

const MOVES =
  'No slides can be told in this film: what is seen in it moves all the time. Drop it into the run sheet of a talk, and it plays there ' +
  'as it is.'

/** A step of the deck that a film may show, or a picture of the film itself. */
type Reference =
  | { readonly kind: 'deck'; readonly slide: SlideId; readonly step: number; readonly image: Uint8Array }
  | { readonly kind: 'still'; readonly at: number; readonly image: Uint8Array }

/** What the steps of a deck look like in a film of some shape. */
async function referencesOf(slides: readonly Slide[], shape: Size, film: Size): Promise<readonly Reference[]> {
  const found: Reference[] = []
  for (const slide of slides)
    for (const step of slide.steps.keys()) {
      const seen = await slidePicture(stepSeen(slide, shape, step), shape, COMPARED)
      found.push({ kind: 'deck', slide: slide.id, step, image: await slideAnalysisImage(seen, film) })
    }
  return found
}

/** Pictures of the film where it shows none of the slides, each once. @throws Refusal when nothing stands still in all of it */
function stillReferences(images: readonly Uint8Array[], showings: readonly FilmShowing[], hasDeck: boolean): readonly Reference[] {
  const found: Reference[] = []
  for (const { from, until, shows } of showings) {
    const [first, end] = [Math.round(from / timeOfImage(1)), Math.round(until / timeOfImage(1))]
    if (shows !== null || end - first < LEAST_OTHER) continue
    const stills = stillsIn(images, first, end)
    // Beside a deck a part that moves is one picture; without one nothing is left.
    if (stills === null && !hasDeck) throw new Refusal('unreadable', MOVES)
    for (const at of stills ?? [Math.min(first + LEAST_OTHER, end - 1)]) {
      const image = images[at]
      if (image !== undefined) found.push({ kind: 'still', at, image })
    }
  }
  return found
}

/** A film as its slides show it. */
interface Found {
  readonly shown: readonly FilmSlideShown[]
  /** When each picture of it that became a slide is there. */
  readonly stills: readonly { readonly number: number; readonly time: number }[]
}

/** Finds which slide a film shows when. */
function findSlides(images: readonly Uint8Array[], deck: readonly Reference[]): Found {
  const first = filmShowings(
    images,
    deck.map(({ image }) => image),
  )
  const references = [...deck, ...stillReferences(images, first, deck.length > 0)]
  const showings = filmShowings(
    images,
    references.map(({ image }) => image),
  ).map(({ from, shows }, n, all) => {
    const known = shows ?? all[n - 1]?.shows ?? all[n + 1]?.shows ?? null
    return { from, reference: known === null ? undefined : references[known] }
  })
  const stills = references
    .flatMap((one) => (one.kind === 'still' ? [one] : []))
    .filter((one) => showings.some(({ reference }) => reference === one))
  const shown = showings.flatMap(({ from, reference }): readonly FilmSlideShown[] => {
    if (reference === undefined) return []
    if (reference.kind === 'deck') return [{ from, slide: { kind: 'deck', id: reference.slide, step: reference.step } }]
    return [{ from, slide: { kind: 'still', number: stills.indexOf(reference) } }]
  })
  return {
    shown: shown.filter((one, n) => !dequal(shown[n - 1]?.slide, one.slide)).map((one, n) => (n === 0 ? { ...one, from: 0 } : one)),
    stills: stills.map(({ at }, number) => ({ number, time: timeOfImage(at) })),
  }
}

/** What a film is read with. */
interface Reading {
  readonly db: Database
  readonly talk: string
  readonly out: string
  readonly signal: AbortSignal
}

/** Pictures of the film that became slides, kept. */
async function keepStills({ db, talk, out, signal }: Reading, file: string, { stills, shown }: Found): Promise<readonly FilmStill[]> {
  const kept: FilmStill[] = []
  for (const { number, time } of stills) {
    const first = shown.find(({ slide }) => slide.kind === 'still' && slide.number === number)?.from ?? time
    const files = { poster: join(out, `still-${String(number)}.jpg`), thumb: join(out, `still-${String(number)}-small.jpg`) }
    await filmStill(file, Math.max(time, first + SETTLED), files, signal)
    const [poster, thumb] = [await keepForTalk(db, talk, files.poster, JPEG), await keepForTalk(db, talk, files.thumb, JPEG)]
    kept.push({ title: `In the film at ${clockText(first)}`, poster, thumb })
  }
  return kept
}

/** The film's voice, as if it had been recorded here; null: it has none. */
async function voiceOf({ out }: Reading, film: string, { sound, length }: Pick<ClipMedia, 'sound' | 'length'>): Promise<string | null> {
  if (!sound) return null
  const voice = join(out, 'voice.webm')
  await bringRecorded(film, voice, { camera: false, trim: { start: 0, end: 0 }, atLeast: length, time: settings().clipTime })
  return voice
}

/** Reads a finished film into its talk. */
export async function readFilmTask(id: string, claim: Claim): Promise<void> {
  const db = database()
  const row = await importOf(db, id)
  if (row === null || row.state === 'done' || row.state === 'failed') return
  const { talk } = row
  if (await waitsForDeck(db, { id, talk })) return
  const out = join(uploadFolder(), `film-${id}-${String(claim.number)}`)
  const reading: Reading = { db, talk, out, signal: AbortSignal.timeout(settings().clipTime * 2) }
  await startReading(db, id)
  await mkdir(out, { recursive: true })
  try {
    const film = await here(broughtFilm(id))
    const made = await bringClip(film, { out, name: 'film', time: settings().clipTime })
    if (made.picture === null) throw new Refusal('unreadable', 'There is nothing to be seen in this file. Bring a film of the talk.')
    const images = await analysisImages(join(out, made.file), reading.signal)
    const shape = await shapeOf(db, talk)
    const deck = await referencesOf(await slidesOf(db, talk), shape, made.picture.size)
    const found = findSlides(images, deck)
    const stills = await keepStills(reading, join(out, made.file), found)
    const voice = await voiceOf(reading, film, made)
    const staged = voice === null ? null : await stage(voice)
    const kept = await keepClip(db, talk, out, row.name, made)
    log.info({ talk, images: images.length, slides: deck.length, shown: found.shown.length, stills: stills.length }, 'a film was read')
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      await takeOfFilm(q, { id, talk }, { kept, shown: found.shown, stills, voice: staged })
      await importDone(q, { id, talk }, [], [])
    })
    await removeTree(film)
  } catch (error) {
    // A fault of ours is tried again.
    if (!(error instanceof Refusal)) throw error
    await importFailed(db, id, `${error.message} The talk is as it was.`)
    await removeTree(broughtFilm(id))
  } finally {
    await removeTree(out)
  }
}

/** Says so when it failed for a reason of ours. */
export const readFilmGivenUp = (id: string): Promise<void> =>
  importFailed(database(), id, 'Reading this film failed on our side. Bring it again, and tell whoever runs this server if it fails again.')
