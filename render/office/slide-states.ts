import type { ClipStart, Rect, Transition } from '@core/model'
import type { ClickState, EffectTarget, OfficeFinding, OfficeTimeline } from '@core/office'
import type { SlideTiming } from './effects'
import type { OfficeState } from './office-deck'

/** Longest path that is kept, in signs. */
const LONGEST_PATH = 4000

/** The states of a slide as they are kept. @param boxOf where a target stands, in fractions of the slide; null where nothing says so */
export const officeStates = (states: readonly ClickState[], boxOf: (target: EffectTarget) => Rect | null): readonly OfficeState[] =>
  states.map(({ clicks, soft, motions }) => ({
    clicks,
    soft,
    motions: motions.flatMap(({ target, path, duration }) => {
      const box = boxOf(target)
      return box === null ? [] : [{ box, path: path.slice(0, LONGEST_PATH), duration }]
    }),
  }))

/** How a slide comes, and whether that is one of our ways. */
export interface SlideTransition {
  readonly transition: Transition
  readonly known: boolean
}

/** @param kind as its file calls it; null: it cuts @param like those that ours are like */
export function transitionLike(kind: string | null, like: Readonly<Record<string, Transition>>): SlideTransition {
  if (kind === null) return { transition: 'cut', known: true }
  const transition = like[kind]
  return transition === undefined ? { transition: 'fade', known: false } : { transition, known: true }
}

/** What of a slide's movement is not in the talk as it was in the file. */
export const movementFindings = (
  slide: number,
  { found }: SlideTiming,
  states: readonly ClickState[],
  { known }: SlideTransition,
): readonly OfficeFinding[] => [
  ...[...found].map((kind) => ({ kind, slide })),
  ...(states.some(({ motions }) => motions.length > 0) ? [{ kind: 'path', slide } as const] : []),
  ...(known ? [] : [{ kind: 'transition', slide } as const]),
]

/**
 * When something that plays does so: by itself as its slide comes, or by a click.
 * @returns which of the states is the first that has it, and what starts it there
 */
export function playOf(
  target: EffectTarget,
  { opening }: OfficeTimeline,
  states: readonly ClickState[],
): { readonly state: number; readonly start: ClipStart } {
  const plays = opening.some((effect) => effect.does === 'play' && effect.target === target)
  const state = Math.max(
    0,
    states.findIndex(({ hidden }) => !hidden.has(target)),
  )
  return { state, start: plays ? 'step' : 'click' }
}
