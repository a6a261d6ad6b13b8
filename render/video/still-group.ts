import type { Size } from '@core/model'
import { run } from '@render/process'
import { frameOffsets } from './access-units'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import { withFrameNumber } from './frame-number'
import { headersOf } from './stream-headers'

/**
 * Frames of a still picture that are really encoded. The encoder looks ten frames ahead to see that it stays, and is as fine as it
 * will be after a few.
 */
export const SETTLED = 16

/** Streams of an empty picture, by what they are encoded with. */
const known = new Map<string, Promise<Buffer>>()

/** Three frames of an empty picture: its headers are those of all streams that are encoded alike. It is made once. */
export function emptyStream(frame: Size, rate: number, coding: Coding): Promise<Buffer> {
  const name = JSON.stringify([frame, rate, coding])
  const found = known.get(name) ?? run('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-f', 'lavfi', '-i', `color=c=0x808080:s=${String(frame.width)}x${String(frame.height)}:r=${String(rate)}`, '-frames:v', '3',
    ...encoderArgs(coding, rate, 1), '-f', 'h264', 'pipe:1',
  ]).then(({ stdout }) => stdout)
  known.set(name, found)
  found.catch(() => { known.delete(name) })
  return found
}

/** A frame that leaves the picture before it as it is, for streams with the same headers: the second of an empty picture. */
export async function unchangedFrame(frame: Size, rate: number, coding: Coding): Promise<Buffer> {
  const stream = await emptyStream(frame, rate, coding)
  const offsets = frameOffsets(stream)
  return stream.subarray(offsets[1], offsets[2])
}

/**
 * Lengthens a still picture by frames that change nothing.
 * @param stream of one group, from its beginning, with no more frames than are wanted
 * @param unchanged see `unchangedFrame`
 * @param frames of the group then
 * @throws UnlikeOurs when the stream is not of the kind that our encoder makes
 */
export function lengthened(stream: Buffer, unchanged: Buffer, frames: number): Buffer {
  const offsets = frameOffsets(stream)
  const { numberBits: width } = headersOf(stream)
  const more = Array.from({ length: frames - offsets.length }, (_, n) => withFrameNumber(unchanged, width, (offsets.length + n) % 2 ** width))
  return Buffer.concat([stream, ...more])
}
