import type { Size } from '@core/model'
import { run } from '@render/process'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import { headersOf } from './stream-headers'
import type { StreamHeaders } from './stream-headers'

/** By what they belong to. */
const known = new Map<string, Promise<StreamHeaders>>()

/**
 * The headers of every stream that is encoded alike, whatever is seen in it. They are taken from an empty picture, once.
 * @throws UnsupportedBitstream when the encoder writes others than it usually does
 */
export function headersAlike(frame: Size, fps: number, coding: Coding): Promise<StreamHeaders> {
  const name = JSON.stringify([frame, fps, coding])
  const found =
    known.get(name) ??
    run('ffmpeg', [
      '-hide_banner',
      '-loglevel',
      'error',
      '-f',
      'lavfi',
      '-i',
      `color=c=0x808080:s=${String(frame.width)}x${String(frame.height)}:r=${String(fps)}`,
      '-frames:v',
      '1',
      ...encoderArgs(coding, fps, 1),
      '-f',
      'h264',
      'pipe:1',
    ]).then(({ stdout }) => headersOf(stdout))
  known.set(name, found)
  found.catch(() => {
    known.delete(name)
  })
  return found
}
