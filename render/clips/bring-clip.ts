import { join } from 'node:path'
import { Refusal } from '@core/model'
import type { Ms, Ratio } from '@core/model'
import { ProcessFailed, run, secondsOption } from '@render/process'
import { broughtInput, demuxerOf } from '@render/sound'
import { CLIP_FILE, LONGEST, MOST_CLIP_SIZE, SHORTEST, encodedAs, lookedAt, tooLong, unreadable } from './clip-file'
import type { BroughtClip, ClipNames } from './clip-file'
import { frameRate } from './frame-rate'

/** Whatever else a file is, it is looked at no longer than this, in ms. */
const LOOK: Ms = 30_000

export interface BringClipOptions extends ClipNames {
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
    `scale=w='min(iw,${String(MOST_CLIP_SIZE.width)})':h='min(ih,${String(MOST_CLIP_SIZE.height)})'` +
      ':force_original_aspect_ratio=decrease:force_divisible_by=2:out_color_matrix=bt709:out_range=tv',
    'format=yuv420p',
  ].join(',')

/** Which part of a file is wanted. @throws Refusal when there is too much of it, or hardly anything */
function partArgs({ length, rate }: Claimed, { start, end }: { readonly start: Ms; readonly end: Ms }): readonly string[] {
  const wanted = length - start - end
  if (wanted > LONGEST) throw tooLong()
  if (length > 0 && wanted < SHORTEST && rate === null)
    throw new Refusal('unreadable', 'There is hardly anything to be heard in this file.')
  const most = end > 0 && wanted > 0 ? wanted : LONGEST + 1000
  return [...(start > 0 ? ['-ss', secondsOption(start)] : []), '-t', secondsOption(most)]
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
    const pictures = rate === null ? ['-vn'] : ['-map', '0:V:0', '-vf', filtersFor(rate), ...encodedAs(rate)]
    await run('ffmpeg', [...broughtInput(demuxer, path), '-nostats', ...part, ...pictures, ...CLIP_FILE, made], {
      hold: { time },
      signal,
    })
    return { file, ...(await lookedAt(made, rate, options)) }
  } catch (error) {
    if (error instanceof ProcessFailed) throw unreadable()
    throw error
  }
}
