import type { Caption, Ms } from '@core/model'

/** A time as caption files say it. @param mark between seconds and their thousandths */
function timeText(at: Ms, mark: string): string {
  const two = (value: number): string => String(Math.floor(value)).padStart(2, '0')
  const part = String(Math.round(at) % 1000).padStart(3, '0')
  return `${two(at / 3_600_000)}:${two((at / 60_000) % 60)}:${two((at / 1000) % 60)}${mark}${part}`
}

/** Text that cannot be taken for markup, nor for the arrow between times (WebVTT, section 4.2.2). */
const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/** Captions as WebVTT (W3C). */
export const webVtt = (captions: readonly Caption[]): string =>
  [
    'WEBVTT',
    ...captions.map(({ from, until, lines }) => `${timeText(from, '.')} --> ${timeText(until, '.')}\n${lines.map(escaped).join('\n')}`),
  ].join('\n\n') + '\n'

/** Captions as SubRip. */
export const subRip = (captions: readonly Caption[]): string =>
  captions
    .map(({ from, until, lines }, n) => `${String(n + 1)}\n${timeText(from, ',')} --> ${timeText(until, ',')}\n${lines.join('\n')}\n`)
    .join('\n')
