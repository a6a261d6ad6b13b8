import { sql } from 'kysely'
import { database } from '@server/database'
import { answer } from '@server/http'

export default answer(async () => {
  await sql`select 1`.execute(database())
  return { ok: true }
})
