import type { Ms, Piece, Programme, Span, StretchId } from '@core/model'
import { asId } from '@core/model'
import { headOf, tailOf } from './halves'
import { pieceLength } from './length'

/** A voice that was recorded over what a programme shows. */
export interface DubStretch {
  readonly id: StretchId
  readonly length: Ms
  readonly camera: boolean
}

/** A part of the recording that is heard over a piece: as long as what the piece shows, from `into` ms on. */
const over = (piece: Piece & { kind: 'recorded' }, stretch: StretchId, into: Ms): Span =>
  ({ stretch, from: into, to: into + piece.show.to - piece.show.from })

/** Cuts pieces in two where they pass a time. */
function cutAt(pieces: readonly Piece[], at: Ms): readonly [readonly Piece[], readonly Piece[]] {
  const before: Piece[] = []
  const after: Piece[] = []
  let start = 0
  for (const piece of pieces) {
    const head = headOf(piece, at - start)
    const tail = tailOf(piece, at - start)
    if (head !== null) before.push(head)
    if (tail !== null) after.push(head === null ? tail : { ...tail, id: asId(`${tail.id}+${String(at - start)}`) })
    start += pieceLength(piece)
  }
  return [before, after]
}

/**
 * Puts a new voice over what is shown already. Pictures, steps, ink and their times stay; the old camera goes from that
 * part unless a new one was recorded with the voice, so that no mouth moves to other words. A part that is held without
 * a recording stays without a voice. What reaches past the programme's end is not heard.
 * @param at programme time in ms at which the first stretch begins; the next one follows where it ends
 */
export function dub(programme: Programme, at: Ms, stretches: readonly DubStretch[]): Programme {
  let [done, rest] = cutAt(programme.pieces, at)
  for (const stretch of stretches) {
    const [under, later] = cutAt(rest, stretch.length)
    let into = 0
    const voiced = under.map((piece): Piece => {
      const from = into
      into += pieceLength(piece)
      if (piece.kind === 'still') return piece
      const voice = over(piece, stretch.id, from)
      return { ...piece, voice, camera: stretch.camera ? voice : null }
    })
    done = [...done, ...voiced]
    rest = later
  }
  return { ...programme, pieces: [...done, ...rest], revision: programme.revision + 1 }
}
