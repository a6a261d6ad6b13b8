import MarkdownIt from 'markdown-it'

/** Sees HTML as such, so that it can be taken out; what is set on slides never does. */
const looker = new MarkdownIt({ html: true })

/** A tag of HTML (CommonMark 0.31, 6.6), and a comment. */
const TAG = /^<(?:\/[a-z][a-z0-9-]*\s*|[a-z][a-z0-9-]*(?:\s+[^<>]*)?\/?)>/i
const COMMENT = /^<!--[\s\S]*?-->/
/** An address or mail address in angle brackets is text: it is what is shown of the link. */
const AUTOLINK = /^<(?:[a-z][a-z0-9+.-]{1,31}:[^\s<>]*|[^\s<>@]+@[^\s<>@]+)>/i
const BACKTICKS = /^`+/

/** Lines that belong to code, by the blocks that they lie in, however deep in lists. */
function codeLines(text: string): ReadonlySet<number> {
  const lines = new Set<number>()
  for (const token of looker.parse(text, {})) {
    if ((token.type !== 'fence' && token.type !== 'code_block') || token.map === null) continue
    for (let line = token.map[0]; line < token.map[1]; line += 1) lines.add(line)
  }
  return lines
}

/** How far a span of code reaches that begins with these backticks; 0 when it is none. */
function codeSpan(text: string, ticks: string): number {
  for (let at = ticks.length; at < text.length;) {
    const found = text.indexOf(ticks, at)
    // A paragraph's end ends what could have been one.
    if (found < 0 || text.slice(at, found).includes('\n\n')) return 0
    const run = BACKTICKS.exec(text.slice(found))?.[0] ?? ticks
    if (run.length === ticks.length) return found + run.length
    at = found + run.length
  }
  return 0
}

/** How many signs of a text are of one kind from its beginning on: kept as they are, or taken out. */
function nextPart(text: string): { readonly length: number; readonly kept: boolean } {
  if (text.startsWith('\\')) return { length: Math.min(2, text.length), kept: true }
  const ticks = BACKTICKS.exec(text)?.[0]
  if (ticks !== undefined) return { length: codeSpan(text, ticks) || ticks.length, kept: true }
  if (!text.startsWith('<')) return { length: 1, kept: true }
  const link = AUTOLINK.exec(text)?.[0]
  if (link !== undefined) return { length: link.length, kept: true }
  const gone = COMMENT.exec(text)?.[0] ?? TAG.exec(text)?.[0]
  return gone === undefined ? { length: 1, kept: true } : { length: gone.length, kept: false }
}

/** Takes tags and comments out of text that is no code. */
function withoutTags(text: string): string {
  let out = ''
  for (let at = 0; at < text.length;) {
    const { length, kept } = nextPart(text.slice(at, at + LONGEST))
    if (kept) out += text.slice(at, at + length)
    at += length
  }
  return out
}

/** Longest tag, comment or span of code that is seen as one. */
const LONGEST = 20_000

/**
 * A Markdown text without its HTML tags and comments. What stands in code, blocks of it in lists among them, and addresses in angle
 * brackets are text and stay.
 */
export function withoutHtml(text: string): string {
  const code = codeLines(text)
  const parts: { readonly code: boolean; readonly lines: string[] }[] = []
  for (const [n, line] of text.split('\n').entries()) {
    const last = parts.at(-1)
    if (last?.code === code.has(n)) last.lines.push(line)
    else parts.push({ code: code.has(n), lines: [line] })
  }
  return parts.map((part) => (part.code ? part.lines.join('\n') : withoutTags(part.lines.join('\n')))).join('\n')
}
