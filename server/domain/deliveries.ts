import { randomUUID } from 'node:crypto'
import { statfs } from 'node:fs/promises'
import { estimate, renderPlan } from '@core/plan'
import type { MachineRecord, RenderPlan } from '@core/plan'
import { indexFilm } from '@core/scene'
import { Refusal } from '@core/model'
import type { Ms, Recipe } from '@core/model'
import { toFilm } from '@contracts'
import type { DeliveryView, EstimateView } from '@contracts'
import type { Queries } from '@server/database'
import type { DeliveryTable } from '@server/database'
import type { Selectable } from 'kysely'
import { settings } from '@server/settings'
import { tell } from './events'
import { filmView } from './films'
import { addJob } from './jobs'

/** How this machine's last deliveries compare with what was estimated for them. */
async function machineRecord(q: Queries): Promise<MachineRecord> {
  const rows = await q.selectFrom('delivery').select(['facts', 'estimate']).where('state', '=', 'done').orderBy('created', 'desc').limit(8).execute()
  const ratios = rows.flatMap((row) => (row.facts !== null && row.facts.encoded > row.facts.frames * 0.9 ? [row.facts.madeIn / Math.max(1, row.estimate.time)] : []))
    .sort((a, b) => a - b)
  const median = ratios[Math.floor(ratios.length / 2)]
  return { slowness: median === undefined ? 1 : Math.min(20, Math.max(0.1, median)) }
}

async function planOf(q: Queries, talk: string, recipe: Recipe): Promise<{ readonly plan: RenderPlan, readonly revision: number }> {
  const film = toFilm(await filmView(q, talk))
  if (film.programme.pieces.length === 0) {
    throw new Refusal('conflict', 'Nothing is recorded yet, so there is nothing to make a file of. Record at the Lectern first.')
  }
  return { plan: renderPlan(indexFilm(film), recipe), revision: film.programme.revision }
}

/** What a delivery would cost, and whether it fits. */
export async function estimateDelivery(q: Queries, talk: string, recipe: Recipe): Promise<EstimateView> {
  const [{ plan }, machine, disk] = await Promise.all([planOf(q, talk, recipe), machineRecord(q), statfs(settings().data)])
  return { ...estimate(plan, machine), length: plan.length, ...plan.size, free: disk.bavail * disk.bsize }
}

const clock = (ms: Ms): string => `${String(Math.floor(ms / 60_000))}:${String(Math.floor(ms / 1000) % 60).padStart(2, '0')}`

/** The name with its ending, made different from those that are there. */
async function freeName(q: Queries, talk: string, name: string): Promise<string> {
  const taken = new Set((await q.selectFrom('delivery').select('file').where('talk', '=', talk)
    .where('state', 'in', ['queued', 'making', 'checking', 'done']).execute()).map((row) => row.file))
  for (let n = 1; ; n += 1) {
    const file = n === 1 ? `${name}.mp4` : `${name}-${String(n)}.mp4`
    if (!taken.has(file)) return file
  }
}

/**
 * Has a file made by a recipe.
 * @throws Refusal `over-limit` when the recipe holds a limit that the film passes, `conflict` when nothing is recorded
 */
export async function orderDelivery(q: Queries, talk: string, recipe: Recipe): Promise<string> {
  await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
  const { plan, revision } = await planOf(q, talk, recipe)
  if (recipe.limit.kind === 'hold' && plan.length > recipe.limit.limit) {
    const over = Math.ceil((plan.length - recipe.limit.limit) / 1000)
    throw new Refusal('over-limit', `The talk is ${clock(plan.length)}, ${String(over)} s over its limit of ${clock(recipe.limit.limit)}. Record it shorter, raise the limit, or let the file be made as it is.`, { over })
  }
  const guess = estimate(plan, await machineRecord(q))
  const disk = await statfs(settings().data)
  if (disk.bavail * disk.bsize < guess.bytes * 3) {
    throw new Refusal('unavailable', 'There is not enough room on the server\'s disk for this file. Nothing was begun; delete files that are no longer needed.')
  }
  const id = randomUUID()
  await q.insertInto('delivery').values({
    id, talk, recipe: JSON.stringify(recipe), programme_revision: revision, file: await freeName(q, talk, recipe.name), state: 'queued',
    length_ms: plan.length, ...plan.size, frames_total: plan.frames, time_left_ms: guess.time, estimate: JSON.stringify(guess), sentence: null, facts: null,
  }).execute()
  await addJob(q, 'deliver', { delivery: id }, `deliver:${id}`)
  await tell(q, { talk, kind: 'delivery', id })
  return id
}

const toView = (row: Selectable<DeliveryTable>): DeliveryView => ({
  id: row.id,
  recipe: row.recipe,
  file: row.file,
  state: row.state,
  length: row.length_ms,
  width: row.width,
  height: row.height,
  framesDone: row.frames_done,
  framesTotal: row.frames_total,
  timeLeft: row.time_left_ms,
  estimate: row.estimate,
  sentence: row.sentence,
  facts: row.facts,
  created: row.created.toISOString(),
  revision: row.programme_revision,
})

/** A talk's ledger, newest first. */
export async function ledger(q: Queries, talk: string): Promise<readonly DeliveryView[]> {
  return (await q.selectFrom('delivery').selectAll().where('talk', '=', talk).orderBy('number', 'desc').execute()).map(toView)
}

/** Stops a delivery that is waiting or being made; the worker notices at its next step. */
export async function cancelDelivery(q: Queries, talk: string, id: string): Promise<void> {
  await q.updateTable('delivery').set({ state: 'cancelled', sentence: 'Cancelled.', time_left_ms: null })
    .where('id', '=', id).where('state', 'in', ['queued', 'making', 'checking']).execute()
  await tell(q, { talk, kind: 'delivery', id })
}

/** Has a delivery that failed or was cancelled made again; what is finished of it is used. */
export async function retryDelivery(q: Queries, talk: string, id: string): Promise<void> {
  const row = await q.selectFrom('delivery').select(['recipe', 'state']).where('id', '=', id).forUpdate().executeTakeFirstOrThrow()
  if (row.state !== 'failed' && row.state !== 'cancelled') throw new Refusal('conflict', 'This file is not waiting to be tried again.')
  await q.updateTable('delivery').set({ state: 'queued', sentence: null, frames_done: 0, file: await freeName(q, talk, row.recipe.name) }).where('id', '=', id).execute()
  await addJob(q, 'deliver', { delivery: id }, `deliver:${id}`)
  await tell(q, { talk, kind: 'delivery', id })
}

/** @throws Refusal `conflict` while the file is not finished */
export async function finishedFile(q: Queries, id: string): Promise<{ readonly file: string }> {
  const row = await q.selectFrom('delivery').select(['file', 'state']).where('id', '=', id).executeTakeFirstOrThrow()
  if (row.state !== 'done') throw new Refusal('conflict', 'This file is not finished yet.')
  return { file: row.file }
}
