import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { editListOf, filmOfTake, startsOf } from '@core/archive'
import type { ArchivedTake, Stems, StemsOfTake, TalkArchive } from '@core/archive'
import { openTimeline } from '@core/formats'
import { USUAL_RECIPE } from '@core/model'
import type { Film, Slide, SlideId, Stretch } from '@core/model'
import { indexFilm, stretchesOf } from '@core/scene'
import { wavOf } from '@render/sound'
import { slidePicture, stepSeen } from '@server/domain'
import { allHere, voicePath } from '@server/store'
import type { ExportWork } from './export-work'
import { silentFilm } from './silent-film'
import type { ZipEntry } from './zip-folder'

/** Lines of what editing begins with: slides sharp, the face as cameras give it. */
const LINES = { slides: 1080, face: 720 } as const
/** A picture that is held may be held as long as one likes, in ms. */
const HELD = 3_600_000
const HELD_WIDTH = 1920

/** Slides of an archive as the talk shows them, and as they are where it does not. */
function slidesIn({ slides, versions, programme }: TalkArchive): ReadonlyMap<SlideId, Slide> {
  const seen = new Map(versions.map((one) => [`${one.slide} ${String(one.version)}`, one]))
  return new Map(
    slides.flatMap(({ position: _, ...slide }): readonly (readonly [SlideId, Slide])[] => {
      const version = programme?.slides[slide.id] ?? slide.version
      const found = seen.get(`${slide.id} ${String(version)}`)
      if (found === undefined) return []
      const { slide: __, proposedInset, clips, drawing, ...shown } = found
      const extra = {
        ...(proposedInset === null ? {} : { proposedInset }),
        ...(clips === null ? {} : { clips }),
        ...(drawing === null ? {} : { drawing }),
      }
      return [[slide.id, { ...slide, ...shown, ...extra }]]
    }),
  )
}

/** What making the files for editing works with. */
interface Making {
  readonly work: ExportWork
  readonly film: Film
  readonly slides: ReadonlyMap<SlideId, Slide>
  readonly entries: ZipEntry[]
}

/** A take's slides or face as a film of its own, without sound. @returns its name in the archive */
async function makeStem(making: Making, take: ArchivedTake, stretches: readonly Stretch[], which: 'slides' | 'face', name: string) {
  const { work, film, slides } = making
  const taken = filmOfTake(take.id, stretches, which, slides, film)
  const { share } = work.watch
  const { path, length } = await silentFilm(work, taken, { lines: LINES[which], name, until: share + (1 - share) / 2 })
  making.entries.push({ name: `edit/${name}.mp4`, path })
  return { file: `${name}.mp4`, length }
}

/** The files of a take, and when its stretches begin in them. */
async function stemsOfTake(making: Making, take: ArchivedTake, number: number, named: ReadonlySet<string>): Promise<StemsOfTake | null> {
  const stretches = take.stretches
    .filter(({ id, windowOf }) => windowOf === null && named.has(id))
    .map((stretch): Stretch => ({ ...stretch, kept: stretch.kept ?? stretch.length }))
  if (stretches.length === 0) return null
  const { starts, length } = startsOf(stretches)
  const name = `take-${String(number)}`
  const slides = await makeStem(making, take, stretches, 'slides', `${name}-slides`)
  const face = stretches.some(({ camera }) => camera) ? await makeStem(making, take, stretches, 'face', `${name}-face`) : null
  const spoken = stretches.some(({ voice }) => voice)
  if (spoken) {
    const out = join(making.work.folder, `${name}-voice.wav`)
    const parts = stretches.map((stretch) => ({ path: stretch.voice ? voicePath(stretch.id) : null, length: stretch.length }))
    await allHere(parts.flatMap(({ path }) => path ?? []))
    await wavOf(parts, out)
    making.entries.push({ name: `edit/${name}-voice.wav`, path: out })
  }
  return { slides, face, voice: spoken ? { file: `${name}-voice.wav`, length } : null, starts }
}

/** Pictures of what is held without a recording, by slide and step. */
async function heldPictures({ film, slides, entries }: Making): Promise<Stems['still']> {
  const files = new Map<string, string>()
  for (const piece of film.programme.pieces) {
    if (piece.kind !== 'still' || piece.of !== undefined) continue
    const key = `${piece.slide} ${String(piece.step)}`
    const slide = slides.get(piece.slide)
    if (slide?.steps[piece.step] === undefined || files.has(key)) continue
    const file = `held-${String(files.size + 1)}.jpg`
    files.set(key, file)
    entries.push({ name: `edit/${file}`, bytes: await slidePicture(stepSeen(slide, film.shape, piece.step), film.shape, HELD_WIDTH) })
  }
  return (slide, step) => {
    const file = files.get(`${slide} ${String(step)}`)
    return file === undefined ? null : { file, length: HELD }
  }
}

/** The talk for tools that edit films: an edit list, and of each take that is in it a film of its slides, one of its face, its voice. */
export async function editingFiles(work: ExportWork, archive: TalkArchive, film: Film): Promise<readonly ZipEntry[]> {
  const making: Making = { work, film, slides: slidesIn(archive), entries: [] }
  const named = new Set<string>(film.programme.pieces.flatMap((piece) => (piece.out === undefined ? stretchesOf(piece) : [])))
  const takes: StemsOfTake[] = []
  for (const [n, take] of archive.takes.entries()) {
    const stems = await stemsOfTake(making, take, n + 1, named)
    if (stems !== null) takes.push(stems)
  }
  const list = editListOf(indexFilm(film), archive.talk.name, USUAL_RECIPE.rate, { takes, still: await heldPictures(making) })
  const out = join(work.folder, 'talk.otio')
  await writeFile(out, openTimeline(list))
  return [{ name: 'edit/talk.otio', path: out }, ...making.entries]
}
