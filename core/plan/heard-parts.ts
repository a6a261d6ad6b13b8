import { intoSpan } from '@core/programme'
import type { TimeRange } from '@core/programme'
import type { FilmIndex } from '@core/scene'
import type { Ms, RecordedPiece, Span, Stretch, StretchId } from '@core/model'

/** Parts this near are one, in ms. */
const NEAR: Ms = 60

type Voiced = RecordedPiece & { readonly voice: Span }

/** Index of the first part that ends after a time. @param parts in order, apart from each other */
function firstAfter(parts: readonly TimeRange[], at: Ms): number {
  let [low, high] = [0, parts.length]
  while (low < high) {
    const middle = (low + high) >>> 1
    if ((parts[middle]?.to ?? Infinity) <= at) low = middle + 1
    else high = middle
  }
  return low
}

/** Parts of a voice, given in its stretch's time and in order, as they lie in the talk; what lies outside the piece is left out. */
function inTalk({ voice }: Voiced, start: Ms, parts: readonly TimeRange[]): readonly TimeRange[] {
  const out: TimeRange[] = []
  for (let n = firstAfter(parts, voice.from); n < parts.length; n += 1) {
    const part = parts[n]
    if (part === undefined || part.from >= voice.to) break
    out.push({ from: start + intoSpan(voice, Math.max(part.from, voice.from)), to: start + intoSpan(voice, Math.min(part.to, voice.to)) })
  }
  return out
}

/** Parts that touch become one. */
function together(parts: readonly TimeRange[]): readonly TimeRange[] {
  const out: { from: Ms, to: Ms }[] = []
  for (const part of [...parts].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1)
    if (last !== undefined && part.from - last.to <= NEAR) last.to = Math.max(last.to, part.to)
    else out.push({ ...part })
  }
  return out
}

/** The pieces of a talk in which a voice is heard, each with when it begins in the talk. */
export const heardPieces = ({ film, starts }: FilmIndex): readonly { readonly piece: Voiced, readonly start: Ms }[] =>
  film.programme.pieces.flatMap((piece, n) => (piece.kind === 'recorded' && piece.out === undefined && piece.voice !== null ? [{ piece: { ...piece, voice: piece.voice }, start: starts[n] ?? 0 }] : []))

/**
 * Parts of the voices as they lie in the talk, in order; those that touch are one, also over the end of a piece.
 * @param of which parts of a stretch's voice, in its own time, in order and apart from each other; asked once for each stretch
 */
export function heardParts(index: FilmIndex, of: (stretch: Stretch) => readonly TimeRange[]): readonly TimeRange[] {
  const known = new Map<StretchId, readonly TimeRange[]>()
  return together(heardPieces(index).flatMap(({ piece, start }) => {
    const id = piece.voice.stretch
    const stretch = index.film.stretches.get(id)
    const parts = known.get(id) ?? (stretch === undefined ? [] : of(stretch))
    known.set(id, parts)
    return inTalk(piece, start, parts)
  }))
}
