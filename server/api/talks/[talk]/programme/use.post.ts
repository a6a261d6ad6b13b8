import * as schemas from '@contracts/schemas'
import type { UseRequest } from '@contracts'
import { database } from '@server/database'
import { answerOf, editProgramme, recordingInPlace } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, author, ...use } = await bodyOf<UseRequest & { revision: number; author: string }>(event, schemas.programmeUse)
  return await database()
    .transaction()
    .execute(
      async (q) => await answerOf(q, talk, author, await editProgramme(q, talk, revision, author, await recordingInPlace(q, talk, use))),
    )
})
