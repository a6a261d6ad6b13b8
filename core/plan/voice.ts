import { pieceStarts } from '@core/programme'
import type { Ms, Programme, Ratio, StretchId } from '@core/model'

/** A part of the sound: `from` to `to` of a stretch, heard from `at` of the film on. */
export interface VoicePart {
  readonly at: Ms
  readonly length: Ms
  readonly stretch: StretchId
  readonly from: Ms
  readonly to: Ms
  readonly rate: Ratio
  /** How much louder it is played than it was recorded, in dB. */
  readonly gain: number
}

/** What is heard, in order. @param gains of recordings, in dB; see `gainsOf`. Pieces that continue each other in one stretch are one part: nothing is joined there. */
export function voiceParts(programme: Programme, gains: ReadonlyMap<StretchId, number> = new Map()): readonly VoicePart[] {
  const starts = pieceStarts(programme)
  const parts: VoicePart[] = []
  for (const [index, piece] of programme.pieces.entries()) {
    if (piece.kind === 'still' || piece.voice === null) continue
    const at = starts[index] ?? 0
    const length = (starts[index + 1] ?? at) - at
    const last = parts.at(-1)
    if (last !== undefined && last.rate.num * piece.rate.den === piece.rate.num * last.rate.den
      && last.stretch === piece.voice.stretch && last.to === piece.voice.from && last.at + last.length === at) {
      parts[parts.length - 1] = { ...last, to: piece.voice.to, length: last.length + length }
    } else {
      parts.push({ at, length, ...piece.voice, rate: piece.rate, gain: gains.get(piece.voice.stretch) ?? 0 })
    }
  }
  return parts
}
