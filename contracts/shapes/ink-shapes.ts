import { INK_REACH, MOST_POINTS } from '@core/ink'
import { INK_COLOURS, INK_TOOLS, INK_WIDTH_NAMES, LONGEST_LABEL } from '@core/model'
import type { Stroke } from '@core/model'
import { ms, share } from './bounds'
import { flag, list, optional, real, record, text, uuidOf, word } from './shape'

/** A place on or beside a slide, as a fraction of it. */
export const fraction = real(INK_REACH.least, INK_REACH.most)

export const STROKE = record<Stroke>({
  id: uuidOf(),
  slide: uuidOf(),
  tool: optional(word(INK_TOOLS)),
  clean: optional(flag),
  text: optional(text(0, LONGEST_LABEL)),
  colour: word(INK_COLOURS),
  width: word(INK_WIDTH_NAMES),
  pressure: flag,
  points: list(record({ dt: ms, x: fraction, y: fraction, p: share }), 1, MOST_POINTS),
})
