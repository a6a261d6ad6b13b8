import { spawnSync } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { USUAL_RECIPE } from '@core/model'
import type { DeliveryFacts, Programme, Recipe } from '@core/model'
import { startCluster } from '../scripts/start/postgres'

/** A database and data folder of the bench's own with the demo talks in it, set as this process's own. @returns what ends it */
export async function demoProduct(): Promise<() => void> {
  const data = mkdtempSync(join(tmpdir(), 'aisle-bench-'))
  chmodSync(data, 0o755)
  const cluster = await startCluster(data)
  process.env['DATABASE_URL'] = cluster.url
  process.env['AISLE_DATA'] = data
  process.env['AISLE_LOG'] ??= 'info'
  for (const script of ['scripts/migrate.ts', 'demo/seed/main.ts']) {
    const ended = spawnSync(process.execPath, ['--import', 'tsx', script], { env: process.env, stdio: 'inherit' })
    if (ended.status !== 0) throw new Error(`${script} failed`)
  }
  // The demo's own file waits for a worker that is not here: nothing would be made ahead, or looked at, before it.
  const { database } = await import('@server/database')
  await database().updateTable('delivery').set({ state: 'cancelled' }).where('state', '=', 'queued').execute()
  return () => {
    cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
}

/** A file that was made. */
export interface MadeFile {
  /** ms */
  readonly took: number
  readonly file: string
  readonly facts: DeliveryFacts
  readonly estimate: { readonly bytes: number; readonly time: number }
  /**
   * How far the whole time was off at worst that the time left came to after the first tenth, as a part of what it was; null when that
   * was too short to see.
   */
  readonly leftOff: number | null
}

/** How often it is looked how much time is said to be left, in ms. */
const LOOK = 200

/** The demo talk's id. */
export async function demoTalk(): Promise<string> {
  const { database } = await import('@server/database')
  const { id } = await database().selectFrom('talk').select('id').where('name', '=', 'The rule of twelfths').executeTakeFirstOrThrow()
  return id
}

/** Changes a talk's programme. */
export async function changeProgramme(talk: string, change: (programme: Programme) => Programme): Promise<void> {
  const { database } = await import('@server/database')
  const { currentProgramme, saveProgramme } = await import('@server/domain')
  const before = await currentProgramme(database(), talk)
  await saveProgramme(database(), talk, change(before), { kind: 'other' })
}

/** Forgets all parts of films that were made. */
export async function forgetParts(): Promise<void> {
  const { removeTree, segmentFolder } = await import('@server/store')
  await removeTree(segmentFolder())
}

/**
 * Has a look taken at a talk's pictures, as the page does before it says what a file would cost.
 * @param recipe what is to be otherwise than usual
 */
export async function lookedAt(talk: string, recipe: Partial<Recipe>): Promise<void> {
  const { database } = await import('@server/database')
  const { saveRecipe } = await import('@server/domain')
  const { alone } = await import('@server/worker/claims')
  const { probeTask } = await import('@server/worker/tasks/probe')
  await saveRecipe(database(), talk, { ...USUAL_RECIPE, name: 'bench', limit: { kind: 'none' }, ...recipe })
  await alone('probe', talk, probeTask)
}

/** Makes a delivery by the worker's own task. @param recipe what is to be otherwise than usual */
export async function deliverNow(talk: string, recipe: Partial<Recipe>): Promise<MadeFile> {
  const { database } = await import('@server/database')
  const { orderDelivery, removeJob } = await import('@server/domain')
  const { alone } = await import('@server/worker/claims')
  const { deliverTask } = await import('@server/worker/tasks/deliver')
  const { deliveryPath } = await import('@server/store')
  const db = database()
  const delivery = await db.transaction().execute(async (q) => {
    const [id = ''] = await orderDelivery(q, talk, { ...USUAL_RECIPE, name: 'bench', limit: { kind: 'none' }, ...recipe })
    // It is made here: another worker that is there may help, and no more.
    await removeJob(q, `deliver:${id}`)
    return id
  })
  const began = performance.now()
  const left: { readonly at: number; readonly left: number; readonly share: number }[] = []
  const timer = setInterval(() => {
    db.selectFrom('delivery')
      .select(['time_left_ms', 'frames_done', 'frames_total', 'state'])
      .where('id', '=', delivery)
      .executeTakeFirst()
      .then((now) => {
        if (now?.state === 'making' && now.time_left_ms !== null)
          left.push({ at: performance.now() - began, left: now.time_left_ms, share: now.frames_done / now.frames_total })
      })
      .catch(() => undefined)
  }, LOOK)
  await alone('deliver', delivery, deliverTask)
  clearInterval(timer)
  const took = performance.now() - began
  const offs = left.filter(({ share }) => share > 0.1).map((one) => Math.abs(one.at + one.left - took) / took)
  const row = await db
    .selectFrom('delivery')
    .select(['state', 'sentence', 'facts', 'estimate'])
    .where('id', '=', delivery)
    .executeTakeFirstOrThrow()
  if (row.state !== 'done' || row.facts === null) throw new Error(row.sentence ?? 'the delivery is not done')
  return {
    took,
    file: deliveryPath(delivery),
    facts: row.facts,
    estimate: row.estimate,
    leftOff: offs.length === 0 ? null : Math.max(...offs),
  }
}
