import * as schemas from '@contracts/schemas'
import type { ProgrammeEdit } from '@core/programme'
import { database } from '@server/database'
import { answeredChange, editAskedFor, editProgramme } from '@server/domain'
import { EDIT_BYTES, answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, author, edit } = await bodyOf<{ revision: number; author: string; edit: ProgrammeEdit }>(
    event,
    schemas.programmeChange,
    EDIT_BYTES,
  )
  return await answeredChange(
    database(),
    talk,
    author,
    async (q) => await editProgramme(q, talk, revision, author, await editAskedFor(q, talk, edit)),
  )
})
