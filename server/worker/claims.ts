import type { Pool, PoolClient } from 'pg'
import { databasePool } from '@server/database'
import { log } from '@server/log'

/** How often it is looked whether something claimed is free, in ms. */
const LOOK_AGAIN = 500

/**
 * What this worker is doing, so that no other does the same meanwhile. Claims are locks of the database on one connection
 * (PostgreSQL's advisory locks), so they go when the worker does, however it ends. Should that connection break, something may be done
 * twice, which costs time and nothing else.
 */
export class Claims {
  readonly #pool: Pool
  /** A connection may hold a lock twice, so what is held here is told apart here. */
  readonly #held = new Set<string>()
  #client: Promise<PoolClient> | null = null

  constructor(pool: Pool) {
    this.#pool = pool
  }

  #open(): Promise<PoolClient> {
    const opening = this.#pool.connect().then((client) => {
      client.on('error', (error) => { this.#drop(opening, error) })
      return client
    })
    return opening
  }

  /** A connection that broke is not used again, and the pool may have another in its place. */
  #drop(lost: Promise<PoolClient>, error: unknown): void {
    if (this.#client !== lost) return
    this.#client = null
    log.warn({ error: String(error) }, 'what this worker does is not told apart from what others do')
    lost.then((client) => { client.release(true) }, () => undefined)
  }

  async #ask(call: 'pg_try_advisory_lock' | 'pg_advisory_unlock', name: string): Promise<boolean> {
    const client = this.#client ??= this.#open()
    try {
      return (await (await client).query<{ held: boolean }>(`select ${call}(hashtextextended($1, 0)) as held`, [name])).rows[0]?.held === true
    } catch (error) {
      this.#drop(client, error)
      return true
    }
  }

  /** @param name of what is to be done, the same for all workers @returns what gives it back; null while it is being done, here or elsewhere */
  async hold(name: string): Promise<(() => Promise<void>) | null> {
    if (this.#held.has(name)) return null
    this.#held.add(name)
    if (!await this.#ask('pg_try_advisory_lock', name)) {
      this.#held.delete(name)
      return null
    }
    return async () => {
      await this.#ask('pg_advisory_unlock', name)
      this.#held.delete(name)
    }
  }

  /** Like `hold`, once it is free. */
  async holdOnceFree(name: string): Promise<() => Promise<void>> {
    for (;;) {
      const release = await this.hold(name)
      if (release !== null) return release
      await new Promise((resolve) => { setTimeout(resolve, LOOK_AGAIN) })
    }
  }

  /** Gives all of them back: the connection goes with its locks. */
  async close(): Promise<void> {
    const client = this.#client
    this.#client = null
    await client?.then((open) => { open.release(true) }, () => undefined)
  }
}

let known: Claims | undefined
/** What this process has claimed. */
export const claims = (): Claims => (known ??= new Claims(databasePool()))
