import type { Ms } from '@core/model'
import type { AudioCodec, Bounds, VideoCodec } from './rules'

/** Seconds as a clock shows them, with a tenth where they are no whole ones. */
export const secondsInWords = (seconds: number): string => {
  const whole = Math.floor(seconds)
  const rest = Math.round((seconds - whole) * 10)
  const text = `${String(Math.floor(whole / 60))}:${String(whole % 60).padStart(2, '0')}`
  return rest === 0 || rest === 10 ? text : `${text}.${String(rest)}`
}
/** A length as a clock shows it. @param length in ms; never shown shorter than it is */
export const clockOf = (length: Ms): string => secondsInWords(Math.ceil(length / 100) / 10)

/** Bytes as people say them. */
export const megabytes = (bytes: number): string => `${String(Number((bytes / 1e6).toPrecision(3)))} MB`

/** Bounds in words, such as “720 to 1080”, “at least 720” or “at most 1080”. @param say one of the bounds */
export function boundsInWords({ least, most }: Bounds, say: (value: number) => string = String): string {
  if (least !== undefined && most !== undefined) return least === most ? say(least) : `${say(least)} to ${say(most)}`
  if (least !== undefined) return `at least ${say(least)}`
  return most === undefined ? 'any' : `at most ${say(most)}`
}

/** A list in words: “a, b or c”. */
export const orOf = (items: readonly string[]): string =>
  items.length < 2 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} or ${items.at(-1) ?? ''}`

const CODEC_NAMES: Readonly<Record<VideoCodec | AudioCodec, string>> = {
  h264: 'H.264',
  hevc: 'HEVC',
  vp8: 'VP8',
  vp9: 'VP9',
  av1: 'AV1',
  mpeg4: 'MPEG-4 part 2',
  aac: 'AAC',
  opus: 'Opus',
  vorbis: 'Vorbis',
  mp3: 'MP3',
  pcm: 'PCM',
}
/** What a codec is called. @param codec null: one that rules cannot name */
export const codecName = (codec: VideoCodec | AudioCodec | null): string => (codec === null ? 'another codec' : CODEC_NAMES[codec])

/** Words as a sentence begins. */
export const begun = (words: string): string => words.slice(0, 1).toUpperCase() + words.slice(1)
