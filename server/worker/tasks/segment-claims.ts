import type { Pool, PoolClient } from 'pg'
import { log } from '@server/log'

/**
 * Which parts of films this worker is making, so that no other makes the same meanwhile. They are locks of the database on one
 * connection (PostgreSQL's advisory locks), so they go when the worker does, however it ends. Should that connection break, parts may be made
 * twice, which costs time and nothing else.
 */
export class SegmentClaims {
  readonly #client: PoolClient
  #broken = false

  private constructor(client: PoolClient) {
    this.#client = client
    client.on('error', this.#lose)
  }

  static async open(pool: Pool): Promise<SegmentClaims> {
    return new SegmentClaims(await pool.connect())
  }

  readonly #lose = (error: unknown): void => {
    this.#broken = true
    log.warn({ error: String(error) }, 'parts of films are not told apart from those of other workers')
  }

  async #ask(call: 'pg_try_advisory_lock' | 'pg_advisory_unlock', key: string): Promise<boolean> {
    try {
      // The first 64 bits of the part's own key.
      const number = BigInt.asIntN(64, BigInt(`0x${key.slice(0, 16)}`)).toString()
      return (await this.#client.query<{ held: boolean }>(`select ${call}($1::bigint) as held`, [number])).rows[0]?.held === true
    } catch (error) {
      this.#lose(error)
      return true
    }
  }

  /** @param key of the part, in hexadecimal @returns what gives it back; null while another worker makes it */
  async hold(key: string): Promise<(() => Promise<void>) | null> {
    if (!this.#broken && !await this.#ask('pg_try_advisory_lock', key)) return null
    return async () => {
      if (!this.#broken) await this.#ask('pg_advisory_unlock', key)
    }
  }

  /** Gives all of them back. */
  close(): void {
    this.#client.off('error', this.#lose)
    // The connection goes with its locks: none can be left over.
    this.#client.release(true)
  }
}
