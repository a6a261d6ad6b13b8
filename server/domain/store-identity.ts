import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { setTimeout } from 'node:timers/promises'
import { Refusal } from '@core/model'
import type { Database } from '@server/database'
import { here, identityPath, writeWhole } from '@server/store'

/** Who comes first may not have written it yet: it is looked again so often, after so many ms. */
const TRIES = 10
const AGAIN = 500

const kept = async (): Promise<string | null> => (await readFile(await here(identityPath()), 'utf8').catch(() => null))?.trim() ?? null
const noted = async (db: Database): Promise<string | null> =>
  (await db.selectFrom('store_identity').select('id').executeTakeFirst())?.id ?? null

/**
 * Whether the store that this process is set to is the one that the database's media are in. Where neither knows of the other yet, they
 * are made one.
 */
export async function isOwnStore(db: Database): Promise<boolean> {
  const [inStore, inDatabase] = [await kept(), await noted(db)]
  if (inDatabase !== null) return inStore === inDatabase
  const id = inStore ?? randomUUID()
  // Who comes first says which it is.
  await db
    .insertInto('store_identity')
    .values({ id })
    .onConflict((conflict) => conflict.doNothing())
    .execute()
  if ((await noted(db)) !== id) return await isOwnStore(db)
  if (inStore === null) await writeWhole(identityPath(), Buffer.from(id))
  return true
}

/** @throws Refusal `conflict` saying what to do when the store is not the one that the database's media are in */
export async function requireOwnStore(db: Database): Promise<void> {
  for (let tried = 0; tried < TRIES; tried += 1) {
    if (await isOwnStore(db)) return
    await setTimeout(AGAIN)
  }
  throw new Refusal(
    'conflict',
    'The store that this machine is set to is not the one in which the media of this database are: nothing of what people recorded ' +
      'would be found here, and what is made here would be found nowhere else. Set AISLE_DATA or AISLE_STORE as on the other machines, ' +
      'or bring a backup back. If this is the right one, run npm run store -- adopt.',
  )
}

/** Has the store that this process is set to be the one of this database from now on. */
export async function adoptStore(db: Database): Promise<void> {
  const id = randomUUID()
  await writeWhole(identityPath(), Buffer.from(id))
  await db.transaction().execute(async (q) => {
    await q.deleteFrom('store_identity').execute()
    await q.insertInto('store_identity').values({ id }).execute()
  })
}
