import { randomUUID } from 'node:crypto'
import { Refusal } from '@core/model'
import type { Preset } from '@core/model'
import type { PresetView } from '@contracts'
import type { Queries } from '@server/database'

/** Most presets that a person keeps. */
const MOST = 50

/** A person's own presets, by name. */
export const presetsOf = async (q: Queries, owner: string): Promise<readonly PresetView[]> =>
  await q.selectFrom('preset').select(['id', 'name', 'preset']).where('owner', '=', owner).orderBy('name').execute()

/** Keeps a preset; one of the same name is exchanged. @throws Refusal `too-large` when there are too many */
export async function keepPreset(q: Queries, owner: string, name: string, preset: Preset): Promise<void> {
  const kept = await presetsOf(q, owner)
  if (kept.length >= MOST && !kept.some((one) => one.name === name))
    throw new Refusal('too-large', `There are ${String(MOST)} recipes already. Delete one first.`)
  await q
    .insertInto('preset')
    .values({ id: randomUUID(), owner, name, preset: JSON.stringify(preset) })
    .onConflict((conflict) => conflict.columns(['owner', 'name']).doUpdateSet({ preset: JSON.stringify(preset) }))
    .execute()
}

/** @throws Refusal `not-found` unless it is this person's */
export async function dropPreset(q: Queries, owner: string, id: string): Promise<void> {
  const gone = await q.deleteFrom('preset').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (gone.numDeletedRows === 0n) throw new Refusal('not-found', 'There is no such recipe here.')
}
