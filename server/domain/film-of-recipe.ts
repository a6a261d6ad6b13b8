import { filmFor, slideShow } from '@core/plan'
import { Refusal, isVideo } from '@core/model'
import type { Film, Recipe } from '@core/model'
import { indexFilm, withCaptions } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { captionsOf, filmWords } from '@core/words'
import type { Queries } from '@server/database'
import { slidesOf } from './decks'
import { filmOf, stretchIdsOf } from './films'
import { rateOfOwner } from './speech'
import { languageOfTalk, saidIn } from './words'

/**
 * All that files of a talk are made from, before a recipe takes its part of it.
 * @param revision of the programme; the current one when left out
 * @throws Refusal `conflict` when there is nothing to make a file of
 */
export async function wholeFilm(q: Queries, talk: string, timing: Recipe['timing'], revision?: number): Promise<Film> {
  if (timing === 'planned') {
    const [{ shape }, slides, rate] = await Promise.all([
      q.selectFrom('talk').select('shape').where('id', '=', talk).executeTakeFirstOrThrow(),
      slidesOf(q, talk),
      rateOfOwner(q, talk),
    ])
    return slideShow(shape, slides, { wordsPerMinute: rate })
  }
  const film = await filmOf(q, talk, revision)
  if (film.programme.pieces.length === 0) {
    throw new Refusal(
      'conflict',
      'Nothing is recorded yet, so there is nothing to make a file of. Record at the Lectern first, or take the planned times.',
    )
  }
  return film
}

/**
 * Says of any recipe which film its file is made from, once for many files of one film: the part that is wanted, without what is left out,
 * and with captions where those are a part of the picture.
 * @param captions whether any of the recipes draws them
 */
export async function filmsOfRecipes(q: Queries, talk: string, film: Film, captions: boolean): Promise<(recipe: Recipe) => FilmIndex> {
  const spoken = captions ? await Promise.all([saidIn(q, stretchIdsOf(film.programme)), languageOfTalk(q, talk)]) : null
  return (recipe) => {
    const index = indexFilm(filmFor(film, recipe))
    if (spoken === null || !drawsCaptions(recipe)) return index
    const [said, language] = spoken
    return withCaptions(index, captionsOf(filmWords(index, said), language))
  }
}

/** Whether captions are a part of a file's picture. */
export const drawsCaptions = ({ captions, format, timing }: Pick<Recipe, 'captions' | 'format' | 'timing'>): boolean =>
  captions === 'drawn' && isVideo(format) && timing === 'recorded'

/** The film that a file of a talk is made from. @throws Refusal `conflict` when there is nothing to make a file of */
export async function filmOfRecipe(q: Queries, talk: string, recipe: Recipe, revision?: number): Promise<FilmIndex> {
  const film = await wholeFilm(q, talk, recipe.timing, revision)
  return (await filmsOfRecipes(q, talk, film, drawsCaptions(recipe)))(recipe)
}
