import type { WorkerUtils } from 'graphile-worker'
import type { Database } from '@server/database'
import { deadWorkers, noteAlive, noteLeft } from '@server/domain'
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
    const own = [...this.#ids]
    await noteAlive(this.#db, own)
    const dead = await deadWorkers(this.#db, this.#grace, own)
    if (dead.length > 0) {
      log.warn({ dead }, 'jobs of dead workers are done again')
      await this.#utils.forceUnlockWorkers([...dead])
    }
  }

  async leave(): Promise<void> {
    clearInterval(this.#timer)
    await noteLeft(this.#db, [...this.#ids])
  }
}
