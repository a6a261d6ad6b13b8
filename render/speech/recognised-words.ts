import type { Ms } from '@core/model'
import type { TimeRange } from '@core/voice'
import { lettersOf, shares, spokenForm, wordsOver } from '@core/words'
import type { HeardWord } from '@core/words'

/** What the recogniser says of a part of a voice (sherpa-onnx, `OfflineRecognizerResult`); times in s of the part. */
export interface RecogniserResult {
  readonly text: string
  readonly tokens: readonly string[]
  /** When each token begins; none where the model does not know. */
  readonly timestamps: readonly number[]
}

/** How sure words are of which nobody says how sure they are. */
const SURE = 0.8
/** A word lasts no longer than this after its last token began, in ms. */
const LAST_TOKEN: Ms = 300

interface Spelt {
  readonly text: string
  readonly from: Ms
  readonly until: Ms
}

/** Where a word begins: tokens carry the space before them, as such or as the sign that SentencePiece has for it. */
const beginsWord = (token: string): boolean => /^[\s▁]/u.test(token)
const plain = (token: string): string => token.replaceAll('▁', ' ').trim()

/** Words by their tokens, each until the next begins. */
function wordsByTokens({ tokens, timestamps }: RecogniserResult, part: TimeRange): readonly Spelt[] {
  const words: { text: string; from: Ms; last: Ms }[] = []
  tokens.forEach((token, n) => {
    const at = part.from + (timestamps[n] ?? 0) * 1000
    const word = words.at(-1)
    if (word === undefined || beginsWord(token)) words.push({ text: plain(token), from: at, last: at })
    else {
      word.text += plain(token)
      word.last = at
    }
  })
  return words
    .filter(({ text }) => text !== '')
    .map(({ text, from, last }, n, all) => ({ text, from, until: Math.min(all[n + 1]?.from ?? part.to, last + LAST_TOKEN, part.to) }))
}

/** Words of which only the order is known, laid over the part by their letters. */
const wordsByLetters = ({ text }: RecogniserResult, part: TimeRange): readonly Spelt[] =>
  wordsOver(text, part.from, part.to).map((word) => ({ text: word.text, from: word.from, until: word.to }))

/**
 * What a recogniser made out in a part of a voice, as words by their sound.
 * @param part of the voice, in ms
 * @param language BCP 47 tag
 */
export function recognisedWords(result: RecogniserResult, part: TimeRange, language: string): readonly HeardWord[] {
  const timed = result.timestamps.length === result.tokens.length && result.tokens.length > 0
  const spelt = timed ? wordsByTokens(result, part) : wordsByLetters(result, part)
  return spelt.flatMap(({ text, from, until }): readonly HeardWord[] => {
    // Numbers and units are heard as they are spoken.
    const sounds = spokenForm(text, language).tokens.map(({ sound }) => sound)
    return shares(lettersOf(sounds), from, Math.max(from + 1, until)).map((time, n) => ({
      sound: sounds[n] ?? '',
      from: Math.round(time.from),
      until: Math.round(time.to),
      sure: SURE,
    }))
  })
}
