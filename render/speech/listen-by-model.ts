import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Said } from '@core/model'
import type { TimeRange } from '@core/voice'
import { alignWords, languageModel, partsToHear, sentencesOf, unexplainedParts } from '@core/words'
import type { HeardWord } from '@core/words'
import { GENERAL_DICTIONARY, GENERAL_MODEL, dictionaryText, waysOfSaying } from './dictionary'
import type { ListenOptions, ListenOrder } from './listen'
import { recognise, voiceForRecogniser } from './recognise'

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

/** Hears a voice, by what may have been said. */
class Hearing {
  readonly #folder: string
  readonly #samples: string
  readonly #options: ListenOptions

  constructor(folder: string, options: ListenOptions) {
    this.#folder = folder
    this.#samples = join(folder, 'voice.raw')
    this.#options = options
  }

  readonly prepare = (voice: string): Promise<void> => voiceForRecogniser(voice, this.#samples, this.#options)

  async hear(
    parts: readonly TimeRange[],
    sentences: readonly (readonly string[])[],
    ways: ReadonlyMap<string, readonly string[]>,
  ): Promise<readonly HeardWord[]> {
    const [model, dictionary] = [join(this.#folder, 'model.lm'), join(this.#folder, 'words.dict')]
    const said = new Set(sentences.flat())
    const sayable = sentences.map((sentence) => sentence.filter((sound) => ways.has(sound)))
    await writeFile(model, languageModel(sayable))
    await writeFile(dictionary, dictionaryText(new Map([...ways].filter(([word]) => said.has(word)))))
    return await recognise(this.#samples, parts, { languageModel: model, dictionary }, this.#options)
  }

  /** Hears what may be anything. */
  readonly hearFreely = (parts: readonly TimeRange[]): Promise<readonly HeardWord[]> =>
    recognise(this.#samples, parts, { languageModel: GENERAL_MODEL, dictionary: GENERAL_DICTIONARY, states: FREE_STATES }, this.#options)
}

/** What nobody writes and everybody says. */
const FILLERS: readonly (readonly string[])[] = [['uh'], ['um']]
/** For speech that may be anything, see `Grammar`. */
const FREE_STATES = 3000

/**
 * Hears a stretch by the recogniser of Debian: first as somebody who reads what is written, then, where that explains nothing, as somebody
 * who speaks freely.
 * @throws ProcessFailed when the recogniser dies or takes longer than it may
 */
export async function listenByModel(order: ListenOrder, options: ListenOptions): Promise<Said> {
  const { voice, peaks, length, texts, besides, shown } = order
  const folder = await mkdtemp(join(tmpdir(), 'aisle-listened-'))
  try {
    const hearing = new Hearing(folder, options)
    await hearing.prepare(voice)
    const written = [...texts.flatMap(sentencesOf), ...besides]
    const sentences = written.length === 0 ? [] : [...written, ...FILLERS]
    const ways = await waysOfSaying(new Set(sentences.flat()), options.signal)
    const soundOf = (sound: string): string => signsOf(ways.get(sound)?.[0] ?? sound)
    const parts = partsToHear(peaks, length)
    const read = sentences.length === 0 ? [] : await hearing.hear(parts, sentences, ways)
    const free = sentences.length === 0 ? parts : unexplainedParts(alignWords(read, texts, shown, soundOf))
    const freely = await hearing.hearFreely(free)
    return alignWords(heardAnew(read, free, freely), texts, shown, soundOf)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
