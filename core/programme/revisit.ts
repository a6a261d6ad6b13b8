import type { Cue, Ms, Piece, Snapshot, Stretch, StretchId } from '@core/model'
import { intoPiece, pieceLength } from './length'

/** What a new recording of a visit shows: how it opens, and what happens in it. */
export interface Revisit {
  readonly opening: Snapshot
  readonly cues: readonly Cue[]
}

const isSeen = (cue: Cue): boolean => cue.kind !== 'mute' && cue.kind !== 'stumble'

/**
 * All that a visit shows, as a stretch of its own would hold it: steps and ink at their times. For a voice that comes from
 * elsewhere, such as a file.
 * @param pieces of the visit
 * @param snapshot what is on screen at a time of a stretch; see `snapshotAt`
 * @param length of the new stretch, in ms: what would come later is there by its end
 */
export function revisited(pieces: readonly Piece[], stretches: ReadonlyMap<StretchId, Stretch>, snapshot: (stretch: Stretch, at: Ms) => Snapshot, length: Ms): Revisit | null {
  const [first] = pieces
  if (first === undefined) return null
  const begin = first.kind === 'still' ? undefined : stretches.get(first.show.stretch)
  const opening: Snapshot = begin === undefined || first.kind === 'still'
    ? { slide: first.slide, step: first.kind === 'still' ? first.step : 0, blank: false, inset: true, ink: [] }
    : snapshot(begin, first.show.from)
  let at = 0
  const cues: Cue[] = []
  for (const piece of pieces) {
    const start = at
    at += pieceLength(piece)
    if (piece.kind === 'still') continue
    for (const cue of stretches.get(piece.show.stretch)?.cues ?? []) {
      if (cue.at <= piece.show.from || cue.at >= piece.show.to || !isSeen(cue)) continue
      const time = start + intoPiece(cue.at, piece.show.from, piece.rate)
      cues.push({ ...cue, at: Math.min(length, time) })
    }
  }
  return { opening, cues }
}
