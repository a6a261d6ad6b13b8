import { withoutEnding } from '@core/plan'
import { subRip, transcriptAsHtml, transcriptAsMarkdown, transcriptAsText, webVtt } from '@core/formats'
import type { Transcript } from '@core/formats'
import { Refusal } from '@core/model'
import { indexFilm, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { captionsOf, transcriptOf } from '@core/words'
import type { FilmWord } from '@core/words'
import { transcriptDocument } from '@render/transcript'
import type { CaptionKind, TranscriptKind } from '@contracts'
import type { Queries } from '@server/database'
import { filmOfRecipe } from './deliveries'
import { filmOf } from './films'
import { firstName } from './talks'
import { languageOfTalk, wordsOfFilm } from './words'

const UNKNOWN = 'What is said in this talk is not known yet. Have it listened to in Review.'

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
  const film = await filmOfRecipe(q, talk, recipe, programme_revision ?? undefined)
  const [words, language] = await Promise.all([wordsOfFilm(q, indexFilm(film)), languageOfTalk(q, talk)])
  return captionsAs(kind, words, language, withoutEnding(file))
}

function transcript({ name, language, presenter, index, words }: SpokenTalk, tidied: boolean): Transcript {
  const parts = transcriptOf(words, tidied).map(({ slide, from, paragraphs }, n) => {
    const { title, viewerNotes } = slideOf(index.film, slide)
    return { heading: title.trim() === '' ? `Slide ${String(n + 1)}` : title, from, paragraphs, viewerNotes }
  })
  const date = new Intl.DateTimeFormat(language, { dateStyle: 'long' }).format(new Date())
  return { title: name, presenter, date, language, parts }
}

/** What a transcript is wanted as, and whether fillers are left out. */
interface TranscriptWish {
  readonly kind: TranscriptKind
  readonly tidied: boolean
}

/** What is said in a talk, to be read. @throws Refusal `conflict` as of `spokenTalk` */
export async function transcriptFile(q: Queries, talk: string, { kind, tidied }: TranscriptWish): Promise<WordsFile<string | Buffer>> {
  const spoken = await spokenTalk(q, talk)
  const made = transcript(spoken, tidied)
  const file = `${firstName(spoken.name)}-transcript.${kind}`
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
