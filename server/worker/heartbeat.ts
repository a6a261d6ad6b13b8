import { sql } from 'kysely'
import type { WorkerUtils } from 'graphile-worker'
import type { Database } from '@server/database'
import { log } from '@server/log'

/**
 * Lets other processes know that these workers live, and frees the jobs of those that no longer do, so that a killed
 * worker costs no more than what it was doing.
 * @param grace ms without a sign after which a worker is taken for dead
 */
export class Heartbeat {
  readonly #db: Database
  readonly #utils: WorkerUtils
  readonly #grace: number
  readonly #ids = new Set<string>()
  #timer: NodeJS.Timeout | undefined

  constructor(db: Database, utils: WorkerUtils, grace: number) {
    this.#db = db
    this.#utils = utils
    this.#grace = grace
  }

  async join(id: string): Promise<void> {
    this.#ids.add(id)
    await this.beat()
  }

  start(): void {
    this.#timer = setInterval(
      () => {
        this.beat().catch((error: unknown) => {
          log.warn({ error: String(error) }, 'heartbeat missed')
        })
      },
      Math.max(500, this.#grace / 4),
    )
  }

  /** One sign of life, and one look for the dead, of whom it is not one itself, however long that sign took. */
  async beat(): Promise<void> {
    if (this.#ids.size > 0) {
      await this.#db
        .insertInto('worker')
        .values([...this.#ids].map((id) => ({ id, seen: sql<Date>`now()` })))
        .onConflict((conflict) => conflict.column('id').doUpdateSet({ seen: sql`now()` }))
        .execute()
    }
    const held = await sql<{ id: string }>`
      select distinct locked_by as id from graphile_worker._private_jobs
      where locked_by is not null and locked_by <> all(${[...this.#ids]}::text[])
        and locked_at < now() - ${this.#grace} * interval '1 millisecond' and not exists (
        select 1 from worker where worker.id = locked_by and worker.seen > now() - ${this.#grace} * interval '1 millisecond')`.execute(
      this.#db,
    )
    const dead = held.rows.map((row) => row.id)
    if (dead.length > 0) {
      log.warn({ dead }, 'jobs of dead workers are done again')
      await this.#utils.forceUnlockWorkers(dead)
    }
    await this.#db
      .deleteFrom('worker')
      .where('seen', '<', sql<Date>`now() - interval '1 day'`)
      .execute()
  }

  async leave(): Promise<void> {
    clearInterval(this.#timer)
    if (this.#ids.size > 0)
      await this.#db
        .deleteFrom('worker')
        .where('id', 'in', [...this.#ids])
        .execute()
  }
}
