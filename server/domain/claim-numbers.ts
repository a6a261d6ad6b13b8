import { sql } from 'kysely'
import type { Queries } from '@server/database'

/** Gives whoever begins something a number that is higher than anybody's before. */
export async function raiseClaim(q: Queries, name: string): Promise<number> {
  const rising = sql<number>`nextval('claim_number')`
  const { number } = await q
    .insertInto('claim')
    .values({ name, number: rising })
    .onConflict((conflict) => conflict.column('name').doUpdateSet({ number: rising, since: sql`now()` }))
    .returning('number')
    .executeTakeFirstOrThrow()
  return number
}

/** Whether nobody has begun the same since; nobody can before the transaction ends. */
export const holdsClaim = async (q: Queries, name: string, number: number): Promise<boolean> =>
  (await q.selectFrom('claim').select('number').where('name', '=', name).where('number', '=', number).forShare().executeTakeFirst()) !==
  undefined

/** What was begun has ended. */
export async function dropClaim(q: Queries, name: string, number: number): Promise<void> {
  await q.deleteFrom('claim').where('name', '=', name).where('number', '=', number).execute()
}
