import { intoSpan, rangesUnited } from '@core/programme'
import type { TimeRange } from '@core/programme'
import { lastNotAfter } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import type { Ms, RecordedPiece, Span, Stretch, StretchId } from '@core/model'

/** Parts this near are one, in ms. */
const NEAR: Ms = 60

/** A piece in which a voice is heard. */
export type Voiced = RecordedPiece & { readonly voice: Span }

/** Parts of a stretch's voice in its own time, in order and apart from each other, and when each ends. */
interface Known {
  readonly parts: readonly TimeRange[]
  readonly ends: readonly Ms[]
}

/** Parts of a voice as they lie in the talk; what lies outside the piece is left out. */
function inTalk({ voice }: Voiced, start: Ms, { parts, ends }: Known): readonly TimeRange[] {
  const out: TimeRange[] = []
  for (let n = lastNotAfter(ends, voice.from) + 1; n < parts.length; n += 1) {
    const part = parts[n]
    if (part === undefined || part.from >= voice.to) break
    out.push({ from: start + intoSpan(voice, Math.max(part.from, voice.from)), to: start + intoSpan(voice, Math.min(part.to, voice.to)) })
  }
  return out
}

/** The pieces of a talk in which a voice is heard, each with when it begins in the talk. */
export const heardPieces = ({ film, starts }: FilmIndex): readonly { readonly piece: Voiced; readonly start: Ms }[] =>
  film.programme.pieces.flatMap((piece, n) =>
    piece.kind === 'recorded' && piece.out === undefined && piece.voice !== null
      ? [{ piece: { ...piece, voice: piece.voice }, start: starts[n] ?? 0 }]
      : [],
  )

/**
 * Parts of the voices as they lie in the talk, in order; those that touch are one, also over the end of a piece.
 * @param of which parts of a stretch's voice, in its own time, in order and apart from each other; asked once for each stretch
 */
export function heardParts(index: FilmIndex, of: (stretch: Stretch) => readonly TimeRange[]): readonly TimeRange[] {
  const known = new Map<StretchId, Known>()
  const knownOf = (id: StretchId): Known => {
    const stretch = index.film.stretches.get(id)
    const parts = stretch === undefined ? [] : of(stretch)
    return { parts, ends: parts.map(({ to }) => to) }
  }
  const parts = heardPieces(index).flatMap(({ piece, start }) => {
    const found = known.get(piece.voice.stretch) ?? knownOf(piece.voice.stretch)
    known.set(piece.voice.stretch, found)
    return inTalk(piece, start, found)
  })
  return rangesUnited(parts, NEAR)
}
