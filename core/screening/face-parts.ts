import { dequal } from 'dequal'
import type { Ms, Piece, RecordedPiece, StretchId } from '@core/model'
import { dressingOf, faceDressing, intoSpan, pieceLength, sourceAt } from '@core/programme'
import type { FaceDressing } from '@core/programme'
import { isCoveredAt, overlayTurns } from '@core/scene'
import type { FilmIndex, Track } from '@core/scene'

/** A part of the film in which the face is seen: from `at` on, `from` to `to` of a recording's camera. */
export interface FacePart extends FaceDressing {
  readonly at: Ms
  readonly length: Ms
  readonly stretch: StretchId
  readonly from: Ms
  readonly to: Ms
}

/** Times of a piece at which its face may come or go, from its beginning to its end, in its own time. */
function turnsIn({ overlays }: FilmIndex, piece: RecordedPiece, track: Track, start: Ms): readonly Ms[] {
  const length = pieceLength(piece)
  const inside = track.turns.filter((at) => at > piece.show.from && at < piece.show.to).map((at) => intoSpan(piece.show, at))
  const covered = overlayTurns(overlays, start, start + length).map((at) => at - start)
  return [...new Set([0, ...inside, ...covered, length])].sort((a, b) => a - b)
}

/** Where a piece's face is seen, by itself. */
function facesOfPiece(index: FilmIndex, piece: Piece, start: Ms): readonly FacePart[] {
  const { film, framings, tracks } = index
  if (piece.kind === 'still' || piece.out !== undefined || piece.camera === null) return []
  const { camera, show } = piece
  const track = tracks.get(show.stretch)
  const framing = film.programme.framings[piece.visit] ?? framings.get(piece.slide)
  if (track === undefined || framing === undefined || framing.off) return []
  const turns = turnsIn(index, piece, track, start)
  const dressing = faceDressing(film.programme, piece.visit, camera.stretch)
  return turns.slice(0, -1).flatMap((into, n): readonly FacePart[] => {
    const source = sourceAt(show, into)
    if (track.blankAt(source) || !track.insetAt(source)) return []
    const end = turns[n + 1] ?? into
    if (isCoveredAt(index, start + (into + end) / 2)) return []
    const [from, to] = [sourceAt(camera, into), Math.min(camera.to, sourceAt(camera, end))]
    return to > from ? [{ at: start + into, length: end - into, stretch: camera.stretch, from, to, ...dressing }] : []
  })
}

/** Whether a part goes on from the one before it, at the same rate. */
const goesOn = (last: FacePart, part: FacePart): boolean =>
  last.stretch === part.stretch &&
  last.to === part.from &&
  last.at + last.length === part.at &&
  dequal(dressingOf(last), dressingOf(part)) &&
  (last.to - last.from) * part.length === (part.to - part.from) * last.length

/** When the face is seen in a film, ascending; parts that go on from each other are one. Nothing else of a camera may reach viewers. */
export function faceParts(index: FilmIndex): readonly FacePart[] {
  const parts: FacePart[] = []
  for (const [number, piece] of index.film.programme.pieces.entries()) {
    for (const part of facesOfPiece(index, piece, index.starts[number] ?? 0)) {
      const last = parts.at(-1)
      if (last !== undefined && goesOn(last, part)) parts[parts.length - 1] = { ...last, to: part.to, length: last.length + part.length }
      else parts.push(part)
    }
  }
  return parts
}
