import type { Ms } from '@core/model'

/** What is said on a slide. */
export interface TranscriptPart {
  readonly heading: string
  readonly from: Ms
  readonly paragraphs: readonly string[]
  /** What was written for viewers; may be empty. */
  readonly viewerNotes: string
}

/** What is said in a talk, to be read. */
export interface Transcript {
  readonly title: string
  /** May be empty. */
  readonly presenter: string
  /** As it is written. */
  readonly date: string
  /** BCP 47 tag. */
  readonly language: string
  readonly parts: readonly TranscriptPart[]
}

/** A time as m:ss, or h:mm:ss past an hour. */
export function clockText(at: Ms): string {
  const seconds = Math.floor(at / 1000)
  const two = (value: number): string => String(value).padStart(2, '0')
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60]
  return hours > 0 ? `${String(hours)}:${two(minutes)}:${two(seconds % 60)}` : `${String(minutes)}:${two(seconds % 60)}`
}

const headLine = ({ presenter, date }: Transcript): string => [presenter, date].filter((part) => part !== '').join(', ')

export const transcriptAsText = (transcript: Transcript): string =>
  [
    `${transcript.title}\n${headLine(transcript)}`,
    ...transcript.parts.map(({ heading, from, paragraphs, viewerNotes }) =>
      [`${heading} (${clockText(from)})`, ...paragraphs, ...(viewerNotes.trim() === '' ? [] : [viewerNotes.trim()])].join('\n\n'),
    ),
  ].join('\n\n\n') + '\n'

/** Signs that mean something in Markdown (CommonMark, 2.4), where they do. */
const plainMarkdown = (text: string): string => text.replaceAll(/[\\`*_[\]<>#|~]/g, (sign) => `\\${sign}`)

export const transcriptAsMarkdown = (transcript: Transcript): string =>
  [
    `# ${plainMarkdown(transcript.title)}`,
    headLine(transcript),
    ...transcript.parts.flatMap(({ heading, from, paragraphs, viewerNotes }) => [
      `## ${plainMarkdown(heading)} (${clockText(from)})`,
      ...paragraphs.map(plainMarkdown),
      // Viewer notes are Markdown already.
      ...(viewerNotes.trim() === '' ? [] : [viewerNotes.trim().replaceAll(/^/gm, '> ')]),
    ]),
  ].join('\n\n') + '\n'

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

/** A page by itself, with nothing that it would have to fetch. */
export const transcriptAsHtml = (transcript: Transcript): string =>
  `<!doctype html>
<html lang="${escaped(transcript.language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(transcript.title)}</title>
<style>
body { max-width: 42rem; margin: 2rem auto; padding: 0 1rem; font: 1.1rem/1.6 sans-serif }
aside { white-space: pre-line; color: #555 }
</style>
</head>
<body>
<h1>${escaped(transcript.title)}</h1>
<p>${escaped(headLine(transcript))}</p>
${transcript.parts
  .map(({ heading, from, paragraphs, viewerNotes }) =>
    [
      `<h2>${escaped(heading)} <small>${clockText(from)}</small></h2>`,
      ...paragraphs.map((paragraph) => `<p>${escaped(paragraph)}</p>`),
      ...(viewerNotes.trim() === '' ? [] : [`<aside>${escaped(viewerNotes.trim())}</aside>`]),
    ].join('\n'),
  )
  .join('\n')}
</body>
</html>
`
