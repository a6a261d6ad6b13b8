import type { Ms } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeTalk, talkView } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const fields = await bodyOf<{ name?: string; limit?: Ms | null; language?: string }>(event, schemas.talkFields)
  await database()
    .transaction()
    .execute((q) => changeTalk(q, talk, fields))
  return await talkView(database(), talk)
})
