/** A number of bytes in words, in powers of a thousand, as file managers and upload forms count. */
export function fileSize(bytes: number): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB']
  let value = bytes
  let unit = 0
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000
    unit += 1
  }
  return `${value >= 10 || unit === 0 ? String(Math.round(value)) : value.toFixed(1)} ${units[unit] ?? ''}`
}
