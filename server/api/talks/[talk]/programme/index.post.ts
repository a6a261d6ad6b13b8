import * as schemas from '@contracts/schemas'
import type { ProgrammeEdit } from '@core/programme'
import { database } from '@server/database'
import { answeredChange, editAskedFor, editProgramme, readyBackdrops } from '@server/domain'
import { EDIT_BYTES, answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, author, edit } = await bodyOf<{ revision: number; author: string; edit: ProgrammeEdit }>(
    event,
    schemas.programmeChange,
    EDIT_BYTES,
  )
  return await answeredChange(database(), talk, author, async (q) => {
    const changed = await editProgramme(q, talk, revision, author, await editAskedFor(q, talk, edit))
    // What is to be seen of it takes a while to make: it begins now.
    if (edit.kind === 'backdrop') await readyBackdrops(q, talk)
    return changed
  })
})
