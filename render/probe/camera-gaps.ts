import { pictureTimes } from './picture-times'

/** A camera that gives no picture for longer is lost, in ms: in the dark some give only five a second. */
const LOST = 700

/** What a recording's camera gave: for how long it gave no pictures, and when it gave the last; in ms. */
export interface CameraSeen {
  readonly lost: number
  /** 0 for a recording without pictures */
  readonly until: number
}

/**
 * Looks at when a recording's pictures come.
 * @param length of the recording in ms
 */
export async function cameraSeen(path: string, length: number): Promise<CameraSeen> {
  const times = await pictureTimes(path)
  if (times.length === 0) return { lost: 0, until: 0 }
  const marks = [Math.min(0, times[0] ?? 0), ...times, length]
  const lost = marks.slice(1).reduce((sum, time, n) => {
    const gap = Math.min(time, length) - Math.min(marks[n] ?? 0, length)
    return gap > LOST ? sum + gap : sum
  }, 0)
  return { lost: Math.round(lost), until: times.at(-1) ?? 0 }
}
