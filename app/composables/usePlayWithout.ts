import type { Ref } from 'vue'
import type { Ms } from '@core/model'

interface Part {
  readonly from: Ms
  readonly to: Ms
}

/** What is heard before and after something that may go, in ms. */
const AROUND: Ms = 1500
/** A seek that lands so much before it is somebody's who wants to be elsewhere, in ms. */
const ELSEWHERE: Ms = 500

/**
 * Plays the film around a part of it: as it is, and as it would be without.
 * @param at where the film stands
 * @param playFrom plays it from a time on
 */
export function usePlayWithout(at: Readonly<Ref<Ms>>, playFrom: (time: Ms) => void) {
  const begin = ({ from }: Part): Ms => Math.max(0, from - AROUND)
  /** What is passed over for as long as the film is played around it. */
  const passed = shallowRef<Part | null>(null)
  watch(at, (now) => {
    const part = passed.value
    if (part === null) return
    if (now >= part.from && now < part.to) playFrom(part.to)
    else if (now < begin(part) - ELSEWHERE || now > part.to + AROUND) passed.value = null
  })
  return {
    playWith: (part: Part): void => {
      passed.value = null
      playFrom(begin(part))
    },
    playWithout: (part: Part): void => {
      playFrom(begin(part))
      passed.value = part
    },
  }
}
