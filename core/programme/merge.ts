import { Refusal } from '@core/model'
import type { Piece, PieceId, Programme, Seam, VisitId } from '@core/model'

/** All that a programme says of one visit. */
interface VisitPart {
  readonly visit: VisitId | null
  readonly pieces: readonly Piece[]
  readonly seams: readonly Seam[]
}

/** A programme visit by visit; the first part holds what was cut at the very beginning. A visit that is interrupted counts once. */
function partsOf(programme: Programme): ReadonlyMap<VisitId | null, VisitPart> {
  const parts = new Map<VisitId | null, { visit: VisitId | null, pieces: Piece[], seams: Seam[] }>([[null, { visit: null, pieces: [], seams: [] }]])
  const visitOf = new Map<PieceId, VisitId>()
  for (const piece of programme.pieces) {
    visitOf.set(piece.id, piece.visit)
    const part = parts.get(piece.visit)
    if (part === undefined) parts.set(piece.visit, { visit: piece.visit, pieces: [piece], seams: [] })
    else part.pieces.push(piece)
  }
  for (const seam of programme.seams) parts.get(seam.after === null ? null : visitOf.get(seam.after) ?? null)?.seams.push(seam)
  return parts
}

const same = (a: VisitPart | undefined, b: VisitPart | undefined): boolean => JSON.stringify(a) === JSON.stringify(b)

/** Visits that differ between two programmes, those that only one of them has included. */
export function changedVisits(a: Programme, b: Programme): ReadonlySet<VisitId | null> {
  const [left, right] = [partsOf(a), partsOf(b)]
  return new Set([...left.keys(), ...right.keys()].filter((visit) => !same(left.get(visit), right.get(visit))))
}

const common = (order: readonly (VisitId | null)[], others: ReadonlyMap<VisitId | null, VisitPart>): string => JSON.stringify(order.filter((visit) => others.has(visit)))

/** Lays what one order adds into another, each behind what it stands behind there, and takes out what it lacks. */
function woven(into: readonly (VisitId | null)[], from: readonly (VisitId | null)[], base: ReadonlyMap<VisitId | null, VisitPart>): readonly (VisitId | null)[] {
  const wanted = new Set(from)
  const order = into.filter((visit) => wanted.has(visit) || !base.has(visit))
  for (const [n, visit] of from.entries()) {
    if (order.includes(visit) || base.has(visit)) continue
    const before = from.slice(0, n).findLast((one) => order.includes(one))
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, visit)
  }
  return order
}

/**
 * Brings two changes of one programme together: edits of different visits are both kept, edits of the same visit are not.
 * Also takes a change back while later ones stay: what it was made from is then `mine`.
 * @param base what both were made from
 * @param mine what one made of it
 * @param theirs what the other made of it; the result follows it
 * @throws Refusal `conflict` when both changed the same visit, or both the order
 */
export function merged(base: Programme, mine: Programme, theirs: Programme): Programme {
  const [from, left, right] = [partsOf(base), partsOf(mine), partsOf(theirs)]
  const changed = [...changedVisits(base, mine)]
  for (const visit of changed) {
    if (!same(from.get(visit), right.get(visit)) && !same(left.get(visit), right.get(visit))) {
      throw new Refusal('conflict', 'This part was changed elsewhere in the meantime. Nothing was overwritten; look at how it is now, and change that.')
    }
  }
  const [first, second] = [[...left.keys()], [...right.keys()]]
  const baseOrder = [...from.keys()]
  const moved = (order: readonly (VisitId | null)[], parts: ReadonlyMap<VisitId | null, VisitPart>): boolean => common(order, from) !== common(baseOrder, parts)
  if (moved(first, left) && moved(second, right) && common(first, right) !== common(second, left)) {
    throw new Refusal('conflict', 'The order was changed elsewhere in the meantime. Nothing was overwritten; look at how it is now, and change that.')
  }
  const order = moved(first, left) ? woven(first, second, from) : woven(second, first, from)
  const mineChanged = new Set(changed)
  const parts = order.flatMap((visit) => (mineChanged.has(visit) ? left.get(visit) : right.get(visit)) ?? [])
  return {
    pieces: parts.flatMap((part) => part.pieces),
    seams: parts.flatMap((part) => part.seams),
    slides: { ...theirs.slides, ...Object.fromEntries(Object.entries(mine.slides).filter(([slide, version]) => base.slides[slide as keyof typeof base.slides] !== version)) },
    revision: theirs.revision + 1,
  }
}
