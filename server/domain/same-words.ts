import { timingSafeEqual } from 'node:crypto'

/** Whether two words are the same, in a time that tells nothing of where they differ. */
export function sameWords(one: string, other: string): boolean {
  const [a, b] = [Buffer.from(one), Buffer.from(other)]
  return a.length === b.length && timingSafeEqual(a, b)
}
