import type { Run } from '@core/markup'
import type { ColourOnSlide, LowerThirdOverlay, Size, TextOverlay } from '@core/model'
import type { Font } from './faces'
import { setParagraph } from './flow'
import { unitsOf } from './laid-out'
import type { Mark } from './laid-out'
import { isRightToLeft } from './set-text'

/** Words on a plate of their own, laid out: in layout units, its upper left corner at the beginning. */
export interface Plate {
  readonly width: number
  readonly height: number
  readonly marks: readonly Mark[]
}

/** Around the words, and between a name and what stands under it. */
const PADDING = { x: 30, y: 18 } as const
const GAP = 4
/** The widest that a plate may be, as a share of the frame's width, and the highest, of its height. */
const WIDEST = 0.62
const HIGHEST = 0.3
/** Letters shrink in these steps until the words fit into as much; at the last the plate is as high as they need. */
const SIZES = [1, 0.86, 0.74, 0.64, 0.55]
/** The line at the side of a plate. */
const EDGE = 7

/** A paragraph of a plate. */
interface Part {
  readonly text: string
  readonly font: Font
  readonly colour: ColourOnSlide
}

const plain = (text: string): readonly Run[] => [{ text, bold: false, italic: false, code: false }]

const partsOf = (overlay: LowerThirdOverlay | TextOverlay): readonly Part[] =>
  (overlay.kind === 'text'
    ? [{ text: overlay.text, font: { face: 'read' as const, bold: true, italic: false, size: 40 }, colour: 'text' as const }]
    : [
        { text: overlay.name, font: { face: 'display' as const, bold: true, italic: false, size: 46 }, colour: 'text' as const },
        { text: overlay.place, font: { face: 'read' as const, bold: false, italic: false, size: 31 }, colour: 'soft' as const },
      ]
  ).filter(({ text }) => text.trim() !== '')

function laid(parts: readonly Part[], scale: number, widest: number): Plate {
  const area = { x: EDGE + PADDING.x, y: PADDING.y, width: widest - EDGE - 2 * PADDING.x, height: 1 }
  let y = area.y
  const lines: Mark[] = []
  for (const { text, font, colour } of parts) {
    const set = setParagraph(plain(text), { ...font, size: font.size * scale }, y, area, null, colour, null)
    lines.push(...set.marks)
    y = set.bottom + GAP
  }
  const height = y - GAP + PADDING.y
  // Lines from right to left end at the right; all move to the beginning of a plate that is no wider than they are.
  const left = Math.min(...lines.map(({ box }) => box.x))
  const right = Math.max(...lines.map(({ box }) => box.x + box.width))
  const rtl = isRightToLeft(parts.map(({ text }) => text).join(' '))
  const by = (rtl ? PADDING.x : EDGE + PADDING.x) - left
  const moved = lines.map((line): Mark =>
    line.kind === 'line'
      ? { ...line, box: { ...line.box, x: line.box.x + by }, runs: line.runs.map((run) => ({ ...run, x: run.x + by })) }
      : line,
  )
  const width = EDGE + 2 * PADDING.x + right - left
  const edge: Mark = {
    kind: 'fill',
    box: { x: rtl ? width - EDGE : 0, y: 0, width: EDGE, height },
    colour: 'mark',
    round: false,
    part: null,
  }
  return { width, height, marks: [edge, ...moved] }
}

/** Lays words out on a plate, as large as they may be. @param shape of the frame @returns null: there are no words */
export function layPlate(overlay: LowerThirdOverlay | TextOverlay, shape: Size): Plate | null {
  const parts = partsOf(overlay)
  if (parts.length === 0) return null
  const frame = unitsOf(shape)
  const widest = frame.width * WIDEST
  const tries = SIZES.map((scale) => laid(parts, scale, widest))
  return tries.find(({ width, height }) => width <= widest + 1 && height <= frame.height * HIGHEST) ?? tries.at(-1) ?? null
}
