import MarkdownIt from 'markdown-it'
import type { Token } from 'markdown-it'

/** Text that is set in one way. */
export interface Run {
  readonly text: string
  readonly bold: boolean
  readonly italic: boolean
  readonly code: boolean
}

/** A block of CommonMark (spec 0.31), as far as slides and notes show it. */
export type Block =
  | { readonly kind: 'paragraph'; readonly runs: readonly Run[] }
  | { readonly kind: 'heading'; readonly level: number; readonly runs: readonly Run[] }
  /**
   * `ordinal`: its number in a numbered list, else null. `depth` counts from 0. `more`: a further paragraph of the item before, which
   * has no mark.
   */
  | {
      readonly kind: 'item'
      readonly depth: number
      readonly ordinal: number | null
      readonly more: boolean
      readonly runs: readonly Run[]
    }
  | { readonly kind: 'quote'; readonly runs: readonly Run[] }
  | { readonly kind: 'code'; readonly lines: readonly string[] }
  | { readonly kind: 'table'; readonly head: readonly (readonly Run[])[]; readonly rows: readonly (readonly (readonly Run[])[])[] }
  | { readonly kind: 'rule' }

/** HTML is no markup here: it is shown as the text it is. */
const parser = new MarkdownIt({ html: false, linkify: false })

/** Tokens of a text, each with the lines it came from; for those who cut texts apart. */
export const tokensOf = (text: string): readonly Token[] => parser.parse(text, {})

const PLAIN: Omit<Run, 'text'> = { bold: false, italic: false, code: false }

/** Runs of the inline parts of a token. A forced line break stays one, a soft one is a space. */
function runsOfTokens(tokens: readonly Token[]): readonly Run[] {
  const runs: Run[] = []
  let style = PLAIN
  const put = (text: string, code: boolean): void => {
    const last = runs.at(-1)
    if (last !== undefined && last.bold === style.bold && last.italic === style.italic && last.code === code) {
      runs[runs.length - 1] = { ...last, text: last.text + text }
    } else if (text !== '') {
      runs.push({ ...style, code, text })
    }
  }
  for (const token of tokens) {
    if (token.type === 'strong_open') style = { ...style, bold: true }
    else if (token.type === 'strong_close') style = { ...style, bold: false }
    else if (token.type === 'em_open') style = { ...style, italic: true }
    else if (token.type === 'em_close') style = { ...style, italic: false }
    else if (token.type === 'softbreak') put(' ', false)
    else if (token.type === 'hardbreak') put('\n', false)
    else if (token.type === 'code_inline') put(token.content, true)
    // A picture cannot stand in a line: what it is called does.
    else if (token.type === 'text' || token.type === 'text_special' || token.type === 'image') put(token.content, false)
  }
  return runs
}

/** One line of inlines, such as a heading. */
export const inlineRuns = (text: string): readonly Run[] => runsOfTokens(parser.parseInline(text, {})[0]?.children ?? [])

export const plainText = (runs: readonly Run[]): string => runs.map((run) => run.text).join('')

interface Lists {
  readonly stack: { ordinal: number | null; said: boolean }[]
}

function tableAt(tokens: readonly Token[], from: number): { readonly block: Block; readonly end: number } {
  const rows: (readonly Run[])[][] = []
  let at = from
  for (; tokens[at] !== undefined && tokens[at]?.type !== 'table_close'; at += 1) {
    const token = tokens[at]
    if (token?.type === 'tr_open') rows.push([])
    if (token?.type === 'inline') rows.at(-1)?.push(runsOfTokens(token.children ?? []))
  }
  const [head = [], ...rest] = rows
  return { block: { kind: 'table', head, rows: rest }, end: at }
}

/** A pause mark with a colon behind it would be a link's address, which is not shown. */
const PAUSE_DEFINITION = /^( {0,3}\[pause(?:\s+\d{1,3})?\]):/gim

/** What is said within lists, quotes or a heading; level 0: none. */
function saidIn(runs: readonly Run[], { stack }: Lists, quotes: number, level: number): Block {
  const list = stack.at(-1)
  if (list !== undefined) {
    const more = list.said
    list.said = true
    return { kind: 'item', depth: stack.length - 1, ordinal: list.ordinal, more, runs }
  }
  if (quotes > 0) return { kind: 'quote', runs }
  return level > 0 ? { kind: 'heading', level, runs } : { kind: 'paragraph', runs }
}

/** Reads a text's blocks. Anything can be read: what is no markup is text. */
export function blocksOf(text: string): readonly Block[] {
  const tokens = tokensOf(text.replace(PAUSE_DEFINITION, '$1\\:'))
  const blocks: Block[] = []
  const lists: Lists = { stack: [] }
  let quotes = 0
  let heading = 0
  for (let at = 0; at < tokens.length; at += 1) {
    const token = tokens[at]
    if (token === undefined) break
    switch (token.type) {
      case 'bullet_list_open':
        lists.stack.push({ ordinal: null, said: false })
        break
      case 'ordered_list_open':
        lists.stack.push({ ordinal: Number(token.attrGet('start') ?? 1) - 1, said: false })
        break
      case 'bullet_list_close':
      case 'ordered_list_close':
        lists.stack.pop()
        break
      case 'list_item_open': {
        const list = lists.stack.at(-1)
        if (list !== undefined) list.said = false
        if (list !== undefined && list.ordinal !== null) list.ordinal += 1
        break
      }
      case 'blockquote_open':
        quotes += 1
        break
      case 'blockquote_close':
        quotes -= 1
        break
      case 'heading_open':
        heading = Number(token.tag.slice(1))
        break
      case 'heading_close':
        heading = 0
        break
      case 'inline': {
        const runs = runsOfTokens(token.children ?? [])
        if (runs.length > 0) blocks.push(saidIn(runs, lists, quotes, heading))
        break
      }
      case 'fence':
      case 'code_block':
        blocks.push({ kind: 'code', lines: token.content.replace(/\n$/, '').split('\n') })
        break
      case 'hr':
        blocks.push({ kind: 'rule' })
        break
      case 'table_open': {
        const { block, end } = tableAt(tokens, at)
        blocks.push(block)
        at = end
        break
      }
      default:
        break
    }
  }
  return blocks
}

/** The words of a text without its markup, a block a line. */
export function wordsOf(text: string): string {
  return blocksOf(text)
    .map((block) => {
      switch (block.kind) {
        case 'code':
          return block.lines.join('\n')
        case 'rule':
          return ''
        case 'table':
          return [block.head, ...block.rows].map((row) => row.map(plainText).join(' ')).join('\n')
        default:
          return plainText(block.runs)
      }
    })
    .filter((line) => line !== '')
    .join('\n')
}
