/** What counts as full scale silence: levels below are reported as this. */
export const FLOOR_DB = -96

/** Amplitude (0 to 1) as dBFS. */
export const toDb = (amplitude: number): number => Math.max(FLOOR_DB, 20 * Math.log10(Math.max(amplitude, 1e-9)))

/** Root mean square of samples between -1 and 1. */
export function rms(samples: Float32Array): number {
  let sum = 0
  for (const sample of samples) sum += sample * sample
  return samples.length === 0 ? 0 : Math.sqrt(sum / samples.length)
}
