import { Refusal } from '@core/model'
import { ProcessFailed, RECORDING, run } from '@render/process'

/** Longest side of a camera's pictures: none that a browser records from has more. */
const LONGEST_SIDE = 4096

/**
 * Looks whether a recording can be read, and how large its pictures say they are, before any is unpacked.
 * @returns whether there are pictures in it
 * @throws Refusal `unreadable` or `too-large` in words for the person
 */
export async function checkRecording(recording: string): Promise<boolean> {
  const { stdout } = await run('ffprobe', [
    '-v',
    'quiet',
    ...RECORDING,
    '-select_streams',
    'v',
    '-show_entries',
    'stream=width,height',
    '-of',
    'csv=p=0',
    recording,
  ]).catch((error: unknown) => {
    // One that was killed may have been able to.
    if (error instanceof ProcessFailed && error.exitCode !== null)
      throw new Refusal('unreadable', 'What was recorded here cannot be read. It is kept on the server as it came.')
    throw error
  })
  const sides = stdout
    .toString()
    .split(/[\s,]+/)
    .map(Number)
    .filter((side) => side > 0)
  if (Math.max(0, ...sides) > LONGEST_SIDE) {
    throw new Refusal(
      'too-large',
      `The camera's pictures in this recording are ${sides.join(' by ')} pixels; up to ${String(LONGEST_SIDE)} a side can be ` +
        `played. The recording is kept as it came.`,
    )
  }
  return sides.length > 0
}
