import type { Ms } from '@core/model'

/** A pause the presenter means to make, written into the notes: `[pause]`, or `[pause 5]` for five seconds. */
const MARK = /\[pause(?:\s+(\d{1,3}))?\]/gi

/** Length of a pause that does not say how long it is. */
export const USUAL_PAUSE: Ms = 2000

/** What stands for a pause in notes. @param seconds left out for the usual one */
export const pauseMark = (seconds?: number): string => (seconds === undefined ? '[pause]' : `[pause ${String(seconds)}]`)

/** All pauses of some notes together. */
export function pausesIn(notes: string): Ms {
  let sum = 0
  for (const match of notes.matchAll(MARK)) sum += match[1] === undefined ? USUAL_PAUSE : Number(match[1]) * 1000
  return sum
}

/** Notes without their pause marks, as they are said. */
export const withoutPauses = (notes: string): string => notes.replace(MARK, ' ')
