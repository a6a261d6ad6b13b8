import type { Ms, Programme, SlideId, VisitId } from '@core/model'
import { pieceLength } from './length'

/** One showing of one slide in the programme. */
export interface Visit {
  readonly id: VisitId
  readonly slide: SlideId
  readonly start: Ms
  readonly length: Ms
  /** Index of its first piece, and of the first that no longer belongs to it. */
  readonly pieces: readonly [number, number]
}

/** The visits of a programme in order. */
export function visitsOf(programme: Programme): readonly Visit[] {
  const visits: Visit[] = []
  let start = 0
  for (const [index, piece] of programme.pieces.entries()) {
    const length = pieceLength(piece)
    const last = visits.at(-1)
    if (last?.id === piece.visit) {
      visits[visits.length - 1] = { ...last, length: last.length + length, pieces: [last.pieces[0], index + 1] }
    } else {
      visits.push({ id: piece.visit, slide: piece.slide, start, length, pieces: [index, index + 1] })
    }
    start += length
  }
  return visits
}

/** How long each slide is up in all its visits. */
export function recordedBySlide(visits: readonly Visit[]): ReadonlyMap<SlideId, Ms> {
  const sums = new Map<SlideId, Ms>()
  for (const visit of visits) sums.set(visit.slide, (sums.get(visit.slide) ?? 0) + visit.length)
  return sums
}
