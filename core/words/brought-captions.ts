import { diffArrays } from 'diff'
import { heardPieces } from '@core/plan'
import { sourceAt } from '@core/programme'
import { lastNotAfter } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import type { Ms, StretchId } from '@core/model'
import type { Correction } from './correct'
import type { FilmWord } from './film-words'
import { plainWord } from './plain-word'
import { wordsOver } from './shares'

/** What a caption file says at some time of the film. */
type SaidAt = Pick<Correction, 'from' | 'until' | 'text'>

/** A word of such a file: its time is a share of its caption's. */
interface BroughtWord extends SaidAt {
  readonly caption: number
}

/** A correction that is not kept yet. */
export type NewCorrection = Omit<Correction, 'id'> & { readonly stretch: StretchId }

/** A file says nothing of a gap between its captions that is this long, in ms. */
const LONG_GAP: Ms = 8000
/** What it says may be heard this much before or after; what it does not say is not taken away so far from it. */
const ROUGHLY: Ms = 1000
const NEARLY: Ms = 250
/** Texts that differ in more places than that are taken to be different throughout: finding out costs more with every place. */
const MOST_DIFFERENCES = 6000

const wordsOf = (captions: readonly SaidAt[]): readonly BroughtWord[] =>
  captions.flatMap(({ from, until, text }, caption) =>
    wordsOver(text, from, until).map((word) => ({ text: word.text, from: word.from, until: word.to, caption })),
  )

/** Words that were heard, and those that the file has in their place, between two on which both agree. */
interface Difference {
  readonly heard: readonly FilmWord[]
  readonly brought: readonly BroughtWord[]
  /** The last word before, and the first one after, on which both agree. */
  readonly before: FilmWord | undefined
  readonly after: FilmWord | undefined
}

/** Where a file does not say what was heard. Words that differ in their spelling or their marks alone do too. */
function differences(heard: readonly FilmWord[], brought: readonly BroughtWord[]): readonly Difference[] {
  const [ours, theirs] = [heard.map(({ text }) => plainWord(text)), brought.map(({ text }) => plainWord(text))]
  const changes = diffArrays(ours, theirs, { maxEditLength: MOST_DIFFERENCES }) ?? [
    { count: ours.length, removed: true, added: false },
    { count: theirs.length, removed: false, added: true },
  ]
  const out: Difference[] = []
  let [mine, file] = [0, 0]
  let [from, fileFrom] = [0, 0]
  const close = (): void => {
    if (mine > from || file > fileFrom)
      out.push({ heard: heard.slice(from, mine), brought: brought.slice(fileFrom, file), before: heard[from - 1], after: heard[mine] })
  }
  for (const { count, added, removed } of changes) {
    if (removed) mine += count
    else if (added) file += count
    else {
      close()
      for (let n = 0; n < count; n += 1) {
        const [word, spelt] = [heard[mine + n], brought[file + n]]
        if (word !== undefined && spelt !== undefined && word.text !== spelt.text)
          out.push({ heard: [word], brought: [spelt], before: heard[mine + n - 1], after: heard[mine + n + 1] })
      }
      mine += count
      file += count
      from = mine
      fileFrom = file
    }
  }
  close()
  return out
}

/** Says which part of a recording is heard between two times of the film. */
function recordedAt(index: FilmIndex): (from: Ms, until: Ms) => Omit<NewCorrection, 'text'> | null {
  const pieces = heardPieces(index)
  const starts = pieces.map(({ start }) => start)
  return (from, until) => {
    const found = pieces[lastNotAfter(starts, (from + until) / 2)]
    if (found === undefined) return null
    const { voice } = found.piece
    const inside = (at: Ms): Ms => Math.round(Math.max(voice.from, Math.min(voice.to, sourceAt(voice, at - found.start))))
    const [first, last] = [inside(from), inside(until)]
    return last <= first ? null : { stretch: voice.stretch, from: first, until: last }
  }
}

/** Words of one caption each, in order. */
function byCaption(words: readonly BroughtWord[]): readonly (readonly BroughtWord[])[] {
  const runs: BroughtWord[][] = []
  for (const word of words) {
    const last = runs.at(-1)
    if (last?.[0]?.caption === word.caption) last.push(word)
    else runs.push([word])
  }
  return runs
}

const textOf = (words: readonly { readonly text: string }[]): string => words.map(({ text }) => text).join(' ')
const silenced = ({ recorded }: FilmWord): NewCorrection => ({ ...recorded, until: Math.max(recorded.from + 1, recorded.until), text: '' })

/** What is to be read in place of what was heard, where a file says something else. */
function settled({ heard, brought, before, after }: Difference, recorded: ReturnType<typeof recordedAt>): readonly NewCorrection[] {
  if (brought.length === 0) return heard.map(silenced)
  const [earliest, latest] = [before?.until ?? 0, after?.from ?? Infinity]
  const runs = byCaption(brought)
  const placed = runs.flatMap((words, n): readonly NewCorrection[] => {
    const own = { from: words[0]?.from ?? 0, until: words.at(-1)?.until ?? 0 }
    const from = n === 0 ? Math.min(own.from, heard[0]?.from ?? Infinity) : own.from
    const until = n === runs.length - 1 ? Math.max(own.until, heard.at(-1)?.until ?? 0) : own.until
    // The file's times are rough: what was heard on either side keeps its own.
    const part = recorded(Math.max(from, earliest), Math.min(until, latest))
    return part === null ? [] : [{ ...part, text: textOf(words) }]
  })
  if (placed.length === 0) {
    // There is no time of its own for it: it is read with the word before or after.
    const beside = before ?? after
    if (beside === undefined) return heard.map(silenced)
    const text = beside === before ? `${beside.text} ${textOf(brought)}` : `${textOf(brought)} ${beside.text}`
    return [...heard.map(silenced), { ...silenced(beside), text }]
  }
  const covered = ({ recorded: { stretch, from, until } }: FilmWord): boolean =>
    placed.some((one) => one.stretch === stretch && (from + until) / 2 >= one.from && (from + until) / 2 < one.until)
  return [...placed, ...heard.filter((word) => !covered(word)).map(silenced)]
}

/** Captions without long gaps between them: of the time of each run the file says what was said. */
function runsOf(captions: readonly SaidAt[]): readonly (readonly SaidAt[])[] {
  const runs: SaidAt[][] = []
  let end = 0
  for (const caption of captions) {
    const last = runs.at(-1)
    if (last !== undefined && caption.from - end < LONG_GAP) last.push(caption)
    else runs.push([caption])
    end = Math.max(end, caption.until)
  }
  return runs
}

/** What was heard while some captions are up, and so many ms before and after. */
function heardDuring(heard: readonly FilmWord[], captions: readonly SaidAt[], around: Ms): readonly FilmWord[] {
  const [from, until] = [captions[0]?.from ?? 0, Math.max(...captions.map((caption) => caption.until))]
  return heard.filter((word) => (word.from + word.until) / 2 >= from - around && (word.from + word.until) / 2 <= until + around)
}

/** Where captions do not say what was heard. Words beside their time may agree with them, and are left alone where they do not. */
function differencesIn(heard: readonly FilmWord[], captions: readonly SaidAt[]): readonly Difference[] {
  const told = new Set(heardDuring(heard, captions, NEARLY))
  return differences(heardDuring(heard, captions, ROUGHLY), wordsOf(captions)).flatMap((difference) => {
    const own = difference.heard.filter((word) => told.has(word))
    return own.length === 0 && difference.brought.length === 0 ? [] : [{ ...difference, heard: own }]
  })
}

/**
 * What has to be put right so that a talk says what a caption file does, as far as that goes: where both agree, what was heard keeps its
 * exact times.
 * @param heard words of the film
 * @param captions of the file, in the film's time and in order
 * @returns apart from each other
 */
export function correctionsFrom(index: FilmIndex, heard: readonly FilmWord[], captions: readonly SaidAt[]): readonly NewCorrection[] {
  const recorded = recordedAt(index)
  const found = runsOf(captions).flatMap((run) => differencesIn(heard, run))
  const taken = new Map<StretchId, NewCorrection[]>()
  for (const one of found.flatMap((difference) => settled(difference, recorded))) {
    // A recording that is played twice is put right once.
    const there = taken.get(one.stretch) ?? []
    if (there.every(({ from, until }) => one.until <= from || one.from >= until)) taken.set(one.stretch, [...there, one])
  }
  return [...taken.values()].flat()
}
