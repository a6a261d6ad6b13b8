import type { Programme, SlideId, VisitId } from '@core/model'

/** A programme in which these visits are to be looked at, since their slide was changed under them. */
export function withChangedUnder({ changedUnder: _, ...programme }: Programme, visits: readonly VisitId[]): Programme {
  return visits.length === 0 ? programme : { ...programme, changedUnder: visits }
}

/** Visits that are played and were recorded, of which the slide was changed since, in order; others that are named are gone. */
export function changedVisitsOf({ pieces, changedUnder = [] }: Programme): readonly VisitId[] {
  const marked = new Set(changedUnder)
  return [...new Set(pieces.filter((piece) => piece.out === undefined && marked.has(piece.visit)).map((piece) => piece.visit))]
}

/** A programme after slides were changed: their visits are to be looked at. */
export function markChanged(programme: Programme, slides: ReadonlySet<SlideId>): Programme {
  const under = programme.pieces.filter((piece) => piece.kind === 'recorded' && slides.has(piece.slide)).map((piece) => piece.visit)
  return withChangedUnder(programme, [...new Set([...(programme.changedUnder ?? []), ...under])])
}
