import type { Ms, Piece, Programme } from '@core/model'
import { halvesOf } from './halves'
import { notBefore, pieceLength } from './length'

/** Pieces that were divided at some times. */
export interface Divided {
  readonly pieces: readonly Piece[]
  /** For each of the times the index of the first piece that is played from then on; the number of pieces when none is. */
  readonly places: readonly number[]
}

/**
 * Divides pieces where times fall inside them, so that each time lies between two. Nothing else changes: what is seen and heard stays
 * the same. A time is found by its place in the list: at another tempo a piece can only be divided where a whole millisecond of its
 * recording is played.
 * @param times programme times in ms, ascending
 */
export function divide({ pieces }: Pick<Programme, 'pieces'>, times: readonly Ms[]): Divided {
  const out: Piece[] = []
  const places: number[] = []
  let start = 0
  for (const piece of pieces) {
    const length = pieceLength(piece)
    let rest: Piece | null = piece
    let from = start
    while (piece.out === undefined && places.length < times.length) {
      const at: Ms = times[places.length] ?? 0
      if (notBefore(at, start + length)) break
      if (rest !== null && !notBefore(from, at)) {
        const [head, tail]: readonly [Piece | null, Piece | null] = halvesOf(rest, at - from)
        if (head !== null) {
          out.push(head)
          from += pieceLength(head)
        }
        rest = tail
      }
      places.push(out.length)
    }
    if (rest !== null) out.push(rest)
    start += length
  }
  while (places.length < times.length) places.push(out.length)
  return { pieces: out, places: firstPlayed(out, places) }
}

/** Places moved on over pieces that were cut. */
function firstPlayed(pieces: readonly Piece[], places: readonly number[]): readonly number[] {
  return places.map((place) => {
    let at = place
    while (at < pieces.length && pieces[at]?.out !== undefined) at += 1
    return at
  })
}
