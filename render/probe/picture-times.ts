import { RECORDING, run } from '@render/process'

/**
 * When a recording's pictures come.
 * @param until only of so much of it, in ms
 * @returns ms of the recording, in order
 */
export async function pictureTimes(path: string, until?: number): Promise<readonly number[]> {
  const { stdout } = await run('ffprobe', [
    '-v',
    'quiet',
    ...RECORDING,
    '-select_streams',
    'v:0',
    ...(until === undefined ? [] : ['-read_intervals', `%${(until / 1000).toFixed(3)}`]),
    '-show_entries',
    'packet=pts_time',
    '-of',
    'csv=p=0',
    path,
  ])
  return stdout
    .toString()
    .split('\n')
    .map((line) => Number.parseFloat(line) * 1000)
    .filter((time) => Number.isFinite(time))
    .sort((a, b) => a - b)
}
