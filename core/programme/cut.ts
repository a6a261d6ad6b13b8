import { Refusal } from '@core/model'
import type { CutId, Ms, Piece, Programme, VisitId } from '@core/model'
import { divide } from './divide'
import { cutNames } from './fresh-id'
import { joined } from './join'
import { pieceStarts, playedPieces, programmeLength, wholeLength } from './length'
import type { TimeRange } from './time-range'
import { asPlayed, withPieces } from './with-pieces'

/** Where something was cut: what such a run of pieces looks like in the finished talk. */
export interface Seam {
  readonly id: CutId
  /** In the finished talk. */
  readonly at: Ms
  /** How much is out there. */
  readonly length: Ms
  /** The visit in which it is seen: its own, or the one before it where that went as a whole. */
  readonly visit: VisitId
}

/** Parts in order, those that overlap as one. @throws Refusal `malformed` when one holds nothing */
function inOrder(parts: readonly TimeRange[], length: Ms): readonly TimeRange[] {
  const out: { from: Ms; to: Ms }[] = []
  for (const part of [...parts].sort((a, b) => a.from - b.from)) {
    const [from, to] = [Math.max(0, part.from), Math.min(part.to, length)]
    if (to <= from) throw new Refusal('malformed', 'Nothing lies between these two times.')
    const last = out.at(-1)
    if (last !== undefined && from < last.to) last.to = Math.max(last.to, to)
    else out.push({ from, to })
  }
  return out
}

/** @throws Refusal `conflict` when a programme plays nothing */
function notEmpty(programme: Programme): Programme {
  if (playedPieces(programme).length === 0)
    throw new Refusal('conflict', 'This would cut everything. Discard the take instead; that can be undone too.')
  return programme
}

/**
 * Takes parts out. They keep their place in the list and are not played; each is a cut of its own, which can be opened again. What was
 * cut inside of one before stays cut when that is opened.
 * @param parts in programme time, at least one
 * @throws Refusal `malformed` when one holds nothing, `conflict` when nothing would be left
 */
export function cutParts(programme: Programme, parts: readonly TimeRange[]): Programme {
  if (parts.length === 0) throw new Refusal('malformed', 'Nothing was chosen to be cut.')
  const wanted = inOrder(parts, programmeLength(programme))
  const { pieces, places } = divide(
    programme,
    wanted.flatMap(({ from, to }) => [from, to]),
  )
  const name = cutNames(pieces)
  const out = [...pieces]
  for (const n of wanted.keys()) {
    let id: CutId | undefined
    for (let at = places[n * 2] ?? 0; at < (places[n * 2 + 1] ?? 0); at += 1) {
      const piece = out[at]
      if (piece === undefined || piece.out !== undefined) continue
      id ??= name(piece)
      out[at] = { ...piece, out: id }
    }
  }
  return notEmpty(withPieces(programme, out))
}

/** Takes one part out; see `cutParts`. @param from programme time in ms @param to later than `from` */
export const cut = (programme: Programme, from: Ms, to: Ms): Programme => cutParts(programme, [{ from, to }])

/** Takes visits out, each as a cut of its own. @throws Refusal `conflict` when nothing would be left */
export function cutVisits(programme: Programme, visits: ReadonlySet<VisitId>): Programme {
  const name = cutNames(programme.pieces)
  const ids = new Map<VisitId, CutId>()
  return notEmpty(
    withPieces(
      programme,
      programme.pieces.map((piece) => {
        if (piece.out !== undefined || !visits.has(piece.visit)) return piece
        const out = ids.get(piece.visit) ?? name(piece)
        ids.set(piece.visit, out)
        return { ...piece, out }
      }),
    ),
  )
}

/**
 * Opens a cut: what went there is back, as it was.
 * @throws Refusal `not-found` when it is gone
 */
export function reopen(programme: Programme, id: CutId): Programme {
  if (!programme.pieces.some((piece) => piece.out === id)) throw new Refusal('not-found', 'This cut is not there any more.')
  return withPieces(programme, joined(programme.pieces.map((piece) => (piece.out === id ? asPlayed(piece) : piece))))
}

interface Group {
  readonly id: CutId
  readonly first: number
  last: number
  length: Ms
  readonly visit: VisitId
}

/** The cuts of a run of pieces that are out, without those that lie inside another one. */
function cutsOfRun(pieces: readonly Piece[]): readonly Group[] {
  const groups = new Map<CutId, Group>()
  for (const [n, piece] of pieces.entries()) {
    if (piece.out === undefined) continue
    const group = groups.get(piece.out)
    if (group === undefined) groups.set(piece.out, { id: piece.out, first: n, last: n, length: wholeLength(piece), visit: piece.visit })
    else {
      group.last = n
      group.length += wholeLength(piece)
    }
  }
  const all = [...groups.values()]
  // All start in order: only one that began before can reach beyond.
  let reach = -1
  return all.filter((group) => {
    const inside = group.last < reach
    reach = Math.max(reach, group.last)
    return !inside
  })
}

/**
 * Where something was cut, in order. Of several cuts at one place the earlier part comes first; what was cut inside of a cut shows when
 * that is opened.
 */
export function seamsOf(programme: Programme): readonly Seam[] {
  const { pieces } = programme
  const starts = pieceStarts(programme)
  const played = new Set(playedPieces(programme).map((piece) => piece.visit))
  const seams: Seam[] = []
  for (let from = 0; from < pieces.length;) {
    let to = from
    while (to < pieces.length && pieces[to]?.out !== undefined) to += 1
    if (to > from) {
      const beside = pieces[from - 1] ?? pieces[to]
      for (const { id, length, visit } of cutsOfRun(pieces.slice(from, to))) {
        seams.push({ id, length, at: starts[from] ?? 0, visit: played.has(visit) ? visit : (beside?.visit ?? visit) })
      }
    }
    from = to + 1
  }
  return seams
}
