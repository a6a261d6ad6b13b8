import { randomUUID } from 'node:crypto'
import { median } from 'd3'
import { sql } from 'kysely'
import { clockText } from '@core/formats'
import { STATED_ERROR, estimate, fileName, renderPlan, slidesSeenIn } from '@core/plan'
import type { MachineRecord } from '@core/plan'
import type { FilmIndex } from '@core/scene'
import { Refusal, UNDER_WAY, UNFINISHED, isVideo, unreachable } from '@core/model'
import type { Film, Format, Ms, PartWanted, Recipe, Slide, SlideId } from '@core/model'
import type { DeliveryView, EstimateView } from '@contracts'
import type { Queries } from '@server/database'
import type { DeliveryTable } from '@server/database'
import type { Selectable } from 'kysely'
import { settings } from '@server/settings'
import { roomLeft } from '@server/store'
import { slidesOf } from './decks'
import { tell } from './events'
import { drawsCaptions, filmOfRecipe, filmsOfRecipes, wholeFilm } from './film-of-recipe'
import { lookAtEntriesOf } from './entries-waiting'
import { shareTurns } from './film-turns'
import { AFTER_FILES, addJob, removeJob } from './jobs'
import { ownerOf } from './ownership'
import { probeFor } from './probes'
import { roomForFiles, roomForFilm, roomInQuota } from './quotas'

/** Deliveries that a machine's record goes by. */
const RECORD = 8

/** How long this machine's last deliveries of a format took, against what is reckoned for a machine of the usual speed. */
async function machineRecord(q: Queries, format: Format): Promise<MachineRecord> {
  const rows = await q
    .selectFrom('delivery')
    .select(['facts', 'estimate'])
    .where('state', '=', 'done')
    .where(sql`recipe ->> 'format'`, '=', format)
    .orderBy('created', 'desc')
    .limit(RECORD)
    .execute()
  const ratios = rows.flatMap(({ facts, estimate: { reckoned } }) =>
    facts !== null && reckoned !== undefined && facts.encoded >= facts.frames * 0.9 ? [facts.madeIn / Math.max(1, reckoned)] : [],
  )
  return { slowness: median(ratios) ?? null }
}

/** Of which programme a recipe's file is; null: of planned times. */
export const revisionOf = (recipe: Recipe, film: Film): number | null => (recipe.timing === 'planned' ? null : film.programme.revision)

/**
 * What a delivery would cost, and whether it fits. What is not known of the talk's pictures is looked at as soon as the machine has
 * time, and told.
 */
export async function estimateDelivery(q: Queries, talk: string, recipe: Recipe): Promise<EstimateView> {
  const [index, machine, free] = await Promise.all([filmOfRecipe(q, talk, recipe), machineRecord(q, recipe.format), roomLeft()])
  const plan = renderPlan(index, recipe)
  const probe = await probeFor(q, talk, plan, recipe)
  const canTell = isVideo(plan.format) && plan.bits.kind !== 'size'
  if (canTell && settings().makeAhead > 0 && probe?.programme_revision !== revisionOf(recipe, index.film))
    await addJob(q, 'probe', { talk }, `probe:${talk}`, { starts: null, place: AFTER_FILES })
  const tried = probe !== undefined || !canTell
  return {
    ...estimate(plan, machine, probe?.found),
    within: STATED_ERROR[tried ? 'tried' : 'untried'],
    length: plan.length,
    ...plan.frame,
    free,
  }
}

/** The name with its ending, made different from those that are there. */
async function freeName(q: Queries, talk: string, name: string, format: Format): Promise<string> {
  const taken = new Set(
    (
      await q
        .selectFrom('delivery')
        .select('file')
        .where('talk', '=', talk)
        .where('state', 'in', [...UNFINISHED, 'done'])
        .execute()
    ).map((row) => row.file),
  )
  for (let n = 1; ; n += 1) {
    const file = n === 1 ? `${name}.${format}` : `${name}-${String(n)}.${format}`
    if (!taken.has(file)) return file
  }
}

/** What all files of one order are made with. */
interface Order {
  readonly talk: string
  readonly film: Film
  /** Which film each of them is made from. */
  readonly filmOf: (recipe: Recipe) => FilmIndex
  readonly name: string
  readonly slides: readonly Slide[]
  readonly machine: MachineRecord
  /** When they are begun at the earliest; null: as soon as can be. */
  readonly starts: Date | null
}

/** What a file is called by its recipe's pattern. @param slide of which the file is; null: of several */
function nameOf({ name, slides }: Order, recipe: Recipe, slide: SlideId | null): string {
  const number = slides.findIndex((one) => one.id === slide)
  return fileName(
    recipe.name,
    {
      talk: name,
      date: new Date().toISOString().slice(0, 10),
      lines: String(recipe.lines),
      slide: slides[number]?.title ?? '',
      number: number < 0 ? '' : String(number + 1).padStart(2, '0'),
    },
    recipe.fields,
  )
}

/** Between which times a part lies; undefined when it lies anywhere. */
function timesOf(part: PartWanted): { readonly from: Ms; readonly to: Ms } | undefined {
  switch (part.kind) {
    case 'all':
      return undefined
    case 'range':
      return { from: part.from, to: part.to }
    case 'slides':
      return part.within
    default:
      return unreachable(part)
  }
}

/**
 * Has files made by a recipe: one, or one of each slide that is shown.
 * @param starts when they are begun at the earliest; null: as soon as can be
 * @returns ids of the deliveries, in order
 * @throws Refusal `over-limit` when the recipe holds a limit that the film passes, `conflict` when there is nothing to make a file of
 */
export async function orderDelivery(q: Queries, talk: string, recipe: Recipe, starts: Date | null = null): Promise<readonly string[]> {
  const { name } = await q.selectFrom('talk').select('name').where('id', '=', talk).forUpdate().executeTakeFirstOrThrow()
  const [film, slides, machine] = await Promise.all([wholeFilm(q, talk, recipe.timing), slidesOf(q, talk), machineRecord(q, recipe.format)])
  const order: Order = { talk, film, filmOf: await filmsOfRecipes(q, talk, film, drawsCaptions(recipe)), name, slides, machine, starts }
  const shown = recipe.each === 'talk' ? [] : slidesSeenIn(film.programme, recipe.part)
  await roomForFiles(q, talk, Math.max(1, shown.length))
  if (recipe.each === 'talk') {
    const id = await orderOne(q, order, recipe, null)
    await shareTurns(q, talk)
    return [id]
  }
  const within = timesOf(recipe.part)
  // Files that differ by their slides have names that do.
  const pattern = /\{(slide|number)\}/.test(recipe.name) ? recipe.name : `${recipe.name}-{number}`
  const ids: string[] = []
  for (const slide of shown)
    ids.push(
      await orderOne(
        q,
        order,
        { ...recipe, name: pattern, each: 'talk', part: { kind: 'slides', slides: [slide], ...(within === undefined ? {} : { within }) } },
        slide,
      ),
    )
  await shareTurns(q, talk)
  return ids
}

async function orderOne(q: Queries, order: Order, recipe: Recipe, slide: SlideId | null): Promise<string> {
  const { talk, film, filmOf, machine, starts } = order
  const plan = renderPlan(filmOf(recipe), recipe)
  if (recipe.limit.kind === 'hold' && plan.length > recipe.limit.limit) {
    const over = Math.ceil((plan.length - recipe.limit.limit) / 1000)
    throw new Refusal(
      'over-limit',
      `The talk is ${clockText(plan.length)}, ${String(over)} s over its limit of ${clockText(recipe.limit.limit)}. Record it shorter, ` +
        `raise the limit, or let the file be made as it is.`,
      { over },
    )
  }
  const probe = await probeFor(q, talk, plan, recipe)
  // What this machine's record is held against does not depend on that record.
  const guess = { ...estimate(plan, machine, probe?.found), reckoned: estimate(plan).time }
  if ((await roomLeft()) < guess.bytes * 3) {
    throw new Refusal(
      'unavailable',
      "There is not enough room on the server's disk for this file. Nothing was begun; delete files that are no longer needed.",
    )
  }
  await roomInQuota(q, talk, guess.bytes)
  await roomForFilm(q, talk, plan.length)
  const id = randomUUID()
  await q
    .insertInto('delivery')
    .values({
      id,
      talk,
      recipe: JSON.stringify(recipe),
      programme_revision: revisionOf(recipe, film),
      starts,
      file: await freeName(q, talk, nameOf(order, recipe, slide), recipe.format),
      state: 'queued',
      length_ms: Math.ceil(plan.length),
      ...plan.frame,
      frames_total: plan.frames,
      time_left_ms: guess.time,
      estimate: JSON.stringify(guess),
      sentence: null,
      facts: null,
    })
    .execute()
  await addJob(q, 'deliver', { delivery: id }, jobOf(id), { starts, place: 0 })
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
  starts: row.starts?.toISOString() ?? null,
  place: row.place,
})

/** A talk's ledger, newest first. */
export async function ledger(q: Queries, talk: string): Promise<readonly DeliveryView[]> {
  return (await q.selectFrom('delivery').selectAll().where('talk', '=', talk).orderBy('number', 'desc').execute()).map(toView)
}

/** Stops a delivery that is waiting or being made; the worker notices at its next step. */
export async function cancelDelivery(q: Queries, talk: string, id: string): Promise<void> {
  await q
    .updateTable('delivery')
    .set((build) => ({ state: 'cancelled', sentence: 'Cancelled.', time_left_ms: null, turn: build('turn', '+', 1) }))
    .where('id', '=', id)
    .where('state', 'in', UNFINISHED)
    .execute()
  await removeJob(q, jobOf(id))
  await shareTurns(q, talk)
  await lookAtEntriesOf(q, id)
  await tell(q, { talk, kind: 'delivery', id })
}

/** Has a delivery stand still until it is told to go on; what is finished of it is kept. */
export async function pauseDelivery(q: Queries, talk: string, id: string): Promise<void> {
  await q
    .updateTable('delivery')
    .set((build) => ({ state: 'paused', time_left_ms: null, turn: build('turn', '+', 1) }))
    .where('id', '=', id)
    .where('state', 'in', UNDER_WAY)
    .execute()
  await removeJob(q, jobOf(id))
  await tell(q, { talk, kind: 'delivery', id })
}

const jobOf = (id: string): string => `deliver:${id}`

/** Has a delivery that failed, was cancelled or stands still made; what is finished of it is used. */
export async function retryDelivery(q: Queries, talk: string, id: string): Promise<void> {
  const row = await q
    .selectFrom('delivery')
    .select(['recipe', 'state', 'file', 'place'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirstOrThrow()
  if (!['failed', 'cancelled', 'paused'].includes(row.state)) throw new Refusal('conflict', 'This file is not waiting to be tried again.')
  const file = row.state === 'paused' ? row.file : await freeName(q, talk, row.file.replace(/(-\d+)?\.\w+$/, ''), row.recipe.format)
  await q
    .updateTable('delivery')
    .set({ state: 'queued', sentence: null, frames_done: 0, file, starts: null })
    .where('id', '=', id)
    .execute()
  await addJob(q, 'deliver', { delivery: id }, jobOf(id), { starts: null, place: 0 })
  await shareTurns(q, talk)
  await tell(q, { talk, kind: 'delivery', id })
}

/**
 * Has a delivery that waits made before all others of the same person that do, and at once rather than at its time.
 * @throws Refusal `conflict` when it does not wait
 */
export async function putFirst(q: Queries, talk: string, id: string): Promise<void> {
  const { least } = await q
    .selectFrom('delivery')
    .innerJoin('talk', 'talk.id', 'delivery.talk')
    .select((build) => build.fn.min('delivery.place').as('least'))
    .where('delivery.state', '=', 'queued')
    .where('talk.owner', '=', await ownerOf(q, talk))
    .executeTakeFirstOrThrow()
  const place = (least ?? 0) - 1
  const changed = await q
    .updateTable('delivery')
    .set({ place, starts: null })
    .where('id', '=', id)
    .where('state', '=', 'queued')
    .executeTakeFirst()
  if (changed.numUpdatedRows === 0n) throw new Refusal('conflict', 'This file does not wait any more.')
  await addJob(q, 'deliver', { delivery: id }, jobOf(id), { starts: null, place: 0 })
  await shareTurns(q, talk)
  await tell(q, { talk, kind: 'delivery', id })
}

/** @throws Refusal `conflict` while the file is not finished */
export async function finishedFile(q: Queries, id: string): Promise<{ readonly file: string; readonly format: Format }> {
  const row = await q.selectFrom('delivery').select(['file', 'recipe', 'state']).where('id', '=', id).executeTakeFirstOrThrow()
  if (row.state !== 'done') throw new Refusal('conflict', 'This file is not finished yet.')
  return { file: row.file, format: row.recipe.format }
}

/**
 * Gives a file another name. In one transaction.
 * @param name without its ending
 * @param exact whether it is to be called that and nothing else: another file of that name is called otherwise then. Else this one is made
 * different from those that are there
 */
export async function renameDelivery(q: Queries, talk: string, id: string, name: string, exact = false): Promise<void> {
  await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
  const { file, recipe } = await q.selectFrom('delivery').select(['file', 'recipe']).where('id', '=', id).executeTakeFirstOrThrow()
  const wanted = `${name}.${recipe.format}`
  if (file === wanted) return
  const free = await freeName(q, talk, name, recipe.format)
  if (exact) await q.updateTable('delivery').set({ file: free }).where('talk', '=', talk).where('file', '=', wanted).execute()
  await q
    .updateTable('delivery')
    .set({ file: exact ? wanted : free })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk, kind: 'delivery', id })
}

/** Takes a file out of the ledger and off the disk; it can be made again. @throws Refusal `conflict` while it is being made */
export async function deleteDelivery(q: Queries, talk: string, id: string): Promise<void> {
  await lookAtEntriesOf(q, id)
  const gone = await q.deleteFrom('delivery').where('id', '=', id).where('state', 'in', ['done', 'failed', 'cancelled']).executeTakeFirst()
  if (gone.numDeletedRows === 0n) throw new Refusal('conflict', 'This file is being made. Cancel it first; then it can be deleted.')
  await tell(q, { talk, kind: 'delivery', id })
}
