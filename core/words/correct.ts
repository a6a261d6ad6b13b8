import type { Ms, Said, Word } from '@core/model'
import { shares } from './shares'

/** What somebody says was said in a part of a stretch. */
export interface Correction {
  readonly id: string
  readonly from: Ms
  readonly until: Ms
  /** Empty: nothing that is to be read. */
  readonly text: string
  /** It came from a caption file. */
  readonly brought?: boolean
}

/** A word, and the correction that it comes from; null: none. */
export interface CorrectedWord extends Word {
  readonly correction: string | null
}

/** What was said in a stretch, as it was corrected. */
export interface CorrectedSaid extends Said {
  readonly words: readonly CorrectedWord[]
}

const middle = ({ from, until }: Pick<Word, 'from' | 'until'>): Ms => (from + until) / 2

/** Words of a correction, spread over its time by their letters. */
function wordsOf({ id, from, until, text }: Correction): readonly CorrectedWord[] {
  const words = text.split(/\s+/u).filter((word) => word !== '')
  const parts = shares(
    words.map((word) => word.length),
    from,
    until,
  )
  return parts.map((part, n) => ({
    text: words[n] ?? '',
    from: Math.round(part.from),
    until: Math.round(part.to),
    sure: 1,
    source: 'typed',
    correction: id,
  }))
}

/** What was said, as it was corrected: in the time of a correction its words alone are said, and nothing is missing there. */
export function corrected({ words, unsaid }: Said, corrections: readonly Correction[]): CorrectedSaid {
  const covered = (at: Ms): boolean => corrections.some(({ from, until }) => at >= from && at < until)
  const kept = words.map((word, n) => ({ word, n })).filter(({ word }) => !covered(middle(word)))
  const all: readonly { readonly word: CorrectedWord; readonly n: number | null }[] = [
    ...kept.map(({ word, n }) => ({ word: { ...word, correction: null }, n })),
    ...corrections.flatMap(wordsOf).map((word) => ({ word, n: null })),
  ].sort((one, other) => one.word.from - other.word.from)
  const places = new Map(all.flatMap(({ n }, place) => (n === null ? [] : [[n, place] as const])))
  return {
    words: all.map(({ word }) => word),
    unsaid: unsaid.flatMap((one) => {
      const before = places.get(one.before)
      return before === undefined ? [] : [{ ...one, before }]
    }),
  }
}
