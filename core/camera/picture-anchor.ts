import { median } from 'd3'
import type { Ms } from '@core/model'
import type { SmallPicture } from './video-fingerprint'

/** Farthest that a recording's pictures are looked for before and behind where their stretch has them. */
const BEFORE: Ms = 1500
export const BEHIND: Ms = 1000
/** A picture's neighbour in time that is farther away is another picture. */
const NEAR: Ms = 20
/** Places are tried in steps of this. */
const STEP: Ms = 8
/** Places nearer to each other than this are the same. */
const SAME: Ms = 12
/** The place that is found is to fit so much better than any other, as a part of how well it fits. */
const BETTER = 0.12
/** Less of a difference than this is none, where a picture's spread is 1. */
const LITTLE = 1e-5
/** So many of the pictures are to stand for one another, as a part of all: what comes again and again would else fit with a few. */
const MOST_OF_THEM = 0.6
/** Fewer pictures than this say nothing. */
const FEWEST = 8

/**
 * Pictures whose lightness has been brought to a mean of 0 and a spread of 1 over all of them: a recording stores it otherwise than a
 * page draws it.
 */
function levelled(pictures: readonly SmallPicture[]): readonly { readonly at: number; readonly pixels: Float32Array }[] {
  let [sum, squares, count] = [0, 0, 0]
  for (const { pixels } of pictures) {
    for (const pixel of pixels) {
      sum += pixel
      squares += pixel * pixel
    }
    count += pixels.length
  }
  const mean = sum / Math.max(1, count)
  const spread = Math.sqrt(Math.max(1e-6, squares / Math.max(1, count) - mean * mean))
  return pictures.map(({ at, pixels }) => ({ at, pixels: Float32Array.from(pixels, (pixel) => (pixel - mean) / spread) }))
}

/** Mean of squares of what two pictures differ by. */
function difference(a: Float32Array, b: Float32Array): number {
  let sum = 0
  for (let n = 0; n < a.length; n += 1) sum += ((a[n] ?? 0) - (b[n] ?? 0)) ** 2
  return sum / a.length
}

/** Index of the picture nearest to a time, of pictures in order; -1 when none is near. */
function nearest(pictures: readonly { readonly at: number }[], at: number): number {
  let [low, high] = [0, pictures.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((pictures[middle]?.at ?? 0) < at) low = middle + 1
    else high = middle
  }
  const away = (n: number): number => Math.abs((pictures[n]?.at ?? Infinity) - at)
  const n = away(low - 1) <= away(low) ? low - 1 : low
  return away(n) <= NEAR ? n : -1
}

/**
 * Where a recording's pictures stand in their stretch: small pictures whose times are known are found again among the
 * recording's own, by the place at which all of them together differ least (sum of squared differences).
 * @param print taken while the stretch began, in order, in ms of the stretch
 * @param media the recording's first pictures, in order, in ms of the recording
 * @returns ms that a moment stands later in the recording than in the stretch; null when the pictures do not say, as
 * those of a room in which nothing moves
 */
export function pictureAnchor(print: readonly SmallPicture[], media: readonly SmallPicture[]): number | null {
  if (print.length < FEWEST || media.length < FEWEST) return null
  const [prints, film] = [levelled(print), levelled(media)]
  const known = new Map<number, number>()
  const differ = (p: number, m: number): number => {
    const key = p * film.length + m
    const found = known.get(key) ?? difference(prints[p]?.pixels ?? new Float32Array(), film[m]?.pixels ?? new Float32Array())
    known.set(key, found)
    return found
  }
  /** How badly prints fit at a place: all of them, or every other one; and where the pictures that then stand for each other put it. */
  const fitAt = (place: number, part: 'all' | 0 | 1): { readonly off: number; readonly offset: number } => {
    const pairs = prints.flatMap(({ at }, p): (readonly [number, number])[] => {
      const m = part !== 'all' && p % 2 !== part ? -1 : nearest(film, at + place)
      return m === -1 ? [] : [[p, m]]
    })
    const least = (part === 'all' ? prints.length : prints.length / 2) * MOST_OF_THEM
    return {
      off: pairs.length < least ? Infinity : pairs.reduce((sum, [p, m]) => sum + differ(p, m), 0) / pairs.length,
      offset: median(pairs, ([p, m]) => (film[m]?.at ?? 0) - (prints[p]?.at ?? 0)) ?? 0,
    }
  }
  const places = Array.from({ length: Math.floor((BEFORE + BEHIND) / STEP) + 1 }, (_, n) => n * STEP - BEFORE)
  const bestOf = (
    part: 'all' | 0 | 1,
  ): { readonly place: number; readonly offset: number; readonly off: number; readonly next: number } => {
    const fits = places.map((place) => ({ place, ...fitAt(place, part) }))
    const best = fits.reduce((least, one) => (one.off < least.off ? one : least), { place: 0, offset: 0, off: Infinity })
    return { ...best, next: Math.min(...fits.filter(({ offset }) => Math.abs(offset - best.offset) > SAME).map(({ off }) => off)) }
  }
  const whole = bestOf('all')
  if (!Number.isFinite(whole.off) || whole.next - whole.off < Math.max(BETTER * whole.off, LITTLE)) return null
  // Every other picture alone finds no place that suits it better. (Those of a mere flash may suit some others as well.)
  const agrees = ([0, 1] as const).every((part) => fitAt(whole.place, part).off <= bestOf(part).off * (1 + BETTER) + LITTLE)
  return agrees ? whole.offset : null
}
