import type { Pool, PoolClient } from 'pg'
import { database, databasePool } from '@server/database'
import type { Database, Queries } from '@server/database'
import { dropClaim, holdsClaim, raiseClaim } from '@server/domain'
import { log } from '@server/log'

/** How often it is looked whether something claimed is free, in ms. */
const LOOK_AGAIN = 500

/** Somebody else has begun the same since: what was made here is not to be put anywhere. */
export class ClaimLost extends Error {
  constructor(name: string) {
    super(`another worker has taken over: ${name}`)
    this.name = 'ClaimLost'
  }
}

/** What one worker does, until another takes it over. */
export interface Claim {
  /** Higher than that of every claim before it, so names made with it are nobody else's. */
  readonly number: number
  /**
   * Makes sure that nobody has taken it over, and that nobody does before the transaction ends. Wherever results are put, this is asked
   * first.
   * @throws ClaimLost
   */
  readonly stillHeld: (q: Queries) => Promise<void>
  readonly release: () => Promise<void>
}

/**
 * What this worker is doing, so that no other does the same meanwhile. Claims are locks of the database on one connection
 * (PostgreSQL's advisory locks), so they go when the worker does, however it ends. Should that connection break, something may be done
 * twice: what is kept by its content is the same then; for all else, a number that rises with every claim tells whose results count.
 */
export class Claims {
  readonly #pool: Pool
  readonly #db: Database
  /** A connection may hold a lock twice, so what is held here is told apart here. */
  readonly #held = new Set<string>()
  #client: Promise<PoolClient> | null = null

  constructor(pool: Pool, db: Database) {
    this.#pool = pool
    this.#db = db
  }

  #open(): Promise<PoolClient> {
    const opening = this.#pool.connect().then((client) => {
      client.on('error', (error) => {
        this.#drop(opening, error)
      })
      return client
    })
    return opening
  }

  /** A connection that broke is not used again, and the pool may have another in its place. */
  #drop(lost: Promise<PoolClient>, error: unknown): void {
    if (this.#client !== lost) return
    this.#client = null
    log.warn({ error: String(error) }, 'what this worker does is not told apart from what others do')
    lost.then(
      (client) => {
        client.release(true)
      },
      () => undefined,
    )
  }

  async #ask(call: 'pg_try_advisory_lock' | 'pg_advisory_unlock', name: string): Promise<boolean> {
    const client = (this.#client ??= this.#open())
    try {
      return (
        (await (await client).query<{ held: boolean }>(`select ${call}(hashtextextended($1, 0)) as held`, [name])).rows[0]?.held === true
      )
    } catch (error) {
      this.#drop(client, error)
      return true
    }
  }

  /**
   * @param name of what is to be done, the same for all workers
   * @returns what gives it back; null while it is being done, here or elsewhere
   */
  async hold(name: string): Promise<(() => Promise<void>) | null> {
    if (this.#held.has(name)) return null
    this.#held.add(name)
    if (!(await this.#ask('pg_try_advisory_lock', name))) {
      this.#held.delete(name)
      return null
    }
    return async () => {
      await this.#ask('pg_advisory_unlock', name)
      this.#held.delete(name)
    }
  }

  /** Takes over what nobody does; null while somebody does. */
  async claimIfFree(name: string): Promise<Claim | null> {
    const free = await this.hold(name)
    return free === null ? null : await this.#numbered(name, free)
  }

  /** Takes over what nobody does, or does any more, once it is free. */
  async claim(name: string): Promise<Claim> {
    for (;;) {
      const claim = await this.claimIfFree(name)
      if (claim !== null) return claim
      await new Promise((resolve) => {
        setTimeout(resolve, LOOK_AGAIN)
      })
    }
  }

  async #numbered(name: string, free: () => Promise<void>): Promise<Claim> {
    try {
      const number = await raiseClaim(this.#db, name)
      return {
        number,
        stillHeld: async (q) => {
          if (!(await holdsClaim(q, name, number))) throw new ClaimLost(name)
        },
        release: async () => {
          await dropClaim(this.#db, name, number).catch(() => undefined)
          await free()
        },
      }
    } catch (error) {
      await free()
      throw error
    }
  }

  /** Gives all of them back: the connection goes with its locks. */
  async close(): Promise<void> {
    const client = this.#client
    this.#client = null
    await client?.then(
      (open) => {
        open.release(true)
      },
      () => undefined,
    )
  }
}

let known: Claims | undefined
/** What this process has claimed. */
export const claims = (): Claims => (known ??= new Claims(databasePool(), database()))

/** What a worker does with something of that id. */
export type Work = (id: string, claim: Claim) => Promise<void>

/**
 * Does what this process alone is to do meanwhile, once nobody else does.
 * @param task its name, the same for all workers
 * @throws ClaimLost when another took it over, and whatever the work throws
 */
export async function alone(task: string, id: string, work: Work): Promise<void> {
  await held(await claims().claim(`${task}:${id}`), id, work)
}

/** Does it unless somebody does it already. @returns whether it was done here */
export async function aloneIfFree(task: string, id: string, work: Work): Promise<boolean> {
  const claim = await claims().claimIfFree(`${task}:${id}`)
  if (claim !== null) await held(claim, id, work)
  return claim !== null
}

async function held(claim: Claim, id: string, work: Work): Promise<void> {
  try {
    await work(id, claim)
  } finally {
    await claim.release()
  }
}
