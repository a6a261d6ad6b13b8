import type { Drawing, Ms, ObjectMotion, StepStart } from '@core/model'

/** A motion with the times between which it goes on, in ms from the beginning of its step. */
export interface TimedMotion {
  readonly motion: ObjectMotion
  readonly from: Ms
  readonly to: Ms
}

/** The motions of a step in the order of their list, with their times. */
function timed(motions: readonly ObjectMotion[]): readonly TimedMotion[] {
  /** When the last one could begin, and when it is over. */
  let last = { begins: 0, ends: 0 }
  return motions.map((motion, n) => {
    let begins = 0
    if (n > 0 && motion.start === 'together') begins = last.begins
    if (n > 0 && motion.start === 'after') begins = last.ends
    const from = begins + motion.delay
    last = { begins, ends: from + motion.duration }
    return { motion, from, to: last.ends }
  })
}

const known = new WeakMap<Drawing['motions'], ReadonlyMap<number, readonly TimedMotion[]>>()

/** All motions of a drawing by their steps. */
export function motionsByStep({ motions }: Pick<Drawing, 'motions'>): ReadonlyMap<number, readonly TimedMotion[]> {
  const found = known.get(motions)
  if (found !== undefined) return found
  const steps = new Map<number, ObjectMotion[]>()
  for (const motion of motions) {
    const there = steps.get(motion.step)
    if (there === undefined) steps.set(motion.step, [motion])
    else there.push(motion)
  }
  const made = new Map([...steps].map(([step, list]) => [step, timed(list)]))
  known.set(motions, made)
  return made
}

const NONE: readonly TimedMotion[] = []

/** The motions of a step, as they begin in their list. */
export const motionsOf = (drawing: Pick<Drawing, 'motions'>, step: number): readonly TimedMotion[] =>
  motionsByStep(drawing).get(step) ?? NONE

/** How long something moves after a step began, in ms; 0: nothing does. */
export const movesFor = (drawing: Pick<Drawing, 'motions'> | undefined, step: number): Ms =>
  drawing === undefined ? 0 : motionsOf(drawing, step).reduce((last, { to }) => Math.max(last, to), 0)

/** How long after its step began the next one begins by itself, in ms; null: it waits for the presenter. */
export function beginsAfter(drawing: Drawing | undefined, step: number): Ms | null {
  const start: StepStart | undefined = drawing?.starts.find((one) => one.step === step + 1)
  if (start === undefined) return null
  return start.wait + (start.after === 'ended' ? movesFor(drawing, step) : 0)
}
