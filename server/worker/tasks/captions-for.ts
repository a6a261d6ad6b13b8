import { writeFile } from 'node:fs/promises'
import { iso6393 } from 'iso-639-3'
import { primaryOf } from '@core/language'
import { webVtt } from '@core/formats'
import { isVideo } from '@core/model'
import type { Ms, Recipe } from '@core/model'
import type { FilmIndex } from '@core/scene'
import { captionsOf } from '@core/words'
import type { JoinOrder } from '@render/video'
import type { Queries } from '@server/database'
import { languageOfTalk, wordsOfFilm } from '@server/domain'

/** What captions of a file are made from. */
interface CaptionsOrder {
  readonly talk: string
  readonly index: FilmIndex
  readonly recipe: Recipe
  /** No caption is there longer than the file. */
  readonly length: Ms
  /** Of the file that is made. */
  readonly out: string
}

/** A language as containers name it; what they have no name for is said to be undetermined. */
const longTag = (language: string): string => iso6393.find(({ iso6391 }) => iso6391 === primaryOf(language))?.iso6393 ?? 'und'

/** Writes what is said in a file that is made, beside it; null when that is not wanted as a track of its own, or not known. */
export async function captionsFor(q: Queries, { talk, index, recipe, length, out }: CaptionsOrder): Promise<JoinOrder['captions']> {
  if (recipe.captions !== 'inside' || !isVideo(recipe.format)) return null
  const [words, language] = await Promise.all([wordsOfFilm(q, index), languageOfTalk(q, talk)])
  const captions = captionsOf(words, language)
    .filter(({ from }) => from < length)
    .map((caption) => ({ ...caption, until: Math.min(caption.until, length) }))
  if (captions.length === 0) return null
  const file = `${out}.vtt`
  await writeFile(file, webVtt(captions))
  return { file, language: longTag(language) }
}
