import { join } from 'node:path'
import { Refusal } from '@core/model'
import type { ClipPicture, Ms, Ratio, Size } from '@core/model'
import { OWN_CLIP, run, secondsOption } from '@render/process'
import { probe } from '@render/probe'
import type { Stream } from '@render/probe'
import { measureFile } from '@render/sound'

/** Longest film or sound that is taken, and what there must be of it. */
export const LONGEST: Ms = 3_600_000
export const SHORTEST: Ms = 200
/** Pictures are kept no larger. */
export const MOST_CLIP_SIZE: Size = { width: 1920, height: 1080 }
/** As wide as small pictures of slides are. */
const THUMB_WIDTH = 320

/** Where what is made is put, and what its names begin with. */
export interface ClipNames {
  readonly out: string
  readonly name: string
  /** Which of its moments is its still picture, in ms; left out: its first. */
  readonly posterAt?: Ms
}

/** A film or a sound made ready, in files of a folder. */
export interface BroughtClip {
  readonly file: string
  readonly length: Ms
  readonly picture: (Omit<ClipPicture, 'poster'> & { readonly poster: string; readonly thumb: string }) | null
  readonly sound: boolean
  /** LUFS; null: it has no sound, or hardly any. */
  readonly loudness: number | null
}

export const unreadable = (): Refusal =>
  new Refusal('unreadable', 'This is no film or sound that can be read. Bring MP4, MOV, WebM, GIF, MP3, WAV, M4A, Ogg or FLAC.')

export const tooLong = (): Refusal =>
  new Refusal('too-large', 'This is longer than an hour. Cut out the part that is wanted, and bring that.')

/** How pictures are encoded. Groups are short and have no B-frames: browsers and the export begin anywhere at once. */
export const encodedAs = (rate: Ratio): readonly string[] => [
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-bf', '0'],
  ...['-g', String(Math.max(8, Math.round(rate.num / rate.den / 2))), '-pix_fmt', 'yuv420p'],
  ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
]

/** The first sound, if there is one, and the file itself, which says nothing of where it comes from. */
export const CLIP_FILE: readonly string[] = [
  ...['-map', '0:a:0?', '-af', 'aresample=48000:async=1:first_pts=0', '-ac', '1', '-c:a', 'aac', '-b:a', '160k'],
  ...['-sn', '-dn', '-map_metadata', '-1', '-map_chapters', '-1', '-movflags', '+faststart', '-f', 'mp4', '-y'],
]

/** What came out of making it. */
async function factsOf(path: string): Promise<{ readonly length: Ms; readonly video: Stream | undefined; readonly sound: boolean }> {
  const { streams, format } = await probe(path)
  const video = streams.find((stream) => stream.codec_type === 'video')
  const sound = streams.some((stream) => stream.codec_type === 'audio')
  return { length: Math.floor(Number(format.duration ?? 0) * 1000), video, sound }
}

/** Draws a picture of a film as JPEG, at most so wide. @param at in ms */
async function drawAt(film: string, at: Ms, out: string, width: number): Promise<void> {
  const scale = `scale=w='min(iw,${String(width)})':h=-2:out_range=pc,format=yuvj420p`
  const input = ['-hide_banner', '-loglevel', 'error', ...OWN_CLIP, '-ss', secondsOption(at), '-i', film]
  await run('ffmpeg', [...input, '-map', '0:v:0', '-frames:v', '1', '-vf', scale, '-q:v', '3', '-f', 'image2', '-update', '1', '-y', out])
}

/** How long a film is by its pictures, and what is said of them; null when there are none. */
async function pictureOf(film: string, video: Stream, rate: Ratio, { out, name, posterAt = 0 }: ClipNames) {
  const frames = Number(video.nb_read_packets ?? 0)
  if (frames < 1) return null
  const [poster, thumb] = [`${name}-poster.jpg`, `${name}-thumb.jpg`]
  await drawAt(film, posterAt, join(out, poster), MOST_CLIP_SIZE.width)
  await drawAt(film, posterAt, join(out, thumb), THUMB_WIDTH)
  const size = { width: video.width ?? 2, height: video.height ?? 2 }
  return { length: Math.floor((frames * rate.den * 1000) / rate.num), picture: { size, rate, poster, thumb } }
}

/** Looks at what was made. @throws Refusal when it is too long, or nothing can be seen or heard of it */
export async function lookedAt(made: string, rate: Ratio | null, names: ClipNames): Promise<Omit<BroughtClip, 'file'>> {
  const { length: all, video, sound } = await factsOf(made)
  const seen = video === undefined || rate === null ? null : await pictureOf(made, video, rate, names)
  const length = seen?.length ?? all
  if (length > LONGEST) throw tooLong()
  if (seen === null && (!sound || length < SHORTEST)) throw unreadable()
  const loudness = sound ? (await measureFile(made)).integrated : null
  return { length: Math.max(1, length), picture: seen?.picture ?? null, sound, loudness }
}
