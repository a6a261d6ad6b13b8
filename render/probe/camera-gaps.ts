/** A camera that gives no picture for longer is lost, in ms: in the dark some give only five a second. */
const LOST = 700

/** What a recording's camera gave: for how long it gave no pictures, and when it gave the last; in ms. */
export interface CameraSeen {
  readonly lost: number
  /** 0 for a recording without pictures */
  readonly until: number
}

/**
 * What a camera gave, by when its pictures come.
 * @param times ms of the stretch, in order
 * @param length of the stretch in ms
 */
export function cameraSeen(times: readonly number[], length: number): CameraSeen {
  if (times.length === 0) return { lost: 0, until: 0 }
  const marks = [0, ...times, length]
  const lost = marks.slice(1).reduce((sum, time, n) => {
    const gap = Math.min(time, length) - Math.min(marks[n] ?? 0, length)
    return gap > LOST ? sum + gap : sum
  }, 0)
  return { lost: Math.round(lost), until: times.at(-1) ?? 0 }
}
