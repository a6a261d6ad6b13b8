import { spanLength } from '@core/model'
import { meanLoudness } from '@core/voice'
import type { Ms, Programme, Stretch, StretchId } from '@core/model'

/** How long each recording is heard in a programme, in ms. */
export function heardTimes(programme: Pick<Programme, 'pieces'>): ReadonlyMap<StretchId, Ms> {
  const heard = new Map<StretchId, Ms>()
  for (const piece of programme.pieces) {
    if (piece.kind === 'still' || piece.voice === null || piece.out !== undefined) continue
    heard.set(piece.voice.stretch, (heard.get(piece.voice.stretch) ?? 0) + spanLength(piece.voice))
  }
  return heard
}

/** How loud a programme's recordings are together, in LUFS; null when that is not known of any. */
export const heardLoudness = (
  programme: Pick<Programme, 'pieces'>,
  stretches: ReadonlyMap<StretchId, Pick<Stretch, 'loudness'>>,
): number | null =>
  meanLoudness([...heardTimes(programme)].map(([stretch, length]) => ({ loudness: stretches.get(stretch)?.loudness ?? null, length })))
