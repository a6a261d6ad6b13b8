import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import nspell from 'nspell'
import type { SlideId } from '@core/model'
import { unknownWords } from '@core/spelling'
import type { SpeltText, UnknownWord } from '@core/spelling'
import type { SpellingView } from '@contracts'
import { wordsDrawn } from '@core/objects'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { slidesOf } from './decks'
import { currentProgramme } from './programmes'
import { Remembered } from './remembered'

/** Words that are told at most, and those of them for which others are proposed: proposing takes a while. */
const MOST_WORDS = 200
const MOST_PROPOSED = 12
const PROPOSALS = 3

type Speller = ReturnType<typeof nspell>

/** Dictionaries take a second to read and much memory; those of the languages asked for last stay. */
const spellers = new Remembered<readonly Speller[]>(3)

/** A dictionary that the operator put there; null: there is none of that name. */
async function ownDictionary(folder: string, tag: string): Promise<Speller | null> {
  const read = (ending: string): Promise<Buffer | null> => readFile(join(folder, `${tag}.${ending}`)).catch(() => null)
  const [aff, dic] = [await read('aff'), await read('dic')]
  return aff === null || dic === null ? null : nspell(aff, dic)
}

/** English as it ships: of a country that is named, or of both where none is. */
async function shippedEnglish(language: string): Promise<readonly Speller[]> {
  const country = language.slice(3).toUpperCase()
  const spelt: Speller[] = []
  const add = ({ aff, dic }: { readonly aff: Uint8Array; readonly dic: Uint8Array }): number =>
    spelt.push(nspell(Buffer.from(aff), Buffer.from(dic)))
  if (country !== 'US') add((await import('dictionary-en-gb')).default)
  if (country === 'US' || country === '') add((await import('dictionary-en')).default)
  return spelt
}

/** Dictionaries of a language: a word is right that any of them knows. None: it cannot be spelt here. */
async function spellersOf(language: string): Promise<readonly Speller[]> {
  const { dictionaries } = settings()
  // It names a file: nothing but a tag may.
  if (!/^[a-z]{2,3}(-[a-z0-9]{2,8})*$/i.test(language)) return []
  for (const tag of dictionaries === null ? [] : [language, language.slice(0, 2)]) {
    const own = await ownDictionary(dictionaries ?? '', tag)
    if (own !== null) return [own]
  }
  return language.slice(0, 2).toLowerCase() === 'en' ? await shippedEnglish(language) : []
}

/** What is written for a talk's slides. */
const writtenIn = async (q: Queries, talk: string): Promise<readonly SpeltText[]> =>
  (await slidesOf(q, talk)).flatMap((slide) => {
    const { id, title, section, notes, viewerNotes, description, composition } = slide
    const made = composition === null ? [] : [composition.heading, composition.body, composition.second]
    return [title, section, notes, viewerNotes, description, ...made, ...wordsDrawn(slide)].map((text) => ({ slide: id, text }))
  })

/** What somebody typed to be read in captions. */
async function typedIn(q: Queries, talk: string): Promise<readonly SpeltText[]> {
  const programme = await currentProgramme(q, talk)
  const slideOf = new Map<string, SlideId>()
  for (const piece of programme.pieces) if (piece.kind === 'recorded' && piece.voice !== null) slideOf.set(piece.voice.stretch, piece.slide)
  if (slideOf.size === 0) return []
  const rows = await q
    .selectFrom('word_correction')
    .select(['stretch', 'text'])
    .where('stretch', 'in', [...slideOf.keys()])
    .execute()
  return rows.flatMap(({ stretch, text }) => {
    const slide = slideOf.get(stretch)
    return slide === undefined ? [] : [{ slide, text }]
  })
}

/** Words of a talk that no dictionary knows, nor the talk itself. */
export async function spellingOf(q: Queries, talk: string): Promise<SpellingView> {
  const { language, terms } = await q.selectFrom('talk').select(['language', 'terms']).where('id', '=', talk).executeTakeFirstOrThrow()
  const speller = await spellers.of(language, () => spellersOf(language))
  if (speller.length === 0) return { checked: false, words: [] }
  const texts = [...(await writtenIn(q, talk)), ...(await typedIn(q, talk))]
  const found = unknownWords(texts, (word) => speller.some((one) => one.correct(word)), terms).slice(0, MOST_WORDS)
  const proposed = ({ word }: UnknownWord, n: number): readonly string[] =>
    n < MOST_PROPOSED ? (speller[0]?.suggest(word) ?? []).slice(0, PROPOSALS) : []
  return { checked: true, words: found.map((word, n) => ({ ...word, instead: proposed(word, n) })) }
}
