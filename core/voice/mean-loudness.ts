import type { Ms } from '@core/model'

/** Something that was heard. */
export interface HeardPart {
  /** In LUFS; null: nothing was to be heard. */
  readonly loudness: number | null
  readonly length: Ms
}

/**
 * The loudness of several parts together: the mean of their powers, each for as long as it lasts (ITU-R BS.1770 adds powers likewise).
 * @returns in LUFS; null when nothing is to be heard in any of them
 */
export function meanLoudness(parts: readonly HeardPart[]): number | null {
  const heard = parts.flatMap(({ loudness, length }) => (loudness === null || length === 0 ? [] : [{ loudness, length }]))
  const time = heard.reduce((sum, part) => sum + part.length, 0)
  return time === 0 ? null : 10 * Math.log10(heard.reduce((sum, part) => sum + part.length * 10 ** (part.loudness / 10), 0) / time)
}
