import { run } from '@render/process'

/** A camera that gives no picture for longer is lost, in ms: in the dark some give only five a second. */
const LOST = 700

/**
 * For how long a recording's camera gave no pictures.
 * @param length of the recording in ms
 * @returns ms; 0 for a recording without pictures
 */
export async function cameraLost(path: string, length: number): Promise<number> {
  const { stdout } = await run('ffprobe', [
    '-v', 'quiet', '-protocol_whitelist', 'file,pipe', '-f', 'matroska,webm', '-select_streams', 'v:0', '-show_entries', 'packet=pts_time', '-of', 'csv=p=0', path,
  ])
  const times = stdout.toString().split('\n').map((line) => Number.parseFloat(line) * 1000).filter((time) => Number.isFinite(time)).sort((a, b) => a - b)
  if (times.length === 0) return 0
  const marks = [Math.min(0, times[0] ?? 0), ...times, length]
  return Math.round(marks.slice(1).reduce((sum, time, n) => {
    const gap = Math.min(time, length) - Math.min(marks[n] ?? 0, length)
    return gap > LOST ? sum + gap : sum
  }, 0))
}
