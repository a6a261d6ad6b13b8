import { blocksOf } from '@core/markup'
import type { ColourOnSlide, TextAlign } from '@core/model'
import { flow } from './flow'
import type { Flowed } from './flow'
import type { Box, Mark } from './laid-out'

/** How words on an object are set. */
export interface WordsOn {
  /** CommonMark blocks. */
  readonly text: string
  /** Height of plain letters, in layout units. */
  readonly letters: number
  readonly align: TextAlign
  readonly colour: ColourOnSlide
  /** Whether they stand in the middle of the box's height, and not at its top. */
  readonly middle: boolean
}

function shifted(mark: Mark, dx: number, dy: number): Mark {
  const box: Box = { ...mark.box, x: mark.box.x + dx, y: mark.box.y + dy }
  if (mark.kind !== 'line') return { ...mark, box }
  return { ...mark, box, baseline: mark.baseline + dy, runs: mark.runs.map((run) => ({ ...run, x: run.x + dx })) }
}

/** How far a line moves for its alignment: from where it begins to be read. */
function lineShift(mark: Mark, area: Box, align: TextAlign): number {
  if (mark.kind !== 'line' || align === 'start') return 0
  const left = mark.box.x - area.x
  const right = area.x + area.width - mark.box.x - mark.box.width
  const room = left + right
  if (align === 'middle') return room / 2 - left
  return mark.rtl ? -left : right
}

/** Letters shrink in these steps until the words fit into their box. */
const SIZES = [1, 0.88, 0.76, 0.66, 0.56, 0.46, 0.36] as const

/** Sets words into a box, with smaller letters where there are many; what does not fit at the smallest stands below it. */
export function setWordsOn(words: WordsOn, area: Box): readonly Mark[] {
  const blocks = blocksOf(words.text)
  const set = (share: number): Flowed => flow(blocks, area, null, { size: words.letters * share, colour: words.colour, byPart: false })
  const fits = SIZES.find((share) => set(share).bottom <= area.y + area.height + 1) ?? SIZES[SIZES.length - 1] ?? 1
  const { marks, bottom } = set(fits)
  const dy = words.middle ? Math.max(0, (area.height - (bottom - area.y)) / 2) : 0
  return marks.map((mark) => shifted(mark, lineShift(mark, area, words.align), dy))
}
