import { stat } from 'node:fs/promises'
import type { RenderPlan } from '@core/plan'
import type { Loudness } from '@render/sound'
import { MOST_PEAK, TARGET_LUFS } from '@render/sound'
import type { DeliveryFacts, Ms } from '@core/model'
import { probe, ratio } from './probe'

/** What a finished file is held against. */
export interface Expected {
  readonly plan: RenderPlan
  readonly loudness: Loudness
  /** null: no limit is held. */
  readonly limit: Ms | null
}

export type Checked =
  | { readonly kind: 'good', readonly facts: Omit<DeliveryFacts, 'madeIn' | 'encoded'> }
  | { readonly kind: 'bad', readonly sentence: string }

const toMs = (seconds: string | undefined): number => Math.round(Number(seconds ?? 0) * 1000)

/** Holds a finished film against its plan. What differs is said in words. */
export async function checkFilm(path: string, expected: Expected): Promise<Checked> {
  const { plan, loudness } = expected
  const found = await probe(path)
  const video = found.streams.find((stream) => stream.codec_type === 'video')
  const audio = found.streams.find((stream) => stream.codec_type === 'audio')
  if (video === undefined || audio === undefined) return { kind: 'bad', sentence: 'The file lacks its picture or its sound.' }
  const frames = Number(video.nb_read_packets)
  const length = Math.max(toMs(found.format.duration), toMs(video.duration), toMs(audio.duration))
  const faults = [
    frames === plan.frames ? null : `it has ${String(frames)} frames instead of ${String(plan.frames)}`,
    video.width === plan.size.width && video.height === plan.size.height ? null : `its picture is ${String(video.width)} by ${String(video.height)}`,
    video.codec_name === 'h264' && video.profile === 'High' && video.pix_fmt === 'yuv420p' && video.color_space === 'bt709' ? null : 'its picture is stored in another format than planned',
    audio.codec_name === 'aac' && audio.sample_rate === '48000' ? null : 'its sound is stored in another format than planned',
    ratio(video.avg_frame_rate) === plan.rate && ratio(video.r_frame_rate) === plan.rate ? null : 'its frames do not come at a constant rate',
    expected.limit !== null && length > expected.limit ? `it is ${String(length - expected.limit)} ms over the limit` : null,
    loudness.truePeak !== null && loudness.truePeak > MOST_PEAK ? `its loudest peak is ${String(loudness.truePeak)} dBTP` : null,
    loudness.integrated !== null && loudness.integrated > TARGET_LUFS + 1 ? `it is too loud, ${String(loudness.integrated)} LUFS` : null,
  ].filter((fault) => fault !== null)
  if (faults.length > 0) return { kind: 'bad', sentence: `The finished file was checked and is not as planned: ${faults.join('; ')}.` }
  return {
    kind: 'good',
    facts: {
      bytes: (await stat(path)).size,
      length,
      width: plan.size.width,
      height: plan.size.height,
      frames,
      frameRate: plan.rate,
      videoCodec: 'H.264 High',
      audioCodec: 'AAC-LC, 48 kHz',
      loudness: loudness.integrated,
      truePeak: loudness.truePeak,
    },
  }
}
