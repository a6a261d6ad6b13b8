import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { FULL_CONTENT } from '@core/layout'
import { Refusal, asId, newSlide } from '@core/model'
import type { AssetId, Clip, ClipId, Cue, Ms, Size, Slide, SlideId } from '@core/model'
import type { Queries } from '@server/database'
import { uploadFolder } from '@server/store'
import type { StagedFile } from '@server/store'
import { wholeClip } from './clips'
import type { KeptClip } from './clips'
import { lockDeck, putDeck, slidesOf } from './decks'
import { tell } from './events'
import { addImport } from './imports'
import { addJob } from './jobs'
import type { StagedUpload } from './kept-for-talk'
import { roomForImport, roomForTake, roomInQuota } from './quotas'
import { takeOfImport } from './recorded-decks'

/** How long a film waits for its deck to be read, before it looks again, in ms. */
const WAIT = 1500

const jobOf = (id: string): string => `read-film:${id}`

/** Where a film lies until it is read. */
export const broughtFilm = (id: string): string => join(uploadFolder(), `film-${id}`)

/**
 * Takes in a finished film of a talk: it is read by a job, and becomes a take of the talk's slides. In one transaction.
 * @throws Refusal `malformed` when it is not one file, `unreadable` when it is empty
 */
export async function beginFilm(q: Queries, talk: string, files: readonly StagedUpload[]): Promise<string> {
  const [file] = files
  if (file === undefined || files.length > 1) throw new Refusal('malformed', 'Bring one film at a time.')
  if (file.bytes === 0) throw new Refusal('unreadable', `“${file.name}” is empty. Nothing was changed.`)
  await roomForImport(q, talk)
  await roomForTake(q, talk)
  await roomInQuota(q, talk, file.bytes)
  const id = await addImport(q, talk, file.name)
  await file.staged.putUnder(broughtFilm(id))
  await addJob(q, 'read-film', { id }, jobOf(id))
  await tell(q, { talk, kind: 'import', id })
  return id
}

/** Whether the deck of a film's talk is still being read. Then it is looked at again later. */
export async function waitsForDeck(q: Queries, { id, talk }: { readonly id: string; readonly talk: string }): Promise<boolean> {
  const reading = await q
    .selectFrom('import')
    .select('id')
    .where('talk', '=', talk)
    .where('id', '<>', id)
    .where('state', 'in', ['queued', 'reading'])
    .executeTakeFirst()
  if (reading === undefined) return false
  await addJob(q, 'read-film', { id }, jobOf(id), { starts: new Date(Date.now() + WAIT), place: 0 })
  return true
}

/** Of a talk's slides. */
export const shapeOf = async (q: Queries, talk: string): Promise<Size> =>
  (await q.selectFrom('talk').select('shape').where('id', '=', talk).executeTakeFirstOrThrow()).shape

/** A slide that a film shows from a time on: one of the deck, or one that was found in it. */
export interface FilmSlideShown {
  readonly from: Ms
  /** Of the deck, with its step; or the number of a picture of the film. */
  readonly slide:
    { readonly kind: 'deck'; readonly id: SlideId; readonly step: number } | { readonly kind: 'still'; readonly number: number }
}

/** A picture of a film that stands for a slide. */
export interface FilmStill {
  readonly title: string
  readonly poster: AssetId
  readonly thumb: AssetId
}

/** What was found in a film. */
export interface FoundFilmTake {
  readonly kept: KeptClip
  /** The first begins with the film. */
  readonly shown: readonly FilmSlideShown[]
  readonly stills: readonly FilmStill[]
  /** Its voice, as a recording; null: it has none. */
  readonly voice: StagedFile | null
}

const stillSlide = ({ title, poster, thumb }: FilmStill, size: Size): Slide =>
  newSlide(asId(randomUUID()), {
    title,
    steps: [
      { picture: { kind: 'image', source: poster, size, ground: '#000000', screen: poster, thumb }, content: FULL_CONTENT, text: '' },
    ],
  })

/** The film on a slide: it is seen there only where this take plays it, and what is heard of it is the take's voice. */
const filmOn = (kept: KeptClip): Clip =>
  wholeClip(
    { ...kept, media: { ...kept.media, sound: false, loudness: null } },
    { box: { x: 0, y: 0, w: 1, h: 1 }, step: 0, start: 'click', captured: true },
  )

interface Shown {
  readonly at: Ms
  readonly slide: SlideId
  readonly step: number
  readonly clip: ClipId
}

/** What happens in the take: slides and steps as the film shows them, and the film itself over each. */
const cuesOf = (shown: readonly Shown[]): readonly Cue[] =>
  shown
    .slice(1)
    .flatMap(({ at, slide, step, clip }, n): readonly Cue[] => [
      { kind: 'show', at, slide, step },
      ...(shown[n]?.slide === slide ? [] : [{ kind: 'clip', at, clip, place: at, playing: true } as const]),
    ])

/** Puts the slides that a film shows into its talk, with the film on each. @returns each by what showed it */
async function putFilmSlides(q: Queries, talk: string, { kept, shown, stills }: FoundFilmTake): Promise<readonly Shown[]> {
  const { revision, shape } = await lockDeck(q, talk)
  const before = await slidesOf(q, talk)
  const { picture } = kept.media
  if (picture === null) throw new Error('there is nothing to be seen of it')
  const added = stills.map((still) => stillSlide(still, picture.size))
  const clips = new Map<SlideId, Clip>()
  const placed = shown.map(({ from, slide: one }) => {
    const slide = one.kind === 'deck' ? one.id : (added[one.number]?.id ?? asId<'slide'>(''))
    if (!clips.has(slide)) clips.set(slide, filmOn(kept))
    return { at: Math.round(from), slide, step: one.kind === 'deck' ? one.step : 0 }
  })
  const withFilm = (slide: Slide, version: number): Slide => {
    const clip = clips.get(slide.id)
    return clip === undefined ? slide : { ...slide, version, clips: [...(slide.clips ?? []), clip] }
  }
  const after = [...before.map((slide) => withFilm(slide, slide.version + 1)), ...added.map((slide) => withFilm(slide, 1))]
  await putDeck(q, talk, before, { shape: before.length === 0 ? picture.size : shape, slides: after }, revision + 1)
  return placed.map((one) => ({ ...one, clip: clips.get(one.slide)?.id ?? asId('') }))
}

/**
 * Makes a take of a film: its slides as it shows them, its voice, and its picture over them, so that what is said again takes the place
 * of both. It is finished by a job like any other. In one transaction.
 */
export async function takeOfFilm(
  q: Queries,
  { id, talk }: { readonly id: string; readonly talk: string },
  found: FoundFilmTake,
): Promise<void> {
  const shown = await putFilmSlides(q, talk, found)
  const [first] = shown
  if (first === undefined) throw new Error('nothing is shown')
  const { voice, kept } = found
  const played = { clip: first.clip, at: 0, place: 0, playing: true }
  const opening = { slide: first.slide, step: first.step, blank: false, inset: false, ink: [], clips: [played] }
  await takeOfImport(q, { id, talk }, [{ opening, cues: cuesOf(shown), camera: false, length: kept.media.length, voice }])
}
