import { sql } from 'kysely'
import { until } from './product'
import type { Product } from './product'

/** Has the worker reclaim space now, and waits until it has. */
export async function reclaimNow(product: Product): Promise<void> {
  const {
    rows: [job],
  } = await sql<{ id: string }>`select (graphile_worker.add_job('reclaim')).id`.execute(product.db)
  await until(
    'the job',
    async () => (await sql`select 1 from graphile_worker.jobs where id = ${job?.id}`.execute(product.db)).rows.length === 0,
  )
}
