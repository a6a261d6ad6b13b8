import MarkdownIt from 'markdown-it'
import type { Token } from 'markdown-it'
import { inlineRuns, plainText, tokensOf } from '@core/markup'
import { LAYOUTS, REVEALS, Refusal } from '@core/model'
import type { Composition, Layout, Reveal } from '@core/model'

/** A picture that a text shows, as it names it. */
export interface NamedPicture {
  readonly source: string
  readonly alt: string
}

/** A slide as a text says it, before its pictures are found. */
export interface SlideDraft {
  readonly composition: Omit<Composition, 'pictures' | 'theme'>
  readonly pictures: readonly NamedPicture[]
  readonly notes: string
  readonly viewerNotes: string
}

/** Sees HTML as such, so that it can be looked at; what is set on slides never does. */
const looker = new MarkdownIt({ html: true })
const ACTIVE = /<\s*\/?\s*(script|iframe|object|embed|link|meta|base)\b|\bon[a-z]+\s*=|(java|vb)script:/i
const FOREIGN = /^([a-z][a-z0-9+.-]*:|\/)/i
/** Our own line marks: `[by item]`, `[by item, fade]`, `[layout: pair]`, `[second]`. */
const BY_ITEM = /^\[by item(?:,\s*([a-z]+))?\]$/i
const LAYOUT = /^\[layout:\s*([a-z-]+)\]$/i
const SECOND = /^\[second\]$/i

/**
 * Looks for markup that would run or fetch something.
 * @throws Refusal `unreadable`
 */
function refuseActive(text: string): void {
  const all = (tokens: readonly Token[]): readonly Token[] => tokens.flatMap((token) => [token, ...all(token.children ?? [])])
  const html = all(looker.parse(text, {})).filter((token) => token.type === 'html_block' || token.type === 'html_inline')
  if (html.some((token) => ACTIVE.test(token.content))) {
    throw new Refusal('unreadable', 'This text holds scripts or embedded pages, which slides cannot have. Take them out and bring the text again.')
  }
}

/** HTML comments and tags outside code are not shown. */
function withoutTags(text: string): string {
  let fenced = false
  return text.replace(/<!--[\s\S]*?-->/g, '').split('\n').map((line) => {
    if (/^\s{0,3}(```|~~~)/.test(line)) fenced = !fenced
    return fenced ? line : line.replace(/<\/?[a-z][^<>]*>/gi, '')
  }).join('\n')
}

interface Part { readonly tokens: readonly Token[], readonly from: number, readonly to: number }

/** Top-level blocks of a text with the lines they came from. */
function partsOf(text: string): readonly Part[] {
  const tokens = tokensOf(text)
  const parts: Part[] = []
  let begin = 0
  for (const [at, token] of tokens.entries()) {
    if (token.level !== 0 || token.nesting === 1) continue
    const first = tokens[begin]
    if (first?.map != null) parts.push({ tokens: tokens.slice(begin, at + 1), from: first.map[0], to: first.map[1] })
    begin = at + 1
  }
  return parts
}

const isHeading = (part: Part, most: number): boolean => part.tokens[0]?.type === 'heading_open' && Number(part.tokens[0].tag.slice(1)) <= most
const inlineOf = (part: Part): Token | undefined => (part.tokens.length === 3 && part.tokens[0]?.type === 'paragraph_open' ? part.tokens[1] : undefined)

/** A name as it was before it was made fit for an address; as it is when it never was. */
function decoded(address: string): string {
  try {
    return decodeURI(address)
  } catch {
    return address
  }
}

/** The pictures of a paragraph that holds nothing else; null when it does. */
function picturesOnly(part: Part): readonly NamedPicture[] | null {
  const children = inlineOf(part)?.children ?? []
  if (children.length === 0 || !children.every((token) => token.type === 'image' || token.type === 'softbreak' || (token.type === 'text' && token.content.trim() === ''))) return null
  return children.filter((token) => token.type === 'image').map((token) => ({ source: decoded(String(token.attrGet('src') ?? '')), alt: token.content }))
}

function chosenLayout(wanted: Layout | null, first: boolean, level: number, heading: string, body: string, second: string, pictures: number): Layout {
  if (wanted !== null) return wanted
  if (second !== '' || pictures === 2) return 'pair'
  if (pictures > 0) return body === '' ? 'plate' : 'plate-points'
  if (body === '') return first && level === 1 ? 'opening' : 'claim'
  return first && level === 1 && heading !== '' && body.length < 160 && !body.includes('\n\n') && !/^\s*([-*+]|\d+[.)])\s/m.test(body) ? 'opening' : 'points'
}

function draftOf(parts: readonly Part[], lines: readonly string[], first: boolean): SlideDraft {
  let heading = ''
  let level = 2
  let layout: Layout | null = null
  let reveal: Reveal = 'together'
  const bodies: [string[], string[]] = [[], []]
  let side: 0 | 1 = 0
  const notes: string[] = []
  const viewerNotes: string[] = []
  const pictures: NamedPicture[] = []
  for (const part of parts) {
    const [head] = part.tokens
    const source = lines.slice(part.from, part.to).join('\n').trim()
    if (isHeading(part, 2) && heading === '') {
      heading = part.tokens[1]?.content ?? ''
      level = Number(head?.tag.slice(1) ?? 2)
      continue
    }
    if (head?.type === 'fence' && /^(viewer[- ]?)?notes\b/i.test(head.info.trim())) {
      (/^viewer/i.test(head.info.trim()) ? viewerNotes : notes).push(head.content.trim())
      continue
    }
    const line = inlineOf(part)?.content.trim() ?? ''
    const item = BY_ITEM.exec(line)
    const named = LAYOUT.exec(line)?.[1]?.toLowerCase()
    if (item !== null) {
      reveal = REVEALS.find((one) => one === item[1]?.toLowerCase()) ?? 'appear'
    } else if (named !== undefined) {
      layout = LAYOUTS.find((one) => one === named) ?? null
    } else if (SECOND.test(line)) {
      side = 1
    } else {
      const shown = picturesOnly(part)
      if (shown === null) bodies[side].push(source)
      else pictures.push(...shown)
    }
  }
  const [body, second] = [bodies[0].join('\n\n'), bodies[1].join('\n\n')]
  return {
    composition: { layout: chosenLayout(layout, first, level, heading, body, second, pictures.length), heading, body, second, reveal },
    pictures, notes: notes.join('\n\n'), viewerNotes: viewerNotes.join('\n\n'),
  }
}

/**
 * Reads a CommonMark text (spec 0.31) as a deck: a heading of the first or second level begins a slide, and so does a
 * thematic break. A fenced block marked `notes` holds the notes, one marked `viewer-notes` those for viewers. A line
 * `[by item]` lets the points of its slide come in one by one.
 * @throws Refusal `unreadable` when it holds scripts, pictures from elsewhere, or nothing at all
 */
export function readMarkdownDeck(text: string): readonly SlideDraft[] {
  const unix = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n')
  refuseActive(unix)
  const clean = withoutTags(unix)
  const lines = clean.split('\n')
  const slides: Part[][] = [[]]
  for (const part of partsOf(clean)) {
    const current = slides.at(-1) ?? []
    if (part.tokens[0]?.type === 'hr') slides.push([])
    else if (isHeading(part, 2) && current.length > 0) slides.push([part])
    else current.push(part)
  }
  const drafts = slides.filter((parts) => parts.length > 0).map((parts, n) => draftOf(parts, lines, n === 0))
  if (drafts.length === 0) throw new Refusal('unreadable', 'There is nothing in this text to make a slide of. Write a heading, then bring it again.')
  for (const { source } of drafts.flatMap((draft) => draft.pictures)) {
    if (FOREIGN.test(source)) {
      throw new Refusal('unreadable', `This text shows a picture from elsewhere, “${source.slice(0, 80)}”. Put the picture beside the text and name it there; nothing is fetched from other places.`)
    }
  }
  return drafts
}

/** What a slide is called: the words of its heading. */
export const titleOfDraft = (draft: SlideDraft): string => plainText(inlineRuns(draft.composition.heading))
