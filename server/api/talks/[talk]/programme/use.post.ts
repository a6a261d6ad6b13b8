import * as schemas from '@contracts/schemas'
import type { UseRequest } from '@contracts'
import { database } from '@server/database'
import { answeredChange, editProgramme, recordingInPlace } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, author, ...use } = await bodyOf<UseRequest & { revision: number; author: string }>(event, schemas.programmeUse)
  return await answeredChange(
    database(),
    talk,
    author,
    async (q) => await editProgramme(q, talk, revision, author, await recordingInPlace(q, talk, use)),
  )
})
