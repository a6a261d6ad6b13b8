import { Refusal } from '@core/model'
import type { Recipe } from '@core/model'
import { indexFilm } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { database } from '@server/database'
import { filmOfRecipe } from '@server/domain'

/** What a talk's last recipe makes of it; null when there is nothing to make without being asked. */
export async function lastRecipe(talk: string): Promise<{ readonly index: FilmIndex; readonly recipe: Recipe } | null> {
  const row = await database().selectFrom('talk').select(['recipe', 'deleted']).where('id', '=', talk).executeTakeFirst()
  if (row === undefined || row.deleted !== null || row.recipe.bits.kind === 'size') return null
  try {
    return { index: indexFilm(await filmOfRecipe(database(), talk, row.recipe)), recipe: row.recipe }
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}
