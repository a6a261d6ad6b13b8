import { stat } from 'node:fs/promises'
import type { RenderPlan } from '@core/plan'
import type { Loudness } from '@render/sound'
import { MOST_PEAK, SOUND_CODECS } from '@render/sound'
import { isVideo } from '@core/model'
import type { DeliveryFacts, Ms, VideoFormat } from '@core/model'
import { probe, ratio } from './probe'
import type { Stream } from './probe'

/** What a finished file is held against. */
export interface Expected {
  readonly plan: RenderPlan
  readonly loudness: Loudness
  /** Whether there is to be a track of text in it. */
  readonly captions: boolean
  /** null: no limit is held. */
  readonly limit: Ms | null
}

export type Checked =
  { readonly kind: 'good'; readonly facts: Omit<DeliveryFacts, 'madeIn' | 'encoded'> } | { readonly kind: 'bad'; readonly sentence: string }

/** A file may end so much before its plan or after it, in ms: a packet of sound and a frame. */
const NEAR = 120

const toMs = (seconds: string | undefined): number => Math.round(Number(seconds ?? 0) * 1000)

/** What the pictures of a format are to be. */
const PICTURES: Readonly<Record<VideoFormat, { readonly codec: string; readonly profile: string; readonly said: string }>> = {
  mp4: { codec: 'h264', profile: 'High', said: 'H.264 High' },
  webm: { codec: 'vp9', profile: 'Profile 0', said: 'VP9' },
}

/** What is not as planned in a file's pictures, in words. */
function pictureFaults(video: Stream | undefined, plan: RenderPlan): readonly (string | null)[] {
  if (!isVideo(plan.format)) return []
  if (video === undefined) return ['it has no picture']
  const wanted = PICTURES[plan.format]
  const frames = Number(video.nb_read_packets)
  return [
    frames === plan.frames ? null : `it has ${String(frames)} frames instead of ${String(plan.frames)}`,
    video.width === plan.frame.width && video.height === plan.frame.height
      ? null
      : `its picture is ${String(video.width)} by ${String(video.height)}`,
    video.codec_name === wanted.codec && video.profile === wanted.profile && video.pix_fmt === 'yuv420p' && video.color_space === 'bt709'
      ? null
      : 'its picture is stored in another format than planned',
    ratio(video.avg_frame_rate) === plan.fps && ratio(video.r_frame_rate) === plan.fps ? null : 'its frames do not come at a constant rate',
  ]
}

/** What is not as planned in a file's sound, in words. */
function soundFaults(audio: Stream, { plan, loudness: { truePeak, integrated } }: Expected): readonly (string | null)[] {
  const wanted = SOUND_CODECS[plan.format]
  return [
    audio.codec_name === wanted.name && audio.sample_rate === '48000' ? null : 'its sound is stored in another format than planned',
    truePeak !== null && truePeak > MOST_PEAK ? `its loudest peak is ${String(truePeak)} dBTP` : null,
    integrated !== null && integrated > plan.loudness + 1 ? `it is too loud, ${String(integrated)} LUFS` : null,
  ]
}

/** What is not as planned in a file's length and size, in words. */
function extentFaults(length: Ms, bytes: number, { plan, limit }: Expected): readonly (string | null)[] {
  const most = plan.bits.kind === 'size' && isVideo(plan.format) ? plan.bits.most : Infinity
  return [
    Math.abs(length - plan.length) <= NEAR ? null : `it is ${String(length)} ms long instead of ${String(plan.length)}`,
    limit !== null && length > limit ? `it is ${String(length - limit)} ms over the limit` : null,
    bytes > most ? `it has ${String(bytes - most)} bytes more than it may` : null,
  ]
}

/** What is said of a file's pictures once they are as planned. */
const pictureFacts = ({
  format,
  frame,
  frames,
  fps: rate,
}: RenderPlan): Pick<DeliveryFacts, 'width' | 'height' | 'frames' | 'frameRate' | 'videoCodec'> =>
  isVideo(format)
    ? { width: frame.width, height: frame.height, frames, frameRate: rate, videoCodec: PICTURES[format].said }
    : { width: 0, height: 0, frames: 0, frameRate: 0, videoCodec: '' }

/** Holds a finished file against its plan. What differs is said in words. */
export async function checkFilm(path: string, expected: Expected): Promise<Checked> {
  const { plan, loudness } = expected
  const found = await probe(path)
  // A cover is a stream of pictures as well.
  const video = isVideo(plan.format) ? found.streams.find((stream) => stream.codec_type === 'video') : undefined
  const audio = found.streams.find((stream) => stream.codec_type === 'audio')
  const captions = found.streams.some((stream) => stream.codec_type === 'subtitle')
  if (captions !== expected.captions) {
    return { kind: 'bad', sentence: `The finished file ${captions ? 'has captions that nobody wanted' : 'lacks its captions'}.` }
  }
  if (audio === undefined) return { kind: 'bad', sentence: 'The file lacks its sound.' }
  const { size: bytes } = await stat(path)
  const length = Math.max(toMs(found.format.duration), toMs(video?.duration), toMs(audio.duration))
  const faults = [...pictureFaults(video, plan), ...soundFaults(audio, expected), ...extentFaults(length, bytes, expected)]
  const said = faults.filter((fault) => fault !== null)
  if (said.length > 0) return { kind: 'bad', sentence: `The finished file was checked and is not as planned: ${said.join('; ')}.` }
  return {
    kind: 'good',
    facts: {
      bytes,
      length,
      ...pictureFacts(plan),
      captions,
      audioCodec: SOUND_CODECS[plan.format].said,
      loudness: loudness.integrated,
      truePeak: loudness.truePeak,
    },
  }
}
