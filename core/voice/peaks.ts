/** How many peaks are kept of each second of sound. */
export const PEAKS_A_SECOND = 20

/**
 * The outline of a sound for drawing: the largest amplitude of each twentieth of a second.
 * @param samples sixteen-bit mono samples
 * @param sampleRate samples a second
 * @returns whole numbers from 0 to 255
 */
export function peaksOf(samples: Int16Array, sampleRate: number): readonly number[] {
  const span = sampleRate / PEAKS_A_SECOND
  const count = Math.ceil(samples.length / span)
  return Array.from({ length: count }, (_, n) => {
    let most = 0
    const to = Math.min(samples.length, Math.round((n + 1) * span))
    for (let at = Math.round(n * span); at < to; at += 1) most = Math.max(most, Math.abs(samples[at] ?? 0))
    return Math.min(255, Math.round(most / 128))
  })
}
