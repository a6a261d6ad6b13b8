import type { ExportWish } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { orderExport, talkExports } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const wish = await bodyOf<ExportWish>(event, schemas.exportWish)
  await database()
    .transaction()
    .execute((q) => orderExport(q, talk, wish))
  return await talkExports(database(), talk)
})
