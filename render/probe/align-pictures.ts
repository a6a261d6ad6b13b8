import { readFile } from 'node:fs/promises'
import { BEHIND, PRINT_SIZE, pictureAnchor, unpackVideoFingerprint } from '@core/camera'
import type { SmallPicture } from '@core/camera'
import { RECORDING, run } from '@render/process'
import { pictureTimes } from './picture-times'

const PIXELS = PRINT_SIZE.width * PRINT_SIZE.height
const MS = 1000

/** A recording's first pictures, made small. @param until in ms of the recording */
async function firstPictures(raw: string, until: number): Promise<readonly SmallPicture[]> {
  const [times, { stdout }] = await Promise.all([
    pictureTimes(raw, until),
    run('ffmpeg', [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...RECORDING,
      '-t',
      (until / MS).toFixed(3),
      '-i',
      raw,
      '-map',
      '0:v:0',
      // A picture that stayed is not given again.
      '-fps_mode',
      'passthrough',
      '-vf',
      `scale=${String(PRINT_SIZE.width)}:${String(PRINT_SIZE.height)}:flags=area,format=gray`,
      '-f',
      'rawvideo',
      'pipe:1',
    ]),
  ])
  return times.slice(0, Math.floor(stdout.length / PIXELS)).map((at, n) => ({ at, pixels: stdout.subarray(n * PIXELS, (n + 1) * PIXELS) }))
}

/**
 * How a recording's pictures lie to its stretch, by small pictures that the page took of the camera meanwhile.
 * @param raw the recording as it came
 * @param face file of the small pictures
 * @returns ms that a moment stands later in the recording than in the stretch; null when they do not say
 */
export async function alignPictures(raw: string, face: string): Promise<number | null> {
  const print = unpackVideoFingerprint(await readFile(face))
  const last = print?.at(-1)
  if (print == null || last === undefined) return null
  return pictureAnchor(print, await firstPictures(raw, Math.max(0, last.at) + BEHIND))
}
