import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { pronounce } from './pronounce'

/** Where Debian puts the recogniser's English model. */
export const MODEL = '/usr/share/pocketsphinx/model/en-us'
export const ACOUSTIC_MODEL = join(MODEL, 'en-us')
export const GENERAL_MODEL = join(MODEL, 'en-us.lm.bin')
export const GENERAL_DICTIONARY = join(MODEL, 'cmudict-en-us.dict')

let known: Promise<ReadonlyMap<string, readonly string[]>> | null = null

/** Words of the dictionary that comes with the model, each with the ways in which it is said, as phones. */
async function readDictionary(): Promise<ReadonlyMap<string, readonly string[]>> {
  const words = new Map<string, string[]>()
  for (const line of (await readFile(GENERAL_DICTIONARY, 'utf8')).split('\n')) {
    const space = line.indexOf(' ')
    if (space < 0) continue
    const word = line.slice(0, space).replace(/\(\d+\)$/, '')
    const ways = words.get(word)
    if (ways === undefined) words.set(word, [line.slice(space + 1)])
    else ways.push(line.slice(space + 1))
  }
  return words
}

/**
 * How words are said: by the model's dictionary, and by a synthesiser's rules where that lacks them.
 * @param words as sounds
 * @returns the ways in which each can be said, as phones with spaces between; what cannot be said is missing
 */
export async function waysOfSaying(words: ReadonlySet<string>, signal?: AbortSignal): Promise<ReadonlyMap<string, readonly string[]>> {
  known ??= readDictionary()
  const dictionary = await known
  const unknown = [...words].filter((word) => !dictionary.has(word))
  const ruled = await pronounce(unknown, signal)
  const all = new Map<string, readonly string[]>()
  for (const word of words) {
    const phones = ruled.get(word)
    const ways = dictionary.get(word) ?? (phones === undefined ? undefined : [phones])
    if (ways !== undefined) all.set(word, ways)
  }
  return all
}

/** A dictionary as the recogniser reads it. */
export const dictionaryText = (ways: ReadonlyMap<string, readonly string[]>): string =>
  [...ways].flatMap(([word, said]) => said.map((phones, n) => `${n === 0 ? word : `${word}(${String(n + 1)})`} ${phones}\n`)).join('')
