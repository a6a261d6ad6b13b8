import { asId } from '@core/model'
import type { CutId, Id, Piece, Programme, StillId, VisitId } from '@core/model'
import { shownSpan } from './length'

/**
 * An id that is not taken: the wanted one, else with the first free number behind it. So ids say where they come from, and never grow
 * with each edit.
 * @param taken ids of that kind that are in use
 */
function fresh<Kind extends string>(wanted: string, taken: ReadonlySet<string>): Id<Kind> {
  let id = wanted
  for (let n = 2; taken.has(id); n += 1) id = `${wanted}.${String(n)}`
  return asId(id)
}

/** What the first showing of a visit was called: all its showings are called after that one. */
const stemOf = (visit: VisitId): string => visit.replace(/\^.*$/, '')

/** An id for a visit that is not there yet. @param wanted taken if it is free */
export const newVisit = (programme: Programme, wanted: string): VisitId =>
  fresh<'visit'>(wanted, new Set<string>(programme.pieces.map((piece) => piece.visit)))

/** An id for another showing of a visit. @param name tells it from the others */
export const visitShownAgain = (programme: Programme, visit: VisitId, name: string): VisitId =>
  newVisit(programme, `${stemOf(visit)}^${name}`)

/** An id for the rest of a visit that is interrupted by another slide. @param first piece of that rest */
export const visitGoingOn = (programme: Programme, first: Piece): VisitId =>
  visitShownAgain(programme, first.visit, String(shownSpan(first).from))

/** An id for a slide that is held in a visit without a recording. */
export const newStill = (programme: Programme, visit: VisitId): StillId =>
  fresh<'still'>(`${visit}=`, new Set<string>(programme.pieces.flatMap((piece) => (piece.kind === 'still' ? [piece.still] : []))))

/** Gives out ids for cuts, each another. @param pieces of the programme that has them */
export function cutNames(pieces: readonly Piece[]): (first: Piece) => CutId {
  const taken = new Set<string>(pieces.flatMap((piece) => piece.out ?? []))
  return (first) => {
    const id = fresh<'cut'>(`${first.visit}~${String(shownSpan(first).from)}`, taken)
    taken.add(id)
    return id
  }
}

/** Pieces as another visit, their cuts under names of their own, so that opening one opens it there alone. */
export function asVisit(programme: Programme, pieces: readonly Piece[], visit: VisitId): readonly Piece[] {
  const name = cutNames(programme.pieces)
  const cuts = new Map<CutId, CutId>()
  return pieces.map((piece): Piece => {
    const renamed = { ...piece, visit }
    if (piece.out === undefined) return renamed
    const out = cuts.get(piece.out) ?? name(renamed)
    cuts.set(piece.out, out)
    return { ...renamed, out }
  })
}
