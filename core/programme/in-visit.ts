import type { Cue, Ms, Piece, Programme, StretchId } from '@core/model'
import { intoSpan, pieceLength } from './length'
import type { TimeRange } from './time-range'
import { piecesOfVisit } from './visits'
import type { Visit } from './visits'

/** Where one stretch ended and the next began while a visit's slide was up: how often. A cut is no pause. @param pieces of the visit */
export const pausesIn = (pieces: readonly Piece[]): number =>
  pieces.filter((piece, n) => {
    const before = pieces[n - 1]
    return piece.kind === 'recorded' && before?.kind === 'recorded' && before.show.stretch !== piece.show.stretch
  }).length

/** How long a visit is held that has no recording, in ms; null when it has one. */
export const heldWithoutVoice = (programme: Programme, visit: Visit): Ms | null =>
  programme.pieces.slice(...visit.pieces).some((piece) => piece.kind === 'recorded') ? null : visit.length

/**
 * Where a presenter stumbled while a visit was recorded, in ms from its beginning.
 * @param cuesOf cues of a stretch
 */
export function stumblesIn(programme: Programme, visit: Visit, cuesOf: (stretch: StretchId) => readonly Cue[]): readonly Ms[] {
  let start = 0
  return piecesOfVisit(programme, visit).flatMap((piece) => {
    const from = start
    start += pieceLength(piece)
    if (piece.kind === 'still') return []
    const { show } = piece
    return cuesOf(show.stretch).flatMap((cue) =>
      cue.kind === 'stumble' && cue.at >= show.from && cue.at < show.to ? [from + intoSpan(show, cue.at)] : [],
    )
  })
}

/** Whether a time of the programme lies in a visit. */
export const isInVisit = (visit: Visit, at: Ms): boolean => at >= visit.start && at < visit.start + visit.length

/** A part of the programme that begins in a visit, as far as it lies there, in ms from the visit's beginning; null when it does not. */
export const rangeInVisit = (visit: Visit, range: TimeRange | null): TimeRange | null =>
  range === null || !isInVisit(visit, range.from)
    ? null
    : { from: range.from - visit.start, to: Math.min(range.to - visit.start, visit.length) }
