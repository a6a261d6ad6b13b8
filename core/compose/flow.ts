import type { ColourOnSlide } from '@core/model'
import type { Block, Run } from '@core/markup'
import { plainText } from '@core/markup'
import { unreachable } from '@core/model'
import type { Font } from './faces'
import { overlaps } from './laid-out'
import type { Box, Mark } from './laid-out'
import { textWidth } from './metrics'
import { isRightToLeft, setText } from './set-text'

/** Space kept between text and the face, in layout units. */
const GAP = 36

/** How a flow of blocks is set. */
export interface FlowStyle {
  /** Size of plain text, in layout units. */
  readonly size: number
  readonly colour: ColourOnSlide
  /** Points and pictures come one by one. */
  readonly byPart: boolean
}

export interface Flowed {
  readonly marks: readonly Mark[]
  /** Where the next block would begin. */
  readonly bottom: number
  readonly parts: number
}

/** Room narrower than this share of the area, or than so many line heights, is no room for text. */
const LEAST_SHARE = 0.2
const LEAST_HEIGHTS = 3

/**
 * Where something of some height goes and how far it may reach: beside the face, on its wider side, or under it where both sides are
 * too narrow.
 */
function roomBeside(
  area: Box,
  face: Box | null,
  top: number,
  height: number,
): { readonly left: number; readonly right: number; readonly top: number } {
  const whole = { left: area.x, right: area.x + area.width, top }
  if (face === null) return whole
  const kept: Box = { x: face.x - GAP, y: face.y - GAP / 2, width: face.width + 2 * GAP, height: face.height + GAP }
  if (!overlaps(kept, { x: area.x, y: top, width: area.width, height })) return whole
  const before = Math.min(whole.right, kept.x) - whole.left
  const after = whole.right - Math.max(whole.left, kept.x + kept.width)
  if (Math.max(before, after) < Math.max(area.width * LEAST_SHARE, height * LEAST_HEIGHTS)) return { ...whole, top: kept.y + kept.height }
  return before >= after ? { ...whole, right: whole.left + before } : { ...whole, left: whole.right - after }
}

const LINE = 1.3

/** Sets one run of text from `y` on. */
export function setParagraph(
  runs: readonly Run[],
  font: Font,
  y: number,
  area: Box,
  face: Box | null,
  colour: ColourOnSlide,
  part: number | null,
): { readonly marks: readonly Mark[]; readonly bottom: number } {
  const height = font.size * (font.face === 'display' ? 1.12 : LINE)
  const lines = setText(runs, font, height, (under) => {
    const { left, right, top } = roomBeside(area, face, y + under, height)
    return { left, right, top: top - y }
  })
  return {
    marks: lines.flatMap((line): Mark[] => {
      if (line.runs.length === 0) return []
      const left = line.runs[0]?.x ?? area.x
      const last = line.runs.at(-1)
      const top = y + line.top
      return [
        {
          kind: 'line',
          box: { x: left, y: top, width: (last === undefined ? left : last.x + last.width) - left, height },
          baseline: top + height / 2 + font.size * 0.34,
          runs: line.runs,
          rtl: line.rtl,
          colour,
          part,
        },
      ]
    }),
    bottom: y + (lines.at(-1)?.top ?? 0) + height,
  }
}

const inset = (area: Box, by: number): Box => ({ ...area, x: area.x + by, width: area.width - by })

/** Where an item's mark stands. */
interface MarkPlace {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly rtl: boolean
  readonly size: number
  readonly depth: number
  readonly part: number | null
}

/** The dot or number of an item, where its text begins. */
function itemMark(ordinal: number | null, { left, right, top, rtl, size, depth, part }: MarkPlace): Mark {
  const middle = top + (size * LINE) / 2
  if (ordinal === null) {
    const dot = size * (depth === 0 ? 0.26 : 0.2)
    const x = rtl ? right - size * 0.2 - dot : left + size * 0.2
    return { kind: 'fill', box: { x, y: middle - dot / 2, width: dot, height: dot }, colour: 'mark', round: true, part }
  }
  const text = `${String(ordinal)}.`
  const font: Font = { face: 'read', bold: true, italic: false, size }
  const width = textWidth(text, font)
  const x = rtl ? right - width : left
  return {
    kind: 'line',
    box: { x, y: top, width, height: size * LINE },
    baseline: middle + size * 0.34,
    runs: [{ x, width, text, font }],
    rtl: false,
    colour: 'mark',
    part,
  }
}

/** Where blocks are set, and how. */
interface Setting {
  readonly area: Box
  readonly face: Box | null
  readonly style: FlowStyle
}

/** What was set, and where the next block would begin. */
interface SetBlock {
  readonly marks: readonly Mark[]
  readonly bottom: number
}

const plainFont = ({ size }: FlowStyle): Font => ({ face: 'read', bold: false, italic: false, size })

/** @param part that it comes in with; null: with the slide */
function setItem(block: Extract<Block, { kind: 'item' }>, y: number, { area, face, style }: Setting, part: number | null): SetBlock {
  const hang = style.size * (block.ordinal === null ? 0.95 : 1.5)
  // In a text from right to left its mark stands at the right, and it is set in from there.
  const rtl = isRightToLeft(plainText(block.runs))
  const setIn = (from: Box, by: number): Box => (rtl ? { ...from, width: from.width - by } : inset(from, by))
  const into = setIn(area, block.depth * style.size * 1.1)
  const { left, right, top } = roomBeside(into, face, y, style.size * LINE)
  const mark = block.more ? [] : [itemMark(block.ordinal, { left, right, top, rtl, size: style.size, depth: block.depth, part })]
  const words = setParagraph(block.runs, plainFont(style), top, setIn(into, hang), face, style.colour, part)
  return { marks: [...mark, ...words.marks], bottom: words.bottom }
}

function setQuote(block: Extract<Block, { kind: 'quote' }>, y: number, { area, face, style }: Setting): SetBlock {
  const font = { ...plainFont(style), italic: true }
  const { marks, bottom } = setParagraph(block.runs, font, y, inset(area, style.size * 0.9), face, style.colour, null)
  const box = { x: area.x, y, width: style.size * 0.14, height: bottom - y }
  return { marks: [...marks, { kind: 'fill', box, colour: 'mark', round: false, part: null }], bottom }
}

function setCode({ lines }: Extract<Block, { kind: 'code' }>, y: number, { area, face, style }: Setting): SetBlock {
  const wanted: Font = { face: 'code', bold: false, italic: false, size: style.size * 0.8 }
  const pad = style.size * 0.5
  const { left, right, top } = roomBeside(area, face, y, lines.length * wanted.size * LINE + 2 * pad)
  const longest = Math.max(1, ...lines.map((line) => textWidth(line, wanted)))
  // Code is never broken: a line too long for the room is set smaller, with all the others.
  const font = { ...wanted, size: wanted.size * Math.min(1, (right - left - 2 * pad) / longest) }
  const step = font.size * LINE
  const height = lines.length * step + 2 * pad
  const words = lines.map((text, n): Mark => {
    const [from, width] = [top + pad + n * step, textWidth(text, font)]
    return {
      kind: 'line',
      box: { x: left + pad, y: from, width, height: step },
      baseline: from + font.size,
      runs: [{ x: left + pad, width, text, font }],
      rtl: false,
      colour: 'text',
      part: null,
    }
  })
  const ground: Mark = { kind: 'fill', box: { x: left, y: top, width: right - left, height }, colour: 'shade', round: false, part: null }
  return { marks: [ground, ...words], bottom: top + height }
}

function setRule(y: number, { area, style }: Setting): SetBlock {
  const box = { x: area.x, y: y + style.size * 0.3, width: area.width, height: 2 }
  return { marks: [{ kind: 'fill', box, colour: 'soft', round: false, part: null }], bottom: y + style.size * 0.6 }
}

/** @param part that a point comes in with; null: with the slide */
function setBlock(block: Block, y: number, setting: Setting, part: number | null): SetBlock {
  const { area, face, style } = setting
  const font = plainFont(style)
  switch (block.kind) {
    case 'paragraph':
      return setParagraph(block.runs, font, y, area, face, style.colour, null)
    case 'heading':
      return setParagraph(block.runs, { ...font, bold: true, size: style.size * 1.15 }, y, area, face, style.colour, null)
    case 'item':
      return setItem(block, y, setting, part)
    case 'quote':
      return setQuote(block, y, setting)
    case 'code':
      return setCode(block, y, setting)
    case 'table': {
      const marks: Mark[] = []
      return { bottom: table(block, y, area, face, style, marks), marks }
    }
    case 'rule':
      return setRule(y, setting)
    default:
      return unreachable(block)
  }
}

/** Space between a block and the one before it. */
function spaceBetween(before: Block | undefined, block: Block, size: number): number {
  if (before === undefined) return 0
  return size * (block.kind === 'item' && before.kind === 'item' ? 0.38 : 0.7)
}

/** Sets blocks one under the other into an area, round the face. */
export function flow(blocks: readonly Block[], area: Box, face: Box | null, style: FlowStyle): Flowed {
  const marks: Mark[] = []
  let y = area.y
  let parts = 0
  for (const [n, block] of blocks.entries()) {
    y += spaceBetween(blocks[n - 1], block, style.size)
    if (style.byPart && block.kind === 'item' && block.depth === 0 && !block.more) parts += 1
    const set = setBlock(block, y, { area, face, style }, parts > 0 ? parts - 1 : null)
    marks.push(...set.marks)
    y = set.bottom
  }
  return { marks, bottom: y, parts }
}

/** Sets a table: columns as wide as their contents ask in proportion, a line under its head. @returns where it ends */
function table(
  block: Extract<Block, { kind: 'table' }>,
  from: number,
  area: Box,
  face: Box | null,
  style: FlowStyle,
  marks: Mark[],
): number {
  const rows = [block.head, ...block.rows]
  const columns = Math.max(1, ...rows.map((row) => row.length))
  const font: Font = { face: 'read', bold: false, italic: false, size: style.size * 0.86 }
  const pad = style.size * 0.35
  const { left, right, top } = roomBeside(area, face, from, rows.length * font.size * 1.9)
  const wanted = Array.from({ length: columns }, (_, c) =>
    Math.max(font.size * 2, ...rows.map((row) => textWidth(plainText(row[c] ?? []), { ...font, bold: true }) + 2 * pad)),
  )
  const sum = wanted.reduce((a, b) => a + b, 0)
  const widths = wanted.map((width) => (sum > right - left ? (width * (right - left)) / sum : width))
  let y = top
  for (const [r, row] of rows.entries()) {
    let x = left
    let bottom = y
    const behind = marks.length
    for (let c = 0; c < columns; c += 1) {
      const width = widths[c] ?? 0
      const cell = setParagraph(
        row[c] ?? [],
        { ...font, bold: r === 0 },
        y + pad * 0.6,
        { x: x + pad, y, width: width - 2 * pad, height: 0 },
        null,
        style.colour,
        null,
      )
      marks.push(...cell.marks)
      bottom = Math.max(bottom, cell.bottom + pad * 0.6)
      x += width
    }
    const line: Mark =
      r === 0
        ? { kind: 'fill', box: { x: left, y, width: x - left, height: bottom - y }, colour: 'shade', round: false, part: null }
        : { kind: 'fill', box: { x: left, y: bottom - 1, width: x - left, height: 1.5 }, colour: 'soft', round: false, part: null }
    // Behind its words.
    marks.splice(behind, 0, line)
    y = bottom
  }
  return y
}
