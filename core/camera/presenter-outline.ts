/** Of an outline's values, 0 to 255: at most the first surely shows nobody, from the second on it surely shows somebody. */
export const OUTLINE_CERTAINTY = { not: 84, yes: 164 } as const
/** What stands apart is somebody too when it is so large, as a share of the largest: two may present. */
const ALSO_SOMEBODY = 0.3

/** Pixels that hang together with one, all of them seen; they are marked with a number. @returns how many */
function markedFrom(start: number, number: number, outline: Uint8Array, marks: Int32Array, width: number): number {
  const open = [start]
  marks[start] = number
  let count = 0
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    count += 1
    const x = at % width
    const beside = [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width]
    for (const next of beside) {
      if (next < 0 || next >= outline.length || marks[next] !== 0 || (outline[next] ?? 0) <= OUTLINE_CERTAINTY.not) continue
      marks[next] = number
      open.push(next)
    }
  }
  return count
}

/**
 * An outline without what was mistaken for somebody: things on a wall that stand apart and are small.
 * @param outline how surely each pixel shows somebody, 0 to 255, row by row
 * @returns as many values
 */
export function presenterOutline(outline: Uint8Array, width: number): Uint8Array {
  const marks = new Int32Array(outline.length)
  const counts = [0]
  for (const [at, value] of outline.entries())
    if (value > OUTLINE_CERTAINTY.not && marks[at] === 0) counts.push(markedFrom(at, counts.length, outline, marks, width))
  const least = Math.max(...counts) * ALSO_SOMEBODY
  return outline.map((value, at) => {
    const mark = marks[at] ?? 0
    return mark > 0 && (counts[mark] ?? 0) < least ? 0 : value
  })
}
