import { Refusal } from '@core/model'
import { RECORDING, run } from '@render/process'

/** Longest side of a camera's pictures: none that a browser records from has more. */
const LONGEST_SIDE = 4096

/**
 * Looks how large a recording's pictures say they are, before any is unpacked.
 * @throws Refusal `too-large` in words for the person
 */
export async function checkPictureSize(recording: string): Promise<void> {
  const { stdout } = await run('ffprobe', ['-v', 'quiet', ...RECORDING, '-select_streams', 'v', '-show_entries', 'stream=width,height', '-of', 'csv=p=0', recording])
  const sides = stdout.toString().split(/[\s,]+/).map(Number).filter((side) => side > 0)
  if (Math.max(0, ...sides) > LONGEST_SIDE) {
    throw new Refusal('too-large', `The camera's pictures in this recording are ${sides.join(' by ')} pixels; up to ${String(LONGEST_SIDE)} a side can be played. The recording is kept as it came.`)
  }
}
