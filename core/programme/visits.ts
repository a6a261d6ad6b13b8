import type { Ms, Piece, Programme, SlideId, VisitId } from '@core/model'
import { pieceLength } from './length'

/** One showing of one slide in the programme. */
export interface Visit {
  readonly id: VisitId
  readonly slide: SlideId
  readonly start: Ms
  readonly length: Ms
  /** Index of its first piece, and of the first that no longer belongs to it; what was cut of it counted. */
  readonly pieces: readonly [number, number]
}

/** The visits of a programme that are played at least in part, in order. */
export function visitsOf(programme: Pick<Programme, 'pieces'>): readonly Visit[] {
  const visits: Visit[] = []
  const { pieces } = programme
  let start = 0
  for (let first = 0; first < pieces.length;) {
    const piece = pieces[first] as Piece
    let last = first
    let length = 0
    let played = false
    for (; pieces[last]?.visit === piece.visit; last += 1) {
      const one = pieces[last] as Piece
      length += pieceLength(one)
      played ||= one.out === undefined
    }
    if (played) visits.push({ id: piece.visit, slide: piece.slide, start, length, pieces: [first, last] })
    start += length
    first = last
  }
  return visits
}

/** The pieces of a visit that are played, in order. */
export const piecesOfVisit = ({ pieces }: Pick<Programme, 'pieces'>, visit: Visit): readonly Piece[] =>
  pieces.slice(...visit.pieces).filter((piece) => piece.out === undefined)

/** How long each slide is up in all its visits. */
export function recordedBySlide(visits: readonly Visit[]): ReadonlyMap<SlideId, Ms> {
  const sums = new Map<SlideId, Ms>()
  for (const visit of visits) sums.set(visit.slide, (sums.get(visit.slide) ?? 0) + visit.length)
  return sums
}
