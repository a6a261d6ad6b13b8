import { dequal } from 'dequal'
import { goesOnFrom, pieceStarts, playedLength, treatmentOf } from '@core/programme'
import type { Ms, Programme, Ratio, Span, StretchId, VoiceTreatment } from '@core/model'

/** A part of the sound: `from` to `to` of a stretch, heard from `at` of the film on. */
export interface VoicePart {
  readonly at: Ms
  readonly length: Ms
  readonly stretch: StretchId
  readonly from: Ms
  readonly to: Ms
  readonly playbackRate: Ratio
  /** How much louder it is played than it was recorded, in dB. */
  readonly gain: number
  /** What is done to it; left out: nothing. */
  readonly treatment?: VoiceTreatment
}

/**
 * A voice that is divided where a picture is ends on a whole millisecond of its own: it may be so much shorter than what it goes with,
 * in ms.
 */
const NEAR: Ms = 2

/** Whether a voice that begins at some time goes on from the part before it, and sounds like it. */
const goesOn = (last: VoicePart, voice: Span, at: Ms, treatment: VoiceTreatment | null): boolean =>
  goesOnFrom({ ...last, rate: last.playbackRate }, voice) &&
  Math.abs(last.at + last.length - at) < NEAR &&
  dequal(last.treatment ?? null, treatment)

/**
 * What is heard, in order.
 * @param gains of recordings, in dB; see `gainsOf`. Pieces that continue each other in one stretch are one part: nothing is joined
 * there.
 */
export function voiceParts(programme: Programme, gains: ReadonlyMap<StretchId, number> = new Map()): readonly VoicePart[] {
  const starts = pieceStarts(programme)
  const parts: VoicePart[] = []
  for (const [index, piece] of programme.pieces.entries()) {
    if (piece.kind === 'still' || piece.out !== undefined || piece.voice === null) continue
    const at = starts[index] ?? 0
    // As long as what it shows, or as long as it lasts.
    const length = Math.min((starts[index + 1] ?? at) - at, playedLength(piece.voice) + NEAR)
    const last = parts.at(-1)
    const treatment = treatmentOf(programme, piece)
    if (last !== undefined && goesOn(last, piece.voice, at, treatment)) {
      parts[parts.length - 1] = { ...last, to: piece.voice.to, length: at + length - last.at }
    } else {
      const { rate: playbackRate, ...heard } = piece.voice
      parts.push({
        at,
        length,
        ...heard,
        playbackRate,
        gain: gains.get(piece.voice.stretch) ?? 0,
        ...(treatment === null ? {} : { treatment }),
      })
    }
  }
  return parts
}
