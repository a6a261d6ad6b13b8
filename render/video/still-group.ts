import type { Size } from '@core/model'
import { run } from '@render/process'
import { firstFrames, frameOffsets } from './access-units'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import { frameNumberBits, withFrameNumber } from './frame-number'

/**
 * Frames of a still picture that are really encoded. The encoder looks ten frames ahead to see that it stays, and is as fine as it
 * will be after a few.
 */
export const SETTLED = 16

/** Frames that change nothing, by what they are encoded with. */
const known = new Map<string, Promise<Buffer>>()

/** A frame in which nothing changes, as the encoder itself writes it: the second of an empty picture. */
async function encodeUnchanged(frame: Size, rate: number, coding: Coding): Promise<Buffer> {
  const { stdout } = await run('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-f', 'lavfi', '-i', `color=c=0x808080:s=${String(frame.width)}x${String(frame.height)}:r=${String(rate)}`, '-frames:v', '3',
    ...encoderArgs(coding, rate, 1), '-f', 'h264', 'pipe:1',
  ])
  const offsets = frameOffsets(stdout)
  return Buffer.from(stdout.subarray(offsets[1], offsets[2]))
}

/** A frame that leaves the picture before it as it is, for H.264 streams with the same headers. It is made once. */
export function unchangedFrame(frame: Size, rate: number, coding: Coding): Promise<Buffer> {
  const name = JSON.stringify([frame, rate, coding])
  const found = known.get(name) ?? encodeUnchanged(frame, rate, coding)
  known.set(name, found)
  found.catch(() => { known.delete(name) })
  return found
}

/**
 * Lengthens a still picture by frames that change nothing.
 * @param stream of one group, from its beginning, with no more frames than are wanted
 * @param unchanged see `unchangedFrame`
 * @param frames of the group then
 * @throws Error when the stream is not of the kind that our encoder makes
 */
export function lengthened(stream: Buffer, unchanged: Buffer, frames: number): Buffer {
  const offsets = frameOffsets(stream)
  const width = frameNumberBits(stream)
  const more = Array.from({ length: frames - offsets.length }, (_, n) => withFrameNumber(unchanged, width, (offsets.length + n) % 2 ** width))
  return Buffer.concat([firstFrames(stream, offsets, offsets.length), ...more])
}
