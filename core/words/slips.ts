import type { Ms, SlideId, StretchId, VisitId } from '@core/model'
import { quietNear } from '@core/voice'
import type { FilmWord } from './film-words'
import { endsClause, endsSentence } from './marks'
import { isFiller, plainWord } from './plain-word'
import { silenceBetween, soundBetween, voiceLevels } from './sounds-between'
import type { VoiceLevels } from './sounds-between'

/** Something that was said by mistake: a sentence begun again, a filler, a hesitation inside a sentence, a cough or another noise. */
export interface Slip {
  readonly kind: 'again' | 'filler' | 'hesitation' | 'noise'
  readonly visit: VisitId
  /** The words that go; those before and after it where a hesitation goes. */
  readonly words: string
  /** What is cut, in ms of the film. */
  readonly from: Ms
  readonly to: Ms
}

/** What slips are found by. */
export interface SlipQuestion {
  readonly words: readonly FilmWord[]
  /** What is written for a slide: what is repeated there is meant. */
  readonly notesOf: (slide: SlideId) => string
  readonly peaksOf: (stretch: StretchId) => readonly number[]
}

/** So many words at most are begun again. */
const MOST_BEGUN = 14
/** Whoever begins again does so within this after breaking off, in ms; later it is another sentence. */
const SOON: Ms = 2500
/** A silence inside a sentence that is no breath, and what is left of it, in ms. */
const HESITATION: Ms = 1200
const LEFT: Ms = 350
/** Words that are so much nearer to each other than they were said have a cut between them, in ms. */
const CUT: Ms = 60
/** Words nearer than this to each other follow at once, in ms. */
const CLOSE: Ms = 120
/** A word below this was badly heard, and from this on clearly, of 1. */
const BADLY_HEARD = 0.6
const CLEARLY_HEARD = 0.7
/** A noise that was taken for a word is this far from both others at least, and no longer, in ms. */
const APART: Ms = 60
const LONGEST_NOISE: Ms = 700
/** Around a sound without words so much of the silence goes too, in ms. */
const BESIDE: Ms = 80
/** Words that are doubled by mistake alone; "very very" is meant. */
const DOUBLED = new Set([
  'the',
  'a',
  'an',
  'of',
  'in',
  'on',
  'at',
  'to',
  'for',
  'and',
  'or',
  'but',
  'with',
  'is',
  'are',
  'we',
  'i',
  'you',
  'it',
  'this',
  'that',
])

/** Whether a breath may be taken after a word. */
const isBreak = (text: string): boolean => endsSentence(text) || endsClause(text)

/**
 * Where what is cut may begin or end: the quietest place between two words, neither of which is touched; where they follow each other at
 * once, the quietest beside the place that the recogniser gives, which is a little off at times.
 */
function quietPlace(before: FilmWord | undefined, after: FilmWord, peaksOf: SlipQuestion['peaksOf']): Ms {
  if (before?.recorded.stretch !== after.recorded.stretch) return after.from
  const [end, begin] = [before.recorded.until, Math.max(before.recorded.until, after.recorded.from)]
  const beside = Math.max(0, (CLOSE - (begin - end)) / 2)
  const [least, most] = [end - beside, begin + beside]
  const quiet = Math.max(least, Math.min(most, quietNear(peaksOf(after.recorded.stretch), (least + most) / 2)))
  // The film's time between two words goes evenly, and beside them as recorded.
  const share = begin === end ? 0 : (Math.max(end, Math.min(begin, quiet)) - end) / (begin - end)
  return Math.round(before.until + (after.from - before.until) * share + Math.min(0, quiet - end) + Math.max(0, quiet - begin))
}

/** Whether words that are said twice in a row are meant: a whole sentence or clause, a word doubled for its sake, or written so. */
function isMeant(tried: readonly FilmWord[], said: string, written: string): boolean {
  const last = tried.at(-1)
  const whole = last !== undefined && last.source === 'written' && isBreak(last.text)
  return whole || (tried.length === 1 && !DOUBLED.has(said)) || written.includes(` ${said} ${said} `)
}

/** A word with how it is compared with others: that is found out once. */
interface Spoken extends FilmWord {
  readonly plain: string
}

const sounds = (words: readonly Spoken[]): string => words.map(({ plain }) => plain).join(' ')

/** Whether the last of some words is where somebody broke off: it is cut short, and badly heard. */
const breaksOff = ({ source, sure, text }: FilmWord, count: number): boolean =>
  source === 'heard' && !isFiller(text) && (count >= 3 || (count === 2 && sure < BADLY_HEARD))

/** Whether words that were tried are said again, but for one at which somebody broke off. */
function saysAgain(tried: readonly Spoken[], again: readonly Spoken[], broken: Spoken): boolean {
  if (sounds(tried) === sounds(again)) {
    // One word that was badly heard is no evidence.
    const clear = tried.length > 1 || [...tried, ...again].every(({ sure }) => sure >= CLEARLY_HEARD)
    return clear && sounds(tried).trim() !== ''
  }
  return breaksOff(broken, tried.length) && sounds(tried.slice(0, -1)) === sounds(again.slice(0, -1))
}

/** Whether some words in a row are said twice, the second time soon after the first. */
function saidTwice(words: readonly Spoken[], n: number, count: number): boolean {
  const [first, broken, begun, last] = [words[n], words[n + count - 1], words[n + count], words[n + 2 * count - 1]]
  if (broken === undefined || begun === undefined || last === undefined || first?.plain !== begun.plain) return false
  if (last.visit !== broken.visit || begun.from - broken.until > SOON) return false
  return saysAgain(words.slice(n, n + count), words.slice(n + count, n + 2 * count), broken)
}

/** How many words from one on are begun again after them; 0: none. @param written what is written for their slide */
function begunAgain(words: readonly Spoken[], n: number, written: string): number {
  for (let count = MOST_BEGUN; count >= 1; count -= 1) {
    if (!saidTwice(words, n, count)) continue
    const tried = words.slice(n, n + count)
    if (!isMeant(tried, sounds(tried), written)) return count
  }
  return 0
}

/** Notes as plain words with spaces around, by visit. */
function writtenBy({ words, notesOf }: SlipQuestion): ReadonlyMap<VisitId, string> {
  const slides = new Map(words.map(({ visit, slide }) => [visit, slide]))
  return new Map([...slides].map(([visit, slide]) => [visit, ` ${notesOf(slide).split(/\s+/).map(plainWord).join(' ')} `]))
}

/** Whether something was cut between two words of one recording: they are nearer to each other than they were said, at their tempo. */
function isCutBetween(before: FilmWord, word: FilmWord): boolean {
  const recorded = word.recorded.until - before.recorded.from
  const spoken = word.recorded.until - word.recorded.from + before.recorded.until - before.recorded.from
  const rate = (word.until - word.from + before.until - before.from) / Math.max(1, spoken)
  return Math.abs(word.until - before.from - recorded * rate) > CUT
}

/** What goes between two words: a silence inside a sentence, a sound that is none of them; null: nothing does. */
function gapSlip(before: FilmWord | undefined, word: FilmWord, levelsOf: (stretch: StretchId) => VoiceLevels): Slip | null {
  if (before?.visit !== word.visit || before.recorded.stretch !== word.recorded.stretch) return null
  const [end, begin] = [before.recorded.until, word.recorded.from]
  if (begin <= end || isCutBetween(before, word)) return null
  const levels = levelsOf(word.recorded.stretch)
  const silence = silenceBetween(levels, end, begin)
  const sound = soundBetween(levels, end, begin)
  const hesitates = !isBreak(before.text) && silence.to - silence.from > HESITATION
  const part = hesitates ? { from: silence.from + LEFT / 2, to: silence.to - LEFT / 2 } : sound
  if (part === null) return null
  // The film's time between two words goes evenly.
  const inFilm = (at: Ms): Ms => Math.round(before.until + ((at - end) * (word.from - before.until)) / (begin - end))
  const beside = hesitates ? 0 : BESIDE
  return {
    kind: sound === null ? 'hesitation' : 'noise',
    visit: word.visit,
    words: `${before.text} … ${word.text}`,
    from: inFilm(Math.max(silence.from, part.from - beside)),
    to: inFilm(Math.min(silence.to, part.to + beside)),
  }
}

/**
 * Whether a word is a noise that was taken for one: it is not written, stands between two that are, with silence on either side, and is
 * short. A filler in a voice that the recogniser does not know sounds like that too.
 */
function isNoise(before: FilmWord | undefined, word: FilmWord, next: FilmWord | undefined): boolean {
  if (word.source !== 'heard' || before?.source !== 'written' || next?.source !== 'written') return false
  if (before.visit !== word.visit || word.until - word.from > LONGEST_NOISE) return false
  return word.from - before.until >= APART && next.from - word.until >= APART
}

interface WordSlip {
  readonly count: number
  readonly slip: Slip
}

/** What is said by mistake from a word on, and how many words that are; null: nothing. @param written what is written for their slide */
function wordSlip(words: readonly Spoken[], n: number, written: string, peaksOf: SlipQuestion['peaksOf']): WordSlip | null {
  const [before, word] = [words[n - 1], words[n]]
  if (word === undefined) return null
  const kind = kindOf(before, word, words[n + 1])
  const count = kind === 'again' ? begunAgain(words, n, written) : 1
  const next = words[n + count]
  if (count === 0 || next?.visit !== word.visit) return null
  const gone = words.slice(n, n + count)
  const said = kind === 'noise' ? `${before?.text ?? ''} … ${next.text}` : gone.map(({ text }) => text).join(' ')
  const [from, to] = [quietPlace(before, word, peaksOf), quietPlace(gone.at(-1), next, peaksOf)]
  return { count, slip: { kind, visit: word.visit, words: said, from, to } }
}

/** What a word is, if it is anything but said: one that may be begun again otherwise. */
function kindOf(before: FilmWord | undefined, word: FilmWord, next: FilmWord | undefined): 'filler' | 'noise' | 'again' {
  if (word.source === 'heard' && isFiller(word.text)) return 'filler'
  return isNoise(before, word, next) ? 'noise' : 'again'
}

/** Slips of a film, in order, none overlapping. */
export function slipsOf(question: SlipQuestion): readonly Slip[] {
  const { peaksOf } = question
  const words = question.words.map((word): Spoken => ({ ...word, plain: plainWord(word.text) }))
  const written = writtenBy(question)
  const slips: Slip[] = []
  const known = new Map<StretchId, VoiceLevels>()
  const levelsOf = (stretch: StretchId): VoiceLevels => {
    const found = known.get(stretch) ?? voiceLevels(peaksOf(stretch))
    known.set(stretch, found)
    return found
  }
  for (let n = 0; n < words.length; n += 1) {
    const word = words[n]
    if (word === undefined) break
    const between = gapSlip(words[n - 1], word, levelsOf)
    if (between !== null) slips.push(between)
    const found = wordSlip(words, n, written.get(word.visit) ?? '', peaksOf)
    if (found === null) continue
    slips.push(found.slip)
    n += found.count - 1
  }
  return slips.filter(({ from, to }, n) => to > from && from >= (slips[n - 1]?.to ?? 0))
}
