import type { Deck, Slide } from '@core/model'

/** What parts the notes of slides, the first that is there: a ruled line, two empty lines, one. */
const BORDERS = [/^-{3,}[ \t]*$/m, /\n[ \t]*\n[ \t]*\n+/, /\n[ \t]*\n/] as const

/**
 * Reads a text file of notes, one block a slide. Blocks are parted by lines of three or more dashes where there are any,
 * else by two empty lines where there are any, else by one.
 * @returns the notes of each slide in order
 */
export function readNotesFile(text: string): readonly string[] {
  const unix = text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .trim()
  if (unix === '') return []
  const border = BORDERS.find((one) => one.test(unix)) ?? /$/
  const blocks = unix.split(border).map((block) => block.trim())
  // A border at the very beginning parts nothing.
  return blocks[0] === '' && blocks.length > 1 ? blocks.slice(1) : blocks
}

/** Which of a talk's two texts is meant: the presenter's own, or the one for those who watch. */
export type NotesKind = 'notes' | 'viewerNotes'

/**
 * A deck's notes as CommonMark, a heading a slide.
 * @param kind only these are in it; the other kind never is
 */
export function notesAsMarkdown(name: string, deck: Deck, kind: NotesKind): string {
  const part = (slide: Slide, n: number): string =>
    `## ${String(n + 1)}. ${(slide.title || 'Untitled').replace(/\s+/g, ' ')}` +
    `\n\n${slide[kind].trim() === '' ? '*Nothing written.*' : slide[kind].trim()}\n`
  return `# ${name}\n\n${deck.slides.map(part).join('\n')}`
}
