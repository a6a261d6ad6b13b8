import type { VideoFormat } from '@core/model'
import { firstFrames, frameOffsets } from './access-units'
import { COLOURS } from './encoder'
import { ivfFrames, ivfHead, ivfOffsets } from './ivf'

/** A stream of encoded pictures as segments are kept in and joined from. */
export interface Codec {
  /** ffmpeg's name of the stream's own format, which is also the ending of its files. */
  readonly stream: 'h264' | 'ivf'
  /** ffmpeg's names of the finished file's format, and of what its sound is kept in. */
  readonly container: 'mp4' | 'webm'
  readonly sound: string
  /** Whether the file has a place for a picture to be shown for it. */
  readonly cover: boolean
  /** ffmpeg's name of what text is kept in. */
  readonly captions: 'mov_text' | 'webvtt'
  /** What is said of the stream when a film is put together of it, and of the file. */
  readonly input: (fps: number) => readonly string[]
  readonly output: (fps: number) => readonly string[]
  /** Where each frame begins. */
  readonly offsets: (stream: Buffer) => readonly number[]
  /** What stands before the first frame of a film. */
  readonly head: (like: Buffer, fps: number) => Buffer
  /** The first frames of a stream, to follow after `before` frames of the film. @throws RangeError when there are fewer */
  readonly first: (stream: Buffer, offsets: readonly number[], frames: number, before: number) => Buffer
}

/** Ticks a second of an MP4's time stamps: a whole number for each frame at all usual rates. */
const TIMESCALE = 90_000

export const CODECS: Readonly<Record<VideoFormat, Codec>> = {
  mp4: {
    stream: 'h264',
    container: 'mp4',
    sound: 'mov,mp4,m4a,3gp,3g2,mj2',
    cover: true,
    captions: 'mov_text',
    input: (fps) => ['-framerate', String(fps)],
    output: (fps) => [
      '-bsf:v:0',
      `setts=ts=N*${String(TIMESCALE / fps)}`,
      '-video_track_timescale',
      String(TIMESCALE),
      '-movflags',
      '+faststart',
    ],
    offsets: frameOffsets,
    head: () => Buffer.alloc(0),
    first: (stream, offsets, frames) => firstFrames(stream, offsets, frames),
  },
  webm: {
    stream: 'ivf',
    container: 'webm',
    sound: 'matroska,webm',
    cover: false,
    captions: 'webvtt',
    // The frames carry their times.
    input: () => [],
    output: () => ['-cues_to_front', '1', ...COLOURS],
    offsets: ivfOffsets,
    head: ivfHead,
    first: ivfFrames,
  },
}
