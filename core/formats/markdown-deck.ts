import MarkdownIt from 'markdown-it'
import type { Token } from 'markdown-it'
import { inlineRuns, plainText, tokensOf } from '@core/markup'
import { LAYOUTS, LAYOUTS_WITH_PICTURES, MOST_PICTURES, REVEALS, Refusal } from '@core/model'
import type { Composition, Layout, Reveal } from '@core/model'
import { withoutHtml } from './without-html'

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
    throw new Refusal(
      'unreadable',
      'This text holds scripts or embedded pages, which slides cannot have. Take them out and bring the text again.',
    )
  }
}

/** Settings that other programs put at a text's beginning, between lines of three dashes: they are no slide. */
const FRONT_MATTER = /^---[ \t]*\n(?:(?:[A-Za-z_][\w-]*[ \t]*:.*|[ \t]+.*|#.*|-[ \t].*|[ \t]*)\n)*?(?:---|\.\.\.)[ \t]*(?:\n|$)/
/** At least one setting, or a slide between two breaks was meant. */
const SETTING = /^[A-Za-z_][\w-]*[ \t]*:/m

function withoutFrontMatter(text: string): string {
  const found = FRONT_MATTER.exec(text)?.[0]
  return found !== undefined && SETTING.test(found) ? text.slice(found.length) : text
}

interface Part {
  readonly tokens: readonly Token[]
  readonly from: number
  readonly to: number
}

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

const isHeading = (part: Part, most: number): boolean =>
  part.tokens[0]?.type === 'heading_open' && Number(part.tokens[0].tag.slice(1)) <= most
const inlineOf = (part: Part): Token | undefined =>
  part.tokens.length === 3 && part.tokens[0]?.type === 'paragraph_open' ? part.tokens[1] : undefined

/** A name as it was before it was made fit for an address; as it is when it never was. */
function decoded(address: string): string {
  try {
    return decodeURI(address)
  } catch {
    return address
  }
}

/** Pictures that a block shows, wherever in it: in a sentence, a list, a table. */
const picturesIn = (part: Part): readonly NamedPicture[] =>
  part.tokens
    .flatMap((token) => (token.children ?? []).filter((child) => child.type === 'image'))
    .map((token) => ({ source: decoded(String(token.attrGet('src') ?? '')), alt: token.content }))

/** A picture as it is written, with nothing but blanks around it that would be left over. */
const WRITTEN_PICTURE = /[ \t]?!\[[^\]]*\]\([^)\n]*\)/g

/** What a block says besides its pictures, which stand beside the text. Pictures in code are no pictures. */
const withoutPictures = (source: string, part: Part): string =>
  picturesIn(part).length === 0
    ? source
    : source
        .replace(WRITTEN_PICTURE, '')
        .split('\n')
        .filter((line, n, all) => line.trim() !== '' || all[n - 1]?.trim() !== '')
        .join('\n')
        .trim()

/** A text so short that it stands under the title of a talk, in letters. */
const SHORT = 160
const BEGINS_LIST = /^\s*([-*+]|\d+[.)])\s/m
const isSubtitle = (body: string): boolean => body.length < SHORT && !body.includes('\n\n') && !BEGINS_LIST.test(body)

/** @param opens whether it is the first slide, under a heading of the first level */
function layoutOf(
  opens: boolean,
  { heading, body, second }: Pick<SlideDraft['composition'], 'heading' | 'body' | 'second'>,
  pictures: number,
): Layout {
  if (second !== '' || pictures === 2) return 'pair'
  if (pictures > 0) return body === '' ? 'plate' : 'plate-points'
  if (body === '') return opens ? 'opening' : 'claim'
  return opens && heading !== '' && isSubtitle(body) ? 'opening' : 'points'
}

/** A slide while its parts are read. */
interface Reading {
  heading: string
  /** Of its heading, 1 or 2. */
  level: number
  layout: Layout | null
  reveal: Reveal
  readonly bodies: readonly [string[], string[]]
  side: 0 | 1
  readonly notes: string[]
  readonly viewerNotes: string[]
  readonly pictures: NamedPicture[]
}

const NOTES = /^(viewer[- ]?)?notes\b/i

/** Reads a line that says how its slide is to be, if it is one. */
function readWish(line: string, into: Reading): boolean {
  const item = BY_ITEM.exec(line)
  const named = LAYOUT.exec(line)?.[1]?.toLowerCase()
  if (item !== null) into.reveal = REVEALS.find((one) => one === item[1]?.toLowerCase()) ?? 'appear'
  else if (named !== undefined) into.layout = LAYOUTS.find((one) => one === named) ?? null
  else if (SECOND.test(line)) into.side = 1
  else return false
  return true
}

/** Reads a fenced block of notes, if it is one. */
function readNotes({ tokens: [head] }: Part, into: Reading): boolean {
  if (head?.type !== 'fence') return false
  const kind = head.info.trim()
  if (!NOTES.test(kind)) return false
  const notes = /^viewer/i.test(kind) ? into.viewerNotes : into.notes
  notes.push(head.content.trim())
  return true
}

function readPart(part: Part, source: string, into: Reading): void {
  if (isHeading(part, 2) && into.heading === '') {
    into.heading = withoutPictures(part.tokens[1]?.content ?? '', part)
    into.pictures.push(...picturesIn(part))
    into.level = Number(part.tokens[0]?.tag.slice(1) ?? 2)
    return
  }
  if (readNotes(part, into) || readWish(inlineOf(part)?.content.trim() ?? '', into)) return
  const words = withoutPictures(source, part)
  if (words !== '') into.bodies[into.side].push(words)
  into.pictures.push(...picturesIn(part))
}

function draftOf(parts: readonly Part[], lines: readonly string[], first: boolean): SlideDraft {
  const read: Reading = {
    heading: '',
    level: 2,
    layout: null,
    reveal: 'together',
    bodies: [[], []],
    side: 0,
    notes: [],
    viewerNotes: [],
    pictures: [],
  }
  for (const part of parts) readPart(part, lines.slice(part.from, part.to).join('\n').trim(), read)
  const { heading, pictures, reveal } = read
  const words = { heading, body: read.bodies[0].join('\n\n'), second: read.bodies[1].join('\n\n') }
  const fits = read.layout !== null && (pictures.length === 0 || LAYOUTS_WITH_PICTURES.has(read.layout))
  const layout = fits && read.layout !== null ? read.layout : layoutOf(first && read.level === 1, words, pictures.length)
  return {
    composition: { layout, ...words, reveal },
    pictures,
    notes: read.notes.join('\n\n'),
    viewerNotes: read.viewerNotes.join('\n\n'),
  }
}

/** A slide with as many pictures as one takes; the others stand on slides of their own behind it. */
function shared(draft: SlideDraft): readonly SlideDraft[] {
  const { composition, pictures } = draft
  const rest = Array.from({ length: Math.ceil(Math.max(0, pictures.length - MOST_PICTURES) / MOST_PICTURES) }, (_, n): SlideDraft => ({
    composition: { ...composition, layout: 'plate', body: '', second: '' },
    pictures: pictures.slice((n + 1) * MOST_PICTURES, (n + 2) * MOST_PICTURES),
    notes: '',
    viewerNotes: '',
  }))
  return [{ ...draft, pictures: pictures.slice(0, MOST_PICTURES) }, ...rest]
}

/**
 * Reads a CommonMark text (spec 0.31) as a deck: a heading of the first or second level begins a slide, and so does a
 * thematic break. A fenced block marked `notes` holds the notes, one marked `viewer-notes` those for viewers. A line
 * `[by item]` lets the points of its slide come in one by one.
 * @throws Refusal `unreadable` when it holds scripts, pictures from elsewhere, or nothing at all
 */
export function readMarkdownDeck(text: string): readonly SlideDraft[] {
  const unix = withoutFrontMatter(text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n'))
  refuseActive(unix)
  const clean = withoutHtml(unix)
  const lines = clean.split('\n')
  const slides: Part[][] = [[]]
  for (const part of partsOf(clean)) {
    const current = slides.at(-1) ?? []
    if (part.tokens[0]?.type === 'hr') slides.push([])
    else if (isHeading(part, 2) && current.length > 0) slides.push([part])
    else current.push(part)
  }
  const drafts = slides.filter((parts) => parts.length > 0).flatMap((parts, n) => shared(draftOf(parts, lines, n === 0)))
  if (drafts.length === 0)
    throw new Refusal('unreadable', 'There is nothing in this text to make a slide of. Write a heading, then bring it again.')
  for (const { source } of drafts.flatMap((draft) => draft.pictures)) {
    if (FOREIGN.test(source)) {
      throw new Refusal(
        'unreadable',
        `This text shows a picture from elsewhere, “${source.slice(0, 80)}”. Put the picture beside the text and name it there; ` +
          `nothing is fetched from other places.`,
      )
    }
  }
  return drafts
}

/** What a slide is called: the words of its heading. */
export const titleOfDraft = (draft: SlideDraft): string => plainText(inlineRuns(draft.composition.heading))
