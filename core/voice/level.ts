/** What counts as full scale silence: levels below are reported as this. */
export const FLOOR_DB = -96

/** Amplitude (0 to 1) as dBFS. */
export const toDb = (amplitude: number): number => Math.max(FLOOR_DB, 20 * Math.log10(Math.max(amplitude, 1e-9)))

/** Amplitude (0 to 1 at full scale) of a level in dBFS; also how many times as large one is that is so many dB louder. */
export const fromDb = (db: number): number => 10 ** (db / 20)

/** Root mean square of samples between -1 and 1. */
export function rms(samples: Float32Array): number {
  let sum = 0
  for (const sample of samples) sum += sample * sample
  return samples.length === 0 ? 0 : Math.sqrt(sum / samples.length)
}
