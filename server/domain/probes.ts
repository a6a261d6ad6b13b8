import { sql } from 'kysely'
import { probeSetting } from '@core/plan'
import type { Probe, RenderPlan } from '@core/plan'
import type { Recipe } from '@core/model'
import type { Queries } from '@server/database'
import { tell } from './events'

/**
 * What is known of how a talk's own pictures are made for a plan, and of which state of the talk; undefined when they were not looked
 * at.
 */
export const probeFor = (
  q: Queries,
  talk: string,
  plan: RenderPlan,
  recipe: Recipe,
): Promise<{ readonly found: Probe; readonly programme_revision: number | null } | undefined> =>
  q
    .selectFrom('probe')
    .select(['found', 'programme_revision'])
    .where('talk', '=', talk)
    .where('setting', '=', probeSetting(plan, recipe))
    .executeTakeFirst()

/** Keeps what was found, and tells of it. @param revision of the programme that was looked at; null: planned times */
export async function keepProbe(
  q: Queries,
  talk: string,
  plan: RenderPlan,
  recipe: Recipe,
  revision: number | null,
  found: Probe,
): Promise<void> {
  const values = { programme_revision: revision, found: JSON.stringify(found) }
  await q
    .insertInto('probe')
    .values({ talk, setting: probeSetting(plan, recipe), ...values })
    .onConflict((conflict) => conflict.columns(['talk', 'setting']).doUpdateSet({ ...values, made: sql`now()` }))
    .execute()
  await tell(q, { talk, kind: 'estimate', id: null })
}

/** Whether a talk's pictures were looked at for a plan, as the talk is. */
export const isProbed = async (q: Queries, talk: string, plan: RenderPlan, recipe: Recipe, revision: number | null): Promise<boolean> =>
  (await probeFor(q, talk, plan, recipe))?.programme_revision === revision
