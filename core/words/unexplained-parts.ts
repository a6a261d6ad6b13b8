import type { Ms, Said, Word } from '@core/model'
import type { TimeRange } from '@core/voice'
import { SURE_AS_WRITTEN } from './align'

/** Shorter parts are a word or two among others, in ms. */
const SHORTEST: Ms = 500
/** Parts nearer to each other than this are one. */
const NEAR: Ms = 700

/** As few written words among others are chance: whoever knows only what is written hears it everywhere. */
const CHANCE = 2

/** What a word says of whether something was read: it is not written; it stands for what was badly heard; it was heard as written. */
type Evidence = 'heard' | 'settled' | 'agrees'

function evidenceOf({ source, sure }: Word): Evidence {
  if (source === 'heard') return 'heard'
  return sure < SURE_AS_WRITTEN ? 'settled' : 'agrees'
}

/** Neighbouring words of one kind, by the place of the first and of the one after the last. */
interface Run {
  readonly kind: Evidence
  readonly from: number
  readonly to: number
}

function runsOf(words: readonly Word[]): readonly Run[] {
  const runs: Run[] = []
  words.forEach((word, n) => {
    const kind = evidenceOf(word)
    const last = runs.at(-1)
    if (last?.kind === kind) runs[runs.length - 1] = { ...last, to: n + 1 }
    else runs.push({ kind, from: n, to: n + 1 })
  })
  return runs
}

/** Whether reading comes to an end at a run's neighbour: nothing is there, or nothing written, or as much was badly heard as agrees. */
const endsAt = (run: Run, neighbour: Run | undefined): boolean =>
  neighbour?.kind !== 'settled' || neighbour.to - neighbour.from >= run.to - run.from

/** Whether words are taken for something else than what is written: those that are not, and written ones among them that are few. */
function unexplained(words: readonly Word[]): readonly boolean[] {
  const runs = runsOf(words)
  const isChance = runs.map((run, at) => {
    const sides = [runs[at - 1], runs[at + 1]]
    return (
      run.kind === 'agrees' &&
      run.to - run.from <= CHANCE &&
      sides.some((side) => side?.kind === 'heard') &&
      sides.every((side) => endsAt(run, side))
    )
  })
  const out = words.map(() => false)
  runs.forEach(({ kind, from, to }, at) => {
    // What was badly heard beside a chance was not read either.
    const badlyHeard = kind === 'settled' && (isChance[at - 1] === true || isChance[at + 1] === true)
    if (kind === 'heard' || isChance[at] === true || badlyHeard) out.fill(true, from, to)
  })
  return out
}

/**
 * Parts of a voice in which somebody said what is not written, as far as that is known yet: they can be listened to once more, without what
 * is written in mind.
 */
export function unexplainedParts({ words }: Said): readonly TimeRange[] {
  const parts: { from: Ms; to: Ms }[] = []
  const wanted = unexplained(words)
  words.forEach(({ from, until }, n) => {
    if (wanted[n] !== true) return
    const last = parts.at(-1)
    if (last !== undefined && wanted[n - 1] === true && from - last.to < NEAR) last.to = until
    else parts.push({ from, to: until })
  })
  return parts.filter(({ from, to }) => to - from >= SHORTEST)
}
