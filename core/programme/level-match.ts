import type { Programme, Stretch, StretchId } from '@core/model'
import { heardLoudness, heardTimes } from './heard-loudness'

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
  const mean = heardLoudness(programme, stretches) ?? 0
  return new Map(
    [...heardTimes(programme).keys()].map((stretch) => {
      const loudness = stretches.get(stretch)?.loudness ?? null
      const gain = loudness === null ? 0 : Math.max(-MOST_GAIN, Math.min(MOST_GAIN, mean - loudness))
      return [stretch, Math.round(gain * 10) / 10]
    }),
  )
}
