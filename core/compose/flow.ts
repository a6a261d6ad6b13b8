import type { Block, Run } from '@core/markup'
import { plainText } from '@core/markup'
import type { Font } from './faces'
import { overlaps } from './laid-out'
import type { Box, Mark } from './laid-out'
import { textWidth } from './metrics'
import { isRightToLeft, setText } from './set-text'
import type { ColourRole } from './themes'

/** Space kept between text and the face, in layout units. */
const GAP = 36

/** How a flow of blocks is set. */
export interface FlowStyle {
  /** Size of plain text, in layout units. */
  readonly size: number
  readonly colour: ColourRole
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
export function roomBeside(
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
  colour: ColourRole,
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

/** Sets blocks one under the other into an area, round the face. */
export function flow(blocks: readonly Block[], area: Box, face: Box | null, style: FlowStyle): Flowed {
  const marks: Mark[] = []
  const font: Font = { face: 'read', bold: false, italic: false, size: style.size }
  let y = area.y
  let part = -1
  const place = (runs: readonly Run[], set: Font, into: Box, colour: ColourRole, of: number | null): void => {
    const { marks: set2, bottom } = setParagraph(runs, set, y, into, face, colour, of)
    marks.push(...set2)
    y = bottom
  }
  for (const [n, block] of blocks.entries()) {
    const before = blocks[n - 1]
    if (before !== undefined) y += style.size * (block.kind === 'item' && before.kind === 'item' ? 0.38 : 0.7)
    switch (block.kind) {
      case 'paragraph':
        place(block.runs, font, area, style.colour, null)
        break
      case 'heading':
        place(block.runs, { ...font, bold: true, size: style.size * 1.15 }, area, style.colour, null)
        break
      case 'item': {
        if (style.byPart && block.depth === 0 && !block.more) part += 1
        const of = style.byPart && part >= 0 ? part : null
        const hang = style.size * (block.ordinal === null ? 0.95 : 1.5)
        // In a text from right to left its mark stands at the right, and it is set in from there.
        const rtl = isRightToLeft(plainText(block.runs))
        const set = (from: Box, by: number): Box => (rtl ? { ...from, width: from.width - by } : inset(from, by))
        const into = set(area, block.depth * style.size * 1.1)
        const { left, right, top } = roomBeside(into, face, y, style.size * LINE)
        y = top
        if (!block.more) marks.push(itemMark(block.ordinal, { left, right, top, rtl, size: style.size, depth: block.depth, part: of }))
        place(block.runs, font, set(into, hang), style.colour, of)
        break
      }
      case 'quote': {
        const top = y
        place(block.runs, { ...font, italic: true }, inset(area, style.size * 0.9), style.colour, null)
        marks.push({
          kind: 'fill',
          box: { x: area.x, y: top, width: style.size * 0.14, height: y - top },
          colour: 'mark',
          round: false,
          part: null,
        })
        break
      }
      case 'code': {
        const code: Font = { face: 'code', bold: false, italic: false, size: style.size * 0.8 }
        const pad = style.size * 0.5
        const height = code.size * LINE
        const { left, right, top: from } = roomBeside(area, face, y, block.lines.length * height + 2 * pad)
        y = from
        const longest = Math.max(1, ...block.lines.map((line) => textWidth(line, code)))
        // Code is never broken: a line too long for the room is set smaller, with all the others.
        const size = code.size * Math.min(1, (right - left - 2 * pad) / longest)
        marks.push({
          kind: 'fill',
          box: { x: left, y, width: right - left, height: block.lines.length * size * LINE + 2 * pad },
          colour: 'shade',
          round: false,
          part: null,
        })
        for (const [at, line] of block.lines.entries()) {
          const top = y + pad + at * size * LINE
          const set = { ...code, size }
          marks.push({
            kind: 'line',
            box: { x: left + pad, y: top, width: textWidth(line, set), height: size * LINE },
            baseline: top + size,
            runs: [{ x: left + pad, width: textWidth(line, set), text: line, font: set }],
            rtl: false,
            colour: 'text',
            part: null,
          })
        }
        y += block.lines.length * size * LINE + 2 * pad
        break
      }
      case 'table':
        y = table(block, y, area, face, style, marks)
        break
      case 'rule':
        marks.push({
          kind: 'fill',
          box: { x: area.x, y: y + style.size * 0.3, width: area.width, height: 2 },
          colour: 'soft',
          round: false,
          part: null,
        })
        y += style.size * 0.6
        break
    }
  }
  return { marks, bottom: y, parts: part + 1 }
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
