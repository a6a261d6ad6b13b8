/** A length of time as `m:ss`, or `h:mm:ss` past an hour. @param ms rounded to the second */
export function duration(ms: number): string {
  const all = Math.max(0, Math.round(ms / 1000))
  const seconds = String(all % 60).padStart(2, '0')
  const minutes = Math.floor(all / 60) % 60
  const hours = Math.floor(all / 3600)
  return hours > 0 ? `${String(hours)}:${String(minutes).padStart(2, '0')}:${seconds}` : `${String(minutes)}:${seconds}`
}

/** `m:ss.t`, as Review shows it. */
export function preciseDuration(ms: number): string {
  const tenths = Math.floor(Math.max(0, ms) / 100)
  return `${String(Math.floor(tenths / 600))}:${String(Math.floor(tenths / 10) % 60).padStart(2, '0')}.${String(tenths % 10)}`
}

/**
 * Reads a time somebody typed: `90` and `90s` are seconds, `1:30` minutes and seconds, `1:30.5` half a second more, `2m` minutes.
 * @returns ms, or null when it cannot be read
 */
export function readDuration(text: string): number | null {
  const plain = text.trim().toLowerCase()
  const clock = /^(?:(\d{1,2}):)?(\d{1,3}):([0-5]?\d(?:[.,]\d{1,3})?)$/.exec(plain)
  if (clock !== null) {
    const seconds = Number((clock[3] ?? '').replace(',', '.'))
    return Math.round(((Number(clock[1] ?? 0) * 60 + Number(clock[2])) * 60 + seconds) * 1000)
  }
  const unit = /^(\d+(?:[.,]\d+)?)\s*(s|sec|m|min)?$/.exec(plain)
  if (unit === null) return null
  const value = Number((unit[1] ?? '').replace(',', '.'))
  return Math.round(value * (unit[2]?.startsWith('m') === true ? 60_000 : 1000))
}

/** About how long something takes, in words. */
export function roughTime(ms: number): string {
  const seconds = ms / 1000
  if (seconds < 10) return 'a few seconds'
  if (seconds < 55) return `about ${String(Math.round(seconds / 5) * 5)} s`
  return `about ${String(Math.max(1, Math.round(seconds / 60)))} min`
}
