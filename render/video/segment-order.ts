import { GOP_FRAMES } from '@core/plan'
import type { Run, Segment } from '@core/plan'
import type { Size } from '@core/model'
import type { CameraFile } from './camera-frames'
import type { Coding } from './encoder'

/** A segment that is to be made. */
export interface SegmentOrder {
  readonly segment: Segment
  readonly runs: readonly Run[]
  readonly size: Size
  /** Of the finished picture. */
  readonly frame: Size
  readonly fps: number
  readonly coding: Coding
  /** How much others are let go first, 0 to 19. */
  readonly niceness: number
  readonly camera: CameraFile | null
  /** File for the encoded frames; it is whole when it has been made. */
  readonly out: string
  /** Is given the frame last made, small, as JPEG, every two seconds of film. */
  readonly onLook: ((picture: Buffer) => void) | null
  readonly signal?: AbortSignal
  readonly onFrames: (frames: number) => void
}

/** Frames of a segment's own stream. A still picture is one group, which is repeated when the film is joined. */
export const framesOfStream = (segment: Segment): number =>
  segment.kind === 'still' ? Math.min(segment.frames, GOP_FRAMES) : segment.drawn
