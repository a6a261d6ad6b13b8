import { spanLength } from '@core/model'
import { meanLoudness } from '@core/voice'
import type { Ms, Programme, Stretch, StretchId } from '@core/model'

/** Most that a recording is raised or lowered to meet the others, in dB: more would bring its room along. */
const MOST_GAIN = 10

/**
 * How much louder each recording has to be played so that all of a talk are equally loud, as if said in one go: a retake on another day
 * meets its neighbours. All are brought to the mean of what the talk holds, each for as long as it is heard.
 * @returns dB for each stretch that is heard, to a tenth; 0 where its loudness is not known
 */
export function gainsOf(
  programme: Programme,
  stretches: ReadonlyMap<StretchId, Pick<Stretch, 'loudness'>>,
): ReadonlyMap<StretchId, number> {
  const heard = new Map<StretchId, Ms>()
  for (const piece of programme.pieces) {
    if (piece.kind === 'still' || piece.voice === null || piece.out !== undefined) continue
    heard.set(piece.voice.stretch, (heard.get(piece.voice.stretch) ?? 0) + spanLength(piece.voice))
  }
  const loudnessOf = (stretch: StretchId): number | null => stretches.get(stretch)?.loudness ?? null
  const mean = meanLoudness([...heard].map(([stretch, length]) => ({ loudness: loudnessOf(stretch), length }))) ?? 0
  return new Map(
    [...heard.keys()].map((stretch) => {
      const loudness = loudnessOf(stretch)
      const gain = loudness === null ? 0 : Math.max(-MOST_GAIN, Math.min(MOST_GAIN, mean - loudness))
      return [stretch, Math.round(gain * 10) / 10]
    }),
  )
}
