import { Refusal } from '@core/model'
import type { Recipe } from '@core/model'
import type { FilmIndex } from '@core/scene'
import { database } from '@server/database'
import { filmOfRecipe, recipeOf } from '@server/domain'

/** What a talk's last recipe makes of it; null when there is nothing to make without being asked. */
export async function lastRecipe(talk: string): Promise<{ readonly index: FilmIndex; readonly recipe: Recipe } | null> {
  const recipe = await recipeOf(database(), talk)
  if (recipe === null || recipe.bits.kind === 'size') return null
  try {
    return { index: await filmOfRecipe(database(), talk, recipe), recipe }
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}
