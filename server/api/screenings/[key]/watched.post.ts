import type { WatchReport } from '@core/screening'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { countWatching } from '@server/domain'
import { answerByKey, bodyOf, countWatched, networkOf } from '@server/http'

export default answerByKey(async (event, access) => {
  await countWatched(networkOf(event))
  const told = await bodyOf<WatchReport>(event, schemas.watchReport)
  await database()
    .transaction()
    .execute((q) => countWatching(q, access, told))
  return { ok: true }
})
