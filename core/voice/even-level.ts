/** What is so much softer than speech is no speech, in dB. */
const BELOW_SPEECH = 15
/** Steps on either side that decide how loud is spoken at one: 2.5 s. */
const REACH = 25
/** How much is raised and lowered at most, in dB, and how much of what is asked for. */
const MOST = 8
const SHARE = 0.85
/** Steps over which the gain is smoothed, on either side: it changes slowly, and nobody hears it pump. */
const SMOOTH = 12

const powerOf = (db: number): number => 10 ** (db / 10)
const dbOf = (power: number): number => 10 * Math.log10(power)

/**
 * How loud is spoken: the mean power of steps, gated as loudness is, so that pauses do not count.
 * @param levels of steps, in dBFS @returns in dBFS; null: nothing is to be heard
 */
export function speechLevel(levels: readonly number[]): number | null {
  const heard = levels.filter((level) => level > -70)
  const mean = (values: readonly number[]): number => dbOf(values.reduce((sum, db) => sum + powerOf(db), 0) / values.length)
  if (heard.length === 0) return null
  const gate = mean(heard) - BELOW_SPEECH
  return mean(heard.filter((level) => level >= gate))
}

/** How loud is spoken around each step: a mean that counts what is nearer more; where nobody speaks for long, as before. */
function around(levels: readonly number[], target: number): readonly number[] {
  const gate = target - BELOW_SPEECH
  let last = target
  return levels.map((_, n) => {
    let [sum, weights] = [0, 0]
    for (let at = Math.max(0, n - REACH); at <= Math.min(levels.length - 1, n + REACH); at += 1) {
      const level = levels[at] ?? -120
      if (level < gate) continue
      const weight = REACH + 1 - Math.abs(at - n)
      sum += weight * powerOf(level)
      weights += weight
    }
    if (weights > 0) last = dbOf(sum / weights)
    return last
  })
}

const smoothed = (values: readonly number[]): Float32Array =>
  Float32Array.from(values, (_, n) => {
    const near = values.slice(Math.max(0, n - SMOOTH), n + SMOOTH + 1)
    return near.reduce((sum, value) => sum + value, 0) / near.length
  })

/**
 * By how much each step of a voice is raised or lowered, so that soft sentences are heard as loud ones are.
 * @param levels of steps of 100 ms, in dBFS
 * @returns dB for each; 0 where nobody ever speaks
 */
export function evenGains(levels: readonly number[]): Float32Array {
  const target = speechLevel(levels)
  if (target === null) return new Float32Array(levels.length)
  const gains = around(levels, target).map((level) => Math.max(-MOST, Math.min(MOST, (target - level) * SHARE)))
  return smoothed(gains)
}
