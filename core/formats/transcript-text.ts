import { wordsOf } from '@core/markup'
import type { Ms } from '@core/model'
import { escapeMarkup } from './escape-markup'

/** A picture that stands in a document. */
export interface TranscriptPicture {
  /** A JPEG, in base 64. */
  readonly jpeg: string
  /** Height to width. */
  readonly ratio: number
}

/** What is said on a slide. */
export interface TranscriptPart {
  readonly heading: string
  readonly from: Ms
  /** Of the slide; null: none is wanted. */
  readonly picture: TranscriptPicture | null
  readonly paragraphs: readonly string[]
  /** What was written for viewers, as Markdown; may be empty. */
  readonly viewerNotes: string
}

/** What is said in a talk, by its slides. */
export interface TranscriptTalk {
  /** null: it is the only one, and has its name above. */
  readonly name: string | null
  readonly parts: readonly TranscriptPart[]
}

/** What is said in a talk or in several, to be read. */
export interface Transcript {
  readonly title: string
  /** May be empty. */
  readonly presenter: string
  /** As it is written. */
  readonly date: string
  /** BCP 47 tag. */
  readonly language: string
  readonly talks: readonly TranscriptTalk[]
}

/** A time as m:ss, or h:mm:ss past an hour. */
export function clockText(at: Ms): string {
  const seconds = Math.floor(at / 1000)
  const two = (value: number): string => String(value).padStart(2, '0')
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60]
  return hours > 0 ? `${String(hours)}:${two(minutes)}:${two(seconds % 60)}` : `${String(minutes)}:${two(seconds % 60)}`
}

const headLine = ({ presenter, date }: Transcript): string => [presenter, date].filter((part) => part !== '').join(', ')

const headingOf = ({ heading, from }: TranscriptPart): string => `${heading} (${clockText(from)})`

export const transcriptAsText = (transcript: Transcript): string =>
  [
    `${transcript.title}\n${headLine(transcript)}`,
    ...transcript.talks.flatMap(({ name, parts }) => [
      ...(name === null ? [] : [name.toUpperCase()]),
      ...parts.map((part) => [headingOf(part), ...part.paragraphs, ...viewerLines(part)].join('\n\n')),
    ]),
  ].join('\n\n\n') + '\n'

/** Viewer notes without their marks, line by line. */
export const viewerLines = ({ viewerNotes }: Pick<TranscriptPart, 'viewerNotes'>): readonly string[] =>
  wordsOf(viewerNotes)
    .split('\n')
    .filter((line) => line.trim() !== '')

/** Signs that mean something in Markdown (CommonMark, 2.4), where they do. */
const plainMarkdown = (text: string): string => text.replaceAll(/[\\`*_[\]<>#|~]/g, (sign) => `\\${sign}`)

export const transcriptAsMarkdown = (transcript: Transcript): string =>
  [
    `# ${plainMarkdown(transcript.title)}`,
    headLine(transcript),
    ...transcript.talks.flatMap(({ name, parts }) => [
      ...(name === null ? [] : [`## ${plainMarkdown(name)}`]),
      ...parts.flatMap((part) => [
        `${name === null ? '##' : '###'} ${plainMarkdown(headingOf(part))}`,
        ...part.paragraphs.map(plainMarkdown),
        // Viewer notes are Markdown already.
        ...(part.viewerNotes.trim() === '' ? [] : [part.viewerNotes.trim().replaceAll(/^/gm, '> ')]),
      ]),
    ]),
  ].join('\n\n') + '\n'

/** A page by itself, with nothing that it would have to fetch. */
export const transcriptAsHtml = (transcript: Transcript): string =>
  `<!doctype html>
<html lang="${escapeMarkup(transcript.language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapeMarkup(transcript.title)}</title>
<style>
body { max-width: 42rem; margin: 2rem auto; padding: 0 1rem; font: 1.1rem/1.6 sans-serif }
aside { white-space: pre-line; color: #555 }
img { max-width: 100%; border: 1px solid #ccc }
</style>
</head>
<body>
<h1>${escapeMarkup(transcript.title)}</h1>
<p>${escapeMarkup(headLine(transcript))}</p>
${transcript.talks.map(htmlOfTalk).join('\n')}
</body>
</html>
`

function htmlOfTalk({ name, parts }: TranscriptTalk): string {
  const tag = name === null ? 'h2' : 'h3'
  return [
    ...(name === null ? [] : [`<h2>${escapeMarkup(name)}</h2>`]),
    ...parts.flatMap((part) => [
      `<${tag}>${escapeMarkup(part.heading)} <small>${clockText(part.from)}</small></${tag}>`,
      ...(part.picture === null ? [] : [`<img src="data:image/jpeg;base64,${part.picture.jpeg}" alt="${escapeMarkup(part.heading)}">`]),
      ...part.paragraphs.map((paragraph) => `<p>${escapeMarkup(paragraph)}</p>`),
      ...(part.viewerNotes.trim() === '' ? [] : [`<aside>${viewerLines(part).map(escapeMarkup).join('\n')}</aside>`]),
    ]),
  ].join('\n')
}
