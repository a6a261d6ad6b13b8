import { Refusal } from '@core/model'
import type { Size } from '@core/model'
import { renderPlan } from '@core/plan'
import type { Chapter } from '@core/plan'
import type { Queries } from '@server/database'
import { slidesOf } from './decks'
import { filmOfRecipe } from './film-of-recipe'
import { slidePicture, stepSeen } from './slide-picture'

/**
 * The picture that stands for a talk, as a JPEG.
 * @param chosen slide that is shown with all its steps; null, or one that is gone: the first
 * @param least size that it has at the least, in pixels
 * @throws Refusal `conflict` when the talk has no slides
 */
export async function coverOf(q: Queries, talk: string, chosen: string | null, least: Size): Promise<Buffer> {
  const [{ shape }, slides] = await Promise.all([
    q.selectFrom('talk').select('shape').where('id', '=', talk).executeTakeFirstOrThrow(),
    slidesOf(q, talk),
  ])
  const slide = slides.find(({ id }) => id === chosen) ?? slides[0]
  if (slide === undefined) throw new Refusal('conflict', 'This talk has no slide that could be its cover.')
  return await slidePicture(stepSeen(slide, shape), shape, Math.max(least.width, Math.ceil((least.height * shape.width) / shape.height)))
}

/** Chapters of a file that was made, in its own time. */
export async function chaptersOf(q: Queries, delivery: string): Promise<readonly Chapter[]> {
  const { talk, recipe, programme_revision } = await q
    .selectFrom('delivery')
    .select(['talk', 'recipe', 'programme_revision'])
    .where('id', '=', delivery)
    .executeTakeFirstOrThrow()
  return renderPlan(await filmOfRecipe(q, talk, recipe, programme_revision ?? undefined), recipe).chapters
}
