import type { Ms, Piece, Span } from '@core/model'
import { intoSpan, sourceAt, wholeLength } from './length'

/** A span divided where `into` ms of it have been played; null for a half of which nothing is left. */
function spanHalves(span: Span | null, into: Ms): readonly [Span | null, Span | null] {
  if (span === null) return [null, null]
  const at = Math.max(span.from, Math.min(span.to, Math.round(sourceAt(span, into))))
  return [at > span.from ? { ...span, to: at } : null, at < span.to ? { ...span, from: at } : null]
}

/**
 * Divides a piece at the whole millisecond of what it shows that is nearest to a time.
 * @param into ms of the talk since the piece's beginning
 * @returns both halves, of which one is the whole piece and the other null where the time is nearest to one of its ends
 */
export function halvesOf(piece: Piece, into: Ms): readonly [Piece | null, Piece | null] {
  if (into <= 0) return [null, piece]
  if (into >= wholeLength(piece)) return [piece, null]
  if (piece.kind === 'still') {
    const at = piece.from + Math.round(into)
    if (at <= piece.from) return [null, piece]
    return at >= piece.to
      ? [piece, null]
      : [
          { ...piece, to: at },
          { ...piece, from: at },
        ]
  }
  const [head, tail] = spanHalves(piece.show, into)
  if (head === null || tail === null) return head === null ? [null, piece] : [piece, null]
  // Where the picture is divided the voice and the face are, each at its own rate.
  const divided = intoSpan(piece.show, tail.from)
  const [voice, camera] = [spanHalves(piece.voice, divided), spanHalves(piece.camera, divided)]
  return [
    { ...piece, show: head, voice: voice[0], camera: camera[0] },
    { ...piece, show: tail, voice: voice[1], camera: camera[1] },
  ]
}
