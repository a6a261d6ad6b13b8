import { USUAL_SPEECH, partsBesideVoice, slideShow, voiceParts } from '@core/plan'
import { gainsOf, heardLoudness, picturesOver, visitsOf } from '@core/programme'
import {
  assetsForViewers,
  descriptionOf,
  faceMediaParts,
  faceParts,
  filmForViewers,
  soundParts,
  textOn,
  windowsCutInto,
} from '@core/screening'
import { cardOver, indexFilm, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { Refusal } from '@core/model'
import type { Film, Ms, Programme, Size } from '@core/model'
import { filmOnItsWay } from '@contracts'
import type { ScreenedSlide, ScreenedVisit } from '@contracts'
import { SCREENING_LOUDNESS, faceSize } from '@render/screening'
import type { Queries } from '@server/database'
import { cameraOf, nameOfMedia } from '@server/media'
import type { ScreeningMedia } from '@server/media'
import type { Audience } from './access'
import { slidesOf } from './decks'
import { filmOf } from './films'
import { Remembered } from './remembered'
import { passFor } from './screening-pass'
import { versionNow } from './screened-version'
import type { ScreeningVersion } from './screening-pass'
import { rateOfOwner } from './speech'

/** Most that a voice is raised to be as loud as others, in dB. */
const MOST_GAIN = 30

/** Something that players are sent, and its name: that is a hash of much, and reckoned once. */
export interface NamedMedia {
  readonly name: string
  readonly media: ScreeningMedia
}

const named = (media: ScreeningMedia): NamedMedia => ({ name: nameOfMedia(media), media })

/** A version of a talk as it is shown to those who watch: all they may be sent of it, and nothing else. */
export interface Screening {
  readonly film: Film
  /** The film that it was made of, with all that was cut: for our own use. */
  readonly whole: FilmIndex
  /** What is played of it as text, to be sent. */
  readonly text: string
  readonly length: Ms
  readonly visits: readonly ScreenedVisit[]
  readonly slides: readonly ScreenedSlide[]
  readonly voice: boolean
  /** Whether windows are shown of which a part was cut. */
  readonly windowsCut: boolean
  readonly sound: readonly NamedMedia[]
  readonly face: readonly NamedMedia[]
  readonly faceSize: Size | null
  /** What may be asked for, by its name, with what is asked for next by who plays it. */
  readonly media: ReadonlyMap<string, { readonly media: ScreeningMedia; readonly next: ScreeningMedia | null }>
  readonly assets: ReadonlySet<string>
}

async function wholeFilm(q: Queries, { talk, timing, revision }: ScreeningVersion): Promise<Film> {
  if (timing === 'recorded') return await filmOf(q, talk, revision)
  const [found, slides, rate] = await Promise.all([
    q.selectFrom('talk').select(['shape', 'revision']).where('id', '=', talk).executeTakeFirstOrThrow(),
    slidesOf(q, talk),
    rateOfOwner(q, talk),
  ])
  if (found.revision !== revision) throw new Refusal('not-found', 'This talk was changed meanwhile. Load its page again.')
  return slideShow(found.shape, slides, { wordsPerMinute: rate })
}

/** Slides in the order in which they are shown first. */
function wordsOf(film: Film): readonly ScreenedSlide[] {
  const shown = [...new Set(film.programme.pieces.map((piece) => piece.slide))]
  return shown.map((id, n) => {
    const slide = slideOf(film, id)
    const { title, viewerNotes } = slide
    const last = slide.steps.at(-1)
    if (last === undefined) throw new Error(`slide ${id} has no step`)
    return { id, number: n + 1, title, text: textOn(slide), viewerNotes, description: descriptionOf(slide), picture: last.picture }
  })
}

async function makeScreening(q: Queries, version: ScreeningVersion): Promise<Screening> {
  const whole = await wholeFilm(q, version)
  const index = indexFilm(whole)
  const film = filmForViewers(index)
  const slides = wordsOf(film)
  const bySlide = new Map(slides.map((slide) => [slide.id, slide]))
  const visits = visitsOf(film.programme).map(({ id, slide, start, length }) => ({
    id,
    slide,
    number: bySlide.get(slide)?.number ?? 0,
    title: cardOver(index.overlays, { start, length }) ?? bySlide.get(slide)?.title ?? '',
    start,
    length,
  }))
  const loudness = heardLoudness(whole.programme, whole.stretches)
  // Clips alone are as loud as speech usually is.
  const gain = Math.min(MOST_GAIN, Math.round((SCREENING_LOUDNESS - (loudness ?? USUAL_SPEECH)) * 10) / 10)
  const heard = voiceParts(whole.programme, gainsOf(whole.programme, whole.stretches))
  const clips = partsBesideVoice(index)
  const sound = soundParts({ voice: heard, clips }, index.length).map((part) => named({ kind: 'sound', part, treatment: { gain } }))
  const faces = faceParts(index)
  const [first] = faces
  const size = first === undefined ? null : faceSize((await cameraOf(first.stretch)).size)
  const face = size === null ? [] : faceMediaParts(faces, index.length).map((part) => named({ kind: 'face', part, size }))
  const headers = [named({ kind: 'sound-header' }), ...(size === null ? [] : [named({ kind: 'face-header', size })])]
  return {
    film,
    whole: index,
    // What was written for viewers goes with the page, where that is allowed, and so does what slides show.
    text: JSON.stringify(
      filmOnItsWay({ ...film, slides: new Map([...film.slides].map(([id, one]) => [id, { ...one, viewerNotes: '', description: '' }])) }),
    ),
    length: index.length,
    visits,
    slides,
    windowsCut: windowsCutInto(whole).size > 0,
    voice: heard.length > 0 || clips.length > 0,
    sound,
    face,
    faceSize: size,
    media: new Map([
      ...headers.map(({ name, media }) => [name, { media, next: null }] as const),
      ...[sound, face].flatMap((track) => track.map(({ name, media }, n) => [name, { media, next: track[n + 1]?.media ?? null }] as const)),
    ]),
    assets: new Set([...assetsForViewers(film.slides.values()), ...picturesOver(film.programme)]),
  }
}

/** Versions that are remembered: those asked for last. */
const MOST_KNOWN = 32
const known = new Remembered<Screening>(MOST_KNOWN)
export const keyOfVersion = ({ talk, timing, revision }: ScreeningVersion): string => `${talk} ${timing} ${String(revision)}`

/** A version of a talk for those who watch. @throws Refusal `not-found` when it is not there any more, `conflict` when it shows nothing */
export const screeningOf = (q: Queries, version: ScreeningVersion): Promise<Screening> =>
  known.of(keyOfVersion(version), () => makeScreening(q, version))

/** Path under which the media of a version can be had by an audience. */
export const mediaPath = (version: ScreeningVersion, audience: Audience): string => `/v/${passFor(version, audience, Date.now())}`

/** What is shown of a talk now, one visit after the other. */
export const visitsNow = async (q: Queries, talk: string): Promise<readonly ScreenedVisit[]> =>
  (await screeningOf(q, await versionNow(q, talk))).visits

/** The programme of a talk as it is shown now. */
export const programmeShown = async (q: Queries, talk: string): Promise<Programme> =>
  (await screeningOf(q, await versionNow(q, talk))).whole.film.programme

/** A finished file that may be taken along; null when there is none, or it is gone. */
export async function filmToTake(
  q: Queries,
  delivery: string | null,
): Promise<{ readonly id: string; readonly file: string; readonly bytes: number } | null> {
  if (delivery === null) return null
  const row = await q
    .selectFrom('delivery')
    .select(['id', 'file', 'facts'])
    .where('id', '=', delivery)
    .where('state', '=', 'done')
    .executeTakeFirst()
  return row?.facts == null ? null : { id: row.id, file: row.file, bytes: row.facts.bytes }
}
