import { join } from 'node:path'
import { Refusal } from '@core/model'
import type { ClipPicture, Ms, Ratio, Size } from '@core/model'
import { OWN_CLIP, ProcessFailed, run, secondsOption } from '@render/process'
import { probe } from '@render/probe'
import type { Stream } from '@render/probe'
import { broughtInput, demuxerOf, measureFile } from '@render/sound'
import { frameRate } from './frame-rate'

/** Longest film or sound that is taken, and what there must be of it. */
const LONGEST: Ms = 3_600_000
const SHORTEST: Ms = 200
/** Pictures are kept no larger. */
const MOST: Size = { width: 1920, height: 1080 }
/** As wide as small pictures of slides are. */
const THUMB_WIDTH = 320
/** Whatever else a file is, it is looked at no longer than this, in ms. */
const LOOK: Ms = 30_000

const unreadable = (): Refusal =>
  new Refusal('unreadable', 'This is no film or sound that can be read. Bring MP4, MOV, WebM, GIF, MP3, WAV, M4A, Ogg or FLAC.')

const tooLong = (): Refusal => new Refusal('too-large', 'This film is longer than an hour. Cut out the part that is shown, and bring that.')

/** A film or a sound made ready, in files of a folder. */
export interface BroughtClip {
  readonly file: string
  readonly length: Ms
  readonly picture: (Omit<ClipPicture, 'poster'> & { readonly poster: string; readonly thumb: string }) | null
  readonly sound: boolean
  /** LUFS; null: it has no sound, or hardly any. */
  readonly loudness: number | null
}

export interface BringClipOptions {
  /** Folder for what is made. */
  readonly out: string
  /** Begins the names of what is made. */
  readonly name: string
  /** How much is left away at its beginning and at its end, in ms. */
  readonly trim?: { readonly start: Ms; readonly end: Ms }
  /** ms that making it may take */
  readonly time: number
  readonly signal?: AbortSignal
}

/** What a file says that it holds. It is asked as the kind that it is. */
interface Claimed {
  readonly length: Ms
  readonly rate: Ratio | null
  readonly sound: boolean
}

async function claimsOf(path: string, demuxer: string): Promise<Claimed> {
  const what = ['-show_entries', 'format=duration:stream=codec_type,avg_frame_rate,r_frame_rate:stream_disposition=attached_pic']
  const { stdout } = await run('ffprobe', [...broughtInput(demuxer, path), ...what, '-of', 'json'], { hold: { time: LOOK } })
  const said = JSON.parse(stdout.toString()) as {
    readonly format?: { readonly duration?: string }
    readonly streams?: readonly {
      readonly codec_type?: string
      readonly avg_frame_rate?: string
      readonly r_frame_rate?: string
      readonly disposition?: { readonly attached_pic?: number }
    }[]
  }
  const streams = said.streams ?? []
  // A cover is no moving picture.
  const moving = streams.find((stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1)
  return {
    length: Math.round(Number(said.format?.duration ?? 0) * 1000) || 0,
    rate: moving === undefined ? null : frameRate(moving.avg_frame_rate ?? '', moving.r_frame_rate ?? ''),
    sound: streams.some((stream) => stream.codec_type === 'audio'),
  }
}

/** Square pixels, upright, in the colours of television, and no larger than is of any use. */
const filtersFor = ({ num, den }: Ratio): string =>
  [
    `fps=${String(num)}/${String(den)}:start_time=0`,
    'scale=w=iw*sar:h=ih',
    'setsar=1',
    `scale=w='min(iw,${String(MOST.width)})':h='min(ih,${String(MOST.height)})'` +
      ':force_original_aspect_ratio=decrease:force_divisible_by=2:out_color_matrix=bt709:out_range=tv',
    'format=yuv420p',
  ].join(',')

/** Groups are short and have no B-frames: browsers and the export begin anywhere at once. */
const picturesArgs = (rate: Ratio): readonly string[] => [
  ...['-map', '0:V:0', '-vf', filtersFor(rate), '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-bf', '0'],
  ...['-g', String(Math.max(8, Math.round(rate.num / rate.den / 2))), '-pix_fmt', 'yuv420p'],
  ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
]

const SOUND: readonly string[] = [
  ...['-map', '0:a:0?', '-af', 'aresample=48000:async=1:first_pts=0', '-ac', '1', '-c:a', 'aac', '-b:a', '160k'],
]

const OURS: readonly string[] = ['-sn', '-dn', '-map_metadata', '-1', '-map_chapters', '-1', '-movflags', '+faststart', '-f', 'mp4', '-y']

/** What came out of making it. */
async function factsOf(path: string): Promise<{ readonly length: Ms; readonly video: Stream | undefined; readonly sound: boolean }> {
  const { streams, format } = await probe(path)
  const video = streams.find((stream) => stream.codec_type === 'video')
  const sound = streams.some((stream) => stream.codec_type === 'audio')
  return { length: Math.floor(Number(format.duration ?? 0) * 1000), video, sound }
}

/** Draws the first picture of a film as JPEG, at most so wide. */
async function drawFirst(film: string, out: string, width: number): Promise<void> {
  const scale = `scale=w='min(iw,${String(width)})':h=-2:out_range=pc,format=yuvj420p`
  const input = ['-hide_banner', '-loglevel', 'error', ...OWN_CLIP, '-i', film]
  await run('ffmpeg', [...input, '-map', '0:v:0', '-frames:v', '1', '-vf', scale, '-q:v', '3', '-f', 'image2', '-update', '1', '-y', out])
}

/** How long a film is by its pictures, and what is said of them; null when there are none. */
async function pictureOf(film: string, video: Stream, rate: Ratio, { out, name }: BringClipOptions) {
  const frames = Number(video.nb_read_packets ?? 0)
  if (frames < 1) return null
  const [poster, thumb] = [`${name}-poster.jpg`, `${name}-thumb.jpg`]
  await drawFirst(film, join(out, poster), MOST.width)
  await drawFirst(film, join(out, thumb), THUMB_WIDTH)
  const size = { width: video.width ?? 2, height: video.height ?? 2 }
  return { length: Math.floor((frames * rate.den * 1000) / rate.num), picture: { size, rate, poster, thumb } }
}

/** Which part of a file is wanted. @throws Refusal when there is too much of it, or hardly anything */
function partArgs({ length, rate }: Claimed, { start, end }: { readonly start: Ms; readonly end: Ms }): readonly string[] {
  const wanted = length - start - end
  if (wanted > LONGEST) throw tooLong()
  if (length > 0 && wanted < SHORTEST && rate === null)
    throw new Refusal('unreadable', 'There is hardly anything to be heard in this file.')
  const most = end > 0 && wanted > 0 ? wanted : LONGEST + 1000
  return [...(start > 0 ? ['-ss', secondsOption(start)] : []), '-t', secondsOption(most)]
}

/** Looks at what was made. @throws Refusal when it is too long, or nothing can be seen or heard of it */
async function lookedAt(made: string, rate: Ratio | null, options: BringClipOptions): Promise<Omit<BroughtClip, 'file'>> {
  const { length: all, video, sound } = await factsOf(made)
  const seen = video === undefined || rate === null ? null : await pictureOf(made, video, rate, options)
  const length = seen?.length ?? all
  if (length > LONGEST) throw tooLong()
  if (seen === null && (!sound || length < SHORTEST)) throw unreadable()
  const loudness = sound ? (await measureFile(made)).integrated : null
  return { length: Math.max(1, length), picture: seen?.picture ?? null, sound, loudness }
}

const AS_IT_IS = { start: 0, end: 0 } as const

/**
 * Makes a clip of a film, a moving picture or a sound of any common kind: MP4 that every browser plays, at a constant rate, upright. What
 * the file says of itself is not believed, and nothing that it names is opened.
 * @throws Refusal `unreadable` or `too-large`
 */
export async function bringClip(path: string, options: BringClipOptions): Promise<BroughtClip> {
  const { out, name, time, signal } = options
  const demuxer = await demuxerOf(path)
  if (demuxer === null) throw unreadable()
  const file = `${name}.mp4`
  const made = join(out, file)
  try {
    const claimed = await claimsOf(path, demuxer)
    const { rate, sound } = claimed
    if (rate === null && !sound) throw unreadable()
    const part = partArgs(claimed, options.trim ?? AS_IT_IS)
    const pictures = rate === null ? ['-vn'] : picturesArgs(rate)
    await run('ffmpeg', [...broughtInput(demuxer, path), '-nostats', ...part, ...pictures, ...SOUND, ...OURS, made], {
      hold: { time },
      signal,
    })
    return { file, ...(await lookedAt(made, rate, options)) }
  } catch (error) {
    if (error instanceof ProcessFailed) throw unreadable()
    throw error
  }
}
