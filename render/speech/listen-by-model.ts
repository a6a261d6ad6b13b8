import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Said } from '@core/model'
import type { TimeRange } from '@core/voice'
import { alignWords, languageModel, sentencesOf, unexplainedParts } from '@core/words'
import type { HeardWord } from '@core/words'
import { GENERAL_DICTIONARY, GENERAL_MODEL, dictionaryText, waysOfSaying } from './dictionary'
import type { ListenOptions, ListenOrder } from './listen'
import { recognise, withPreparedVoice } from './recognise'
import type { Grammar } from './recognise'

/** A pronunciation as a character for each phone, so that two can be compared sign by sign. */
const phoneSigns = new Map<string, string>()
function signsOf(phones: string): string {
  return phones
    .split(' ')
    .map((phone) => {
      const sign = phoneSigns.get(phone) ?? String.fromCodePoint(0x100 + phoneSigns.size)
      phoneSigns.set(phone, sign)
      return sign
    })
    .join('')
}

/** What was heard in some parts takes the place of what was heard there before. */
function heardAnew(heard: readonly HeardWord[], parts: readonly TimeRange[], anew: readonly HeardWord[]): readonly HeardWord[] {
  const inPart = ({ from, until }: HeardWord): boolean =>
    parts.some((part) => (from + until) / 2 >= part.from && (from + until) / 2 < part.to)
  return [...heard.filter((word) => !inPart(word)), ...anew.filter(inPart)].sort((one, other) => one.from - other.from)
}

/** Sentences that may be said, as sounds. */
type Sentences = readonly (readonly string[])[]

/** What nobody writes and everybody says. */
const FILLERS: Sentences = [['uh'], ['um']]

/** How fast speech is heard that may be anything, see `Grammar`. */
const FREE_STATES = 3000
const ANYTHING: Grammar = { languageModel: GENERAL_MODEL, dictionary: GENERAL_DICTIONARY, states: FREE_STATES }

/** What a recogniser goes by that hears nothing but some sentences. @param ways to say their words; what cannot be said is not heard */
async function grammarOf(folder: string, sentences: Sentences, ways: ReadonlyMap<string, readonly string[]>): Promise<Grammar> {
  const [model, dictionary] = [join(folder, 'model.lm'), join(folder, 'words.dict')]
  await writeFile(model, languageModel(sentences.map((sentence) => sentence.filter((sound) => ways.has(sound)))))
  await writeFile(dictionary, dictionaryText(ways))
  return { languageModel: model, dictionary }
}

/**
 * Hears a stretch by the recogniser of Debian: first as somebody who reads what is written, then, where that explains nothing, as somebody
 * who speaks freely.
 * @throws ProcessFailed when the recogniser dies or takes longer than it may
 */
export const listenByModel = (order: ListenOrder, options: ListenOptions): Promise<Said> =>
  withPreparedVoice(order, options, async (folder, parts) => {
    const { texts, besides, shown } = order
    const written = [...texts.flatMap(sentencesOf), ...besides]
    if (written.length === 0) return alignWords(await recognise(folder, parts, ANYTHING, options), texts, shown)
    const sentences = [...written, ...FILLERS]
    const ways = await waysOfSaying(new Set(sentences.flat()), options.signal)
    const soundOf = (sound: string): string => signsOf(ways.get(sound)?.[0] ?? sound)
    const read = await recognise(folder, parts, await grammarOf(folder, sentences, ways), options)
    const free = unexplainedParts(alignWords(read, texts, shown, soundOf))
    const freely = await recognise(folder, free, ANYTHING, options)
    return alignWords(heardAnew(read, free, freely), texts, shown, soundOf)
  })
