import { withoutEnding } from '@core/plan'
import { subRip, transcriptAsHtml, transcriptAsMarkdown, transcriptAsText, webVtt } from '@core/formats'
import type { Transcript, TranscriptPart, TranscriptTalk } from '@core/formats'
import { Refusal } from '@core/model'
import { indexFilm, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { captionsOf, transcriptOf } from '@core/words'
import type { FilmWord } from '@core/words'
import { transcriptDocument } from '@render/transcript'
import type { CaptionKind, TranscriptKind } from '@contracts'
import type { Queries } from '@server/database'
import { filmOfRecipe } from './film-of-recipe'
import { filmOf } from './films'
import { ownSeries } from './series'
import { slidePicture, stepSeen } from './slide-picture'
import { firstName } from './talks'
import { languageOfTalk, wordsOfFilm } from './words'

const UNKNOWN = 'What is said in this talk is not known yet. Have it listened to in Review.'
const UNKNOWN_THERE = 'What is said in this talk is not known yet'

/** A talk with what is said in it. */
interface SpokenTalk {
  readonly name: string
  readonly language: string
  readonly presenter: string
  readonly index: FilmIndex
  readonly words: readonly FilmWord[]
}

/** @throws Refusal `conflict` when nothing is said in it, or nobody has listened yet */
async function spokenTalk(q: Queries, talk: string): Promise<SpokenTalk> {
  const [row, film] = await Promise.all([
    q
      .selectFrom('talk')
      .leftJoin('share', 'share.talk', 'talk.id')
      .select(['talk.name', 'talk.language', 'share.presenter'])
      .where('talk.id', '=', talk)
      .executeTakeFirstOrThrow(),
    filmOf(q, talk),
  ])
  const index = indexFilm(film)
  const words = await wordsOfFilm(q, index)
  if (words.length === 0) throw new Refusal('conflict', UNKNOWN)
  return { ...row, presenter: row.presenter ?? '', index, words }
}

/** A file that is made of what is said. */
interface WordsFile<Content> {
  readonly content: Content
  readonly type: string
  readonly file: string
}

function captionsAs(kind: CaptionKind, words: readonly FilmWord[], language: string, name: string): WordsFile<string> {
  if (words.length === 0) throw new Refusal('conflict', UNKNOWN)
  const captions = captionsOf(words, language)
  return kind === 'vtt'
    ? { content: webVtt(captions), type: 'text/vtt; charset=utf-8', file: `${name}.vtt` }
    : { content: subRip(captions), type: 'application/x-subrip; charset=utf-8', file: `${name}.srt` }
}

/** Captions of a talk as a file. @throws Refusal `conflict` as of `spokenTalk` */
export async function captionsFile(q: Queries, talk: string, kind: CaptionKind): Promise<WordsFile<string>> {
  const { name, language, words } = await spokenTalk(q, talk)
  return captionsAs(kind, words, language, firstName(name))
}

/** Captions of a file that was made, in its own time. @throws Refusal `conflict` as of `spokenTalk` */
export async function captionsOfDelivery(q: Queries, delivery: string, kind: CaptionKind): Promise<WordsFile<string>> {
  const { talk, recipe, programme_revision, file } = await q
    .selectFrom('delivery')
    .select(['talk', 'recipe', 'programme_revision', 'file'])
    .where('id', '=', delivery)
    .executeTakeFirstOrThrow()
  const index = await filmOfRecipe(q, talk, recipe, programme_revision ?? undefined)
  const [words, language] = await Promise.all([wordsOfFilm(q, index), languageOfTalk(q, talk)])
  return captionsAs(kind, words, language, withoutEnding(file))
}

/** What a transcript is wanted as. */
export interface TranscriptWish {
  readonly kind: TranscriptKind
  /** Whether fillers are left out. */
  readonly tidied: boolean
  /** Whether slides stand in it, where the kind has a place for pictures. */
  readonly pictures: boolean
}

/** Width of a slide's picture in a transcript, in pixels. */
const PICTURE_WIDTH = 960

/** What is said in a talk, by its slides. */
async function partsOf({ index, words }: SpokenTalk, { kind, tidied, pictures }: TranscriptWish): Promise<readonly TranscriptPart[]> {
  const wanted = pictures && (kind === 'docx' || kind === 'html')
  const { shape } = index.film
  const parts: TranscriptPart[] = []
  for (const [n, { slide: id, from, paragraphs }] of transcriptOf(words, tidied).entries()) {
    const slide = slideOf(index.film, id)
    const picture = wanted
      ? { jpeg: (await slidePicture(stepSeen(slide, shape), shape, PICTURE_WIDTH)).toString('base64'), ratio: shape.height / shape.width }
      : null
    const heading = slide.title.trim() === '' ? `Slide ${String(n + 1)}` : slide.title
    parts.push({ heading, from, picture, paragraphs, viewerNotes: slide.viewerNotes })
  }
  return parts
}

const today = (language: string): string => new Intl.DateTimeFormat(language, { dateStyle: 'long' }).format(new Date())

async function transcriptAs(kind: TranscriptKind, made: Transcript): Promise<WordsFile<string | Buffer>> {
  const file = `${firstName(made.title)}-transcript.${kind}`
  switch (kind) {
    case 'docx':
      return {
        content: await transcriptDocument(made),
        type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
        file,
      }
    case 'html':
      return { content: transcriptAsHtml(made), type: 'text/html; charset=utf-8', file }
    case 'md':
      return { content: transcriptAsMarkdown(made), type: 'text/markdown; charset=utf-8', file }
    case 'txt':
      return { content: transcriptAsText(made), type: 'text/plain; charset=utf-8', file }
  }
}

/** What is said in a talk, to be read. @throws Refusal `conflict` as of `spokenTalk` */
export async function transcriptFile(q: Queries, talk: string, wish: TranscriptWish): Promise<WordsFile<string | Buffer>> {
  const spoken = await spokenTalk(q, talk)
  const { name, presenter, language } = spoken
  const talks = [{ name: null, parts: await partsOf(spoken, wish) }]
  return await transcriptAs(wish.kind, { title: name, presenter, language, date: today(language), talks })
}

/**
 * What is said in the talks of a series, one after the other; those of which it is not known are named without it.
 * @throws Refusal `not-found` when it is not the owner's, `conflict` when nothing is known of any of its talks
 */
export async function seriesTranscript(
  q: Queries,
  owner: string,
  series: string,
  wish: TranscriptWish,
): Promise<WordsFile<string | Buffer>> {
  const { name, talks } = await ownSeries(q, owner, series)
  const told: TranscriptTalk[] = []
  let first: SpokenTalk | null = null
  for (const talk of talks) {
    const spoken = await spokenTalk(q, talk.id).catch(nullIfConflict)
    first ??= spoken
    const missing = { heading: UNKNOWN_THERE, from: 0, picture: null, paragraphs: [], viewerNotes: '' }
    told.push({ name: talk.name, parts: spoken === null ? [missing] : await partsOf(spoken, wish) })
  }
  if (first === null) throw new Refusal('conflict', 'What is said in these talks is not known yet. Have them listened to in Review.')
  const { presenter, language } = first
  return await transcriptAs(wish.kind, { title: name, presenter, language, date: today(language), talks: told })
}

/** What is not there yet is left out. */
export function nullIfConflict(error: unknown): null {
  if (error instanceof Refusal && error.code === 'conflict') return null
  throw error
}
