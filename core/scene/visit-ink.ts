import { intoSpan, visitsOf } from '@core/programme'
import type { Visit } from '@core/programme'
import type { Ms, Point, Size, Stroke } from '@core/model'
import { touchesStroke } from '@core/ink'
import { trackIn } from './scene-at'
import type { FilmIndex, SlideView } from './scene-at'

/** A stroke that is begun in a visit, and when, in programme time. */
export interface BegunStroke {
  readonly stroke: Stroke
  readonly at: Ms
}

/** Ink that is begun in a visit, in order. */
export function inkOfVisit(index: FilmIndex, visit: Visit): readonly BegunStroke[] {
  const begun: BegunStroke[] = []
  for (let n = visit.pieces[0]; n < visit.pieces[1]; n += 1) {
    const found = trackIn(index, n)
    if (found === null) continue
    const { track, span } = found
    const start = index.starts[n] ?? 0
    const end = index.starts[n + 1] ?? start
    for (const lying of track.growing(visit.slide)) {
      const at = start + intoSpan(span, lying.from)
      if (at >= start && at < end && lying.from < lying.until) begun.push({ stroke: lying.stroke, at })
    }
  }
  return begun.sort((a, b) => a.at - b.at)
}

/** When strokes are begun, in programme time, ascending. */
export const inkTurns = (index: FilmIndex): readonly Ms[] =>
  visitsOf(index.film.programme).flatMap((visit) => inkOfVisit(index, visit).map(({ at }) => at))

/** When steps come, in programme time, ascending. */
export function stepTurns(index: FilmIndex): readonly Ms[] {
  const steps = index.film.programme.pieces.flatMap((_, n) => {
    const found = trackIn(index, n)
    const start = index.starts[n] ?? 0
    const end = index.starts[n + 1] ?? start
    return found === null
      ? []
      : [start, ...found.track.shows.map((at) => start + intoSpan(found.span, at)).filter((at) => at > start && at < end)]
  })
  return [...new Set(steps)]
}

/** A place of the frame on the slide that stands in it, in fractions of each. */
export const onSlideOf = ({ stage }: Pick<SlideView, 'stage'>, at: Point): Point => ({
  x: (at.x - stage.x) / stage.w,
  y: (at.y - stage.y) / stage.h,
})

/** Reach of a hand that chooses a stroke, as a fraction of the slide's height. */
const REACH = 0.015

/**
 * The stroke that is on top at a place of the picture.
 * @param at in fractions of the frame
 * @param shape of the slide
 */
export function strokeAt(view: SlideView, at: Point, shape: Size): Stroke | null {
  const on = onSlideOf(view, at)
  return view.ink.findLast(({ stroke }) => touchesStroke(stroke, on, REACH, shape))?.stroke ?? null
}
