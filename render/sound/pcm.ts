/** Samples a second of all voice that is kept and made. */
export const SAMPLE_RATE = 48_000

/** Sixteen-bit mono samples, as the voice of a stretch is kept. */
export const BYTES_A_SAMPLE = 2

export const samplesOf = (ms: number): number => Math.round((ms * SAMPLE_RATE) / 1000)
