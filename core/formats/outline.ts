const MARK = /^\s*(?:[-*+•–]|\d+[.)])\s+/
const HEADING = /^#{1,6}\s/m
const BREAK = /^(?:---+|\*\*\*+|___+)\s*$/m

/**
 * A pasted outline as the Markdown of a deck (`readMarkdownDeck`): each line at the margin becomes a slide's heading, and what is indented
 * or marked as a point below it becomes its points. A text that has headings or breaks of its own stays as it is.
 */
export function outlineAsMarkdown(text: string): string {
  const unix = text.replace(/\r\n?/g, '\n')
  if (HEADING.test(unix) || BREAK.test(unix)) return unix
  const lines = unix.split('\n').filter((line) => line.trim() !== '')
  // Where every line is a point, those at the margin are the slides.
  const pointed = lines.some((line) => !MARK.test(line) && !/^\s/.test(line))
  return lines
    .map((line, n) => {
      const words = line.replace(MARK, '').trim()
      const below = /^\s/.test(line) || (pointed && MARK.test(line))
      return below && n > 0 ? `- ${words}` : `\n## ${words}\n`
    })
    .join('\n')
    .trim()
}
