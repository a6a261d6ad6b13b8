import { distance } from 'fastest-levenshtein'

/** How alike two words or runs of words sound, 0 to 1, by how much of one has to be changed to make the other: phones or letters. */
export function alike(one: string, other: string): number {
  const longest = Math.max(one.length, other.length)
  return longest === 0 ? 1 : 1 - distance(one, other) / longest
}
