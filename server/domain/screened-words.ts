import { captionsOf, sayingsOf } from '@core/words'
import type { Caption } from '@core/model'
import type { Saying } from '@core/words'
import type { Queries } from '@server/database'
import { stretchIdsOf } from './films'
import { Remembered } from './remembered'
import type { ScreeningVersion } from './screening-pass'
import { keyOfVersion } from './screenings'
import type { Screening } from './screenings'
import { languageOfTalk, stateOfWords, wordsOfFilm } from './words'

/** What is said in a version of a talk, for those who watch. */
export interface ScreenedWords {
  readonly said: readonly Saying[]
  readonly captions: readonly Caption[]
}

/** Versions of which that is remembered: those asked for last. */
const MOST_KNOWN = 32
const known = new Remembered<ScreenedWords>(MOST_KNOWN)

/** What is said in a version of a talk. It is put together once, however many watch, until something is heard anew or put right. */
export async function screenedWords(q: Queries, version: ScreeningVersion, { whole }: Screening): Promise<ScreenedWords> {
  const [state, language] = await Promise.all([stateOfWords(q, stretchIdsOf(whole.film.programme)), languageOfTalk(q, version.talk)])
  return await known.of(`${keyOfVersion(version)} ${language} ${state}`, async () => {
    const words = await wordsOfFilm(q, whole)
    return { said: sayingsOf(words), captions: captionsOf(words, language) }
  })
}
