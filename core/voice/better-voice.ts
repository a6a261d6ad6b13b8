import type { VoiceFacts } from './voice-facts'

/** How far a voice stands out of its room, in dB; null: nobody speaks, or there is no room to be heard. */
export const aboveRoom = ({ speech, noise }: Pick<VoiceFacts, 'speech' | 'noise'>): number | null =>
  speech === null || noise === null ? null : speech - noise

/** What is less is no difference that anybody hears, in dB. */
const HEARD = 3
/** A room that is not recorded at all is as good as one that is so far below. */
const SILENT_ROOM = 80
/** So much standing out of the room hum costs, for each dB of it over what is heard. */
const HUM = { heard: 8, share: 0.5 } as const

function worth(facts: VoiceFacts): number | null {
  if (facts.speech === null) return null
  const hum = Math.max(0, (facts.hum?.by ?? 0) - HUM.heard) * HUM.share
  return Math.min(SILENT_ROOM, aboveRoom(facts) ?? SILENT_ROOM) - hum
}

/**
 * Which of several microphones hears a voice best: by how far it stands out of the room, and by what hums.
 * @returns its place among them; null: they are alike, or nobody spoke
 */
export function betterVoice(all: readonly VoiceFacts[]): number | null {
  const worths = all.map(worth)
  const spoken = worths.flatMap((one, n) => (one === null ? [] : [{ n, worth: one }])).sort((a, b) => b.worth - a.worth)
  const [best, next] = spoken
  if (best === undefined) return null
  return next === undefined || best.worth - next.worth >= HEARD ? best.n : null
}
