import { randomLcg } from 'd3'
import { describe, expect, it } from 'vitest'
import { ECHO_RATE, hearsPlayed } from '.'

/** Levels that swell and fade as music or speech does, in dBFS. */
function swelling(seed: number, seconds: number): readonly number[] {
  const random = randomLcg(seed)
  let level = -30
  return Array.from({ length: seconds * ECHO_RATE }, () => (level = Math.max(-55, Math.min(-12, level + (random() - 0.5) * 14))))
}
const together = (played: readonly number[], heard: readonly number[]) =>
  played.map((level, n) => ({ played: level, heard: heard[n] ?? -70 }))

describe('a microphone beside what is played', () => {
  const played = swelling(0.3, 8)
  const room = swelling(0.8, 8).map((level) => level / 20 - 62)

  it('is found to hear it, softer and a little later', () => {
    for (const late of [0, 3, 7]) {
      const heard = played.map((_, n) => Math.max(room[n] ?? -70, (played[n - late] ?? -70) - 18))
      expect(hearsPlayed(together(played, heard))).toBe(true)
    }
  })

  it('is not, where it hears the room alone or somebody who speaks', () => {
    expect(hearsPlayed(together(played, room))).toBe(false)
    for (const seed of [0.11, 0.42, 0.57, 0.73, 0.91]) expect(hearsPlayed(together(played, swelling(seed, 8)))).toBe(false)
  })

  it('says nothing before it was heard for a while', () => {
    expect(hearsPlayed(together(played.slice(0, 40), played.slice(0, 40)))).toBe(false)
  })
})
