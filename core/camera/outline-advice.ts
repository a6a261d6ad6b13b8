import { lightnessOf } from './light'
import { OUTLINE_CERTAINTY } from './presenter-outline'

/** What would help to tell who is before a camera from what is behind. */
export const OUTLINE_ADVICES = ['nobody', 'dark', 'alike', 'doubtful'] as const
export type OutlineAdvice = (typeof OUTLINE_ADVICES)[number]

/** Somebody covers at least so much of a picture. */
const LEAST_COVERED = 0.04
/** Darker than this, of 255, a face is hard to tell. */
const DARK = 62
/** Pixels of doubt, as a share of those that show somebody: edges alone are less. */
const MOST_DOUBT = 0.16
/** Colours closer than this, of 255, are alike. */
const ALIKE = 34

interface Sum {
  count: number
  r: number
  g: number
  b: number
}
const nothing = (): Sum => ({ count: 0, r: 0, g: 0, b: 0 })
const mean = ({ count, r, g, b }: Sum): readonly [number, number, number] => [r / count, g / count, b / count]

interface Looks {
  readonly somebody: Sum
  readonly room: Sum
  /** Pixels of which it is not sure what they show. */
  readonly doubt: number
}

function looksOf(outline: Uint8Array, pixels: Uint8Array): Looks {
  const [somebody, room] = [nothing(), nothing()]
  let doubt = 0
  for (const [n, value] of outline.entries()) {
    if (value > OUTLINE_CERTAINTY.not && value < OUTLINE_CERTAINTY.yes) doubt += 1
    const sum = value >= OUTLINE_CERTAINTY.yes ? somebody : room
    sum.count += 1
    sum.r += pixels[n * 3] ?? 0
    sum.g += pixels[n * 3 + 1] ?? 0
    sum.b += pixels[n * 3 + 2] ?? 0
  }
  return { somebody, room, doubt }
}

/**
 * What stands in the way of a clean outline, the worst first; nothing where none does.
 * @param outline how surely each pixel shows somebody, 0 to 255, row by row
 * @param pixels red, green and blue of the same picture, a byte each
 */
export function outlineAdvice(outline: Uint8Array, pixels: Uint8Array): readonly OutlineAdvice[] {
  const { somebody, room, doubt } = looksOf(outline, pixels)
  if (somebody.count < outline.length * LEAST_COVERED) return ['nobody']
  const [own, behind] = [mean(somebody), mean(room)]
  const apart = room.count === 0 ? ALIKE : Math.hypot(own[0] - behind[0], own[1] - behind[1], own[2] - behind[2])
  const found: Readonly<Record<Exclude<OutlineAdvice, 'nobody'>, boolean>> = {
    dark: lightnessOf(...own) < DARK,
    alike: apart < ALIKE,
    doubtful: doubt > somebody.count * MOST_DOUBT,
  }
  return OUTLINE_ADVICES.filter((advice) => advice !== 'nobody' && found[advice])
}
