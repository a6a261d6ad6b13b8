import { filter } from '@render/filters'

/** Samples a second of all voice that is kept and made. */
export const SAMPLE_RATE = 48_000

/** Sixteen-bit mono samples, as the voice of a stretch is kept. */
export const BYTES_A_SAMPLE = 2

/** Has ffmpeg read such samples from its standard input. */
export const SAMPLES_IN: readonly string[] = ['-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', 'pipe:0']

/** Has ffmpeg write such samples to its standard output. */
export const SAMPLES_OUT: readonly string[] = ['-ac', '1', '-ar', String(SAMPLE_RATE), '-f', 's16le', 'pipe:1']

export const samplesOf = (ms: number): number => Math.round((ms * SAMPLE_RATE) / 1000)

/**
 * Filter for decoding a recording: gaps in the sound are kept as silence and its first time stamp is obeyed; plain decoding would close
 * both up.
 */
export const DECODE = [filter('aresample', [48_000], { async: 1, min_hard_comp: 0.03, first_pts: 0 })] as const
