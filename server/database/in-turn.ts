import type { PostgresCursor, PostgresPool, PostgresPoolClient, PostgresQueryResult } from 'kysely'
import type pg from 'pg'

/**
 * A connection that is asked one thing after the other: in a transaction, what is asked side by side waits here for its turn. The driver
 * would keep such a queue as well, but is going to give it up (pg 8, deprecation of queries while another one runs).
 */
class ClientInTurn implements PostgresPoolClient {
  readonly #client: pg.PoolClient
  #last: Promise<unknown> = Promise.resolve()

  constructor(client: pg.PoolClient) {
    this.#client = client
  }

  query<Row>(text: string, parameters: readonly unknown[]): Promise<PostgresQueryResult<Row>>
  query<Row>(cursor: PostgresCursor<Row>): PostgresCursor<Row>
  query<Row>(asked: string | PostgresCursor<Row>, parameters: readonly unknown[] = []): unknown {
    if (typeof asked !== 'string') throw new Error('rows are not read by cursors here')
    const ask = (): Promise<unknown> => this.#client.query(asked, [...parameters])
    const answer = this.#last.then(ask, ask)
    this.#last = answer
    return answer
  }

  release(): void {
    this.#client.release()
  }
}

/** A pool for Kysely, whose connections are each asked one thing at a time. */
export const inTurn = (pool: pg.Pool): PostgresPool => ({
  connect: async () => new ClientInTurn(await pool.connect()),
  end: () => pool.end(),
})
