import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { mailFile } from '@server/domain'
import type { FileLetter } from '@server/domain'
import { answerForAccountDelivery, bodyOf } from '@server/http'

export default answerForAccountDelivery(async (event, delivery, talk, person) => {
  const letter = await bodyOf<FileLetter>(event, schemas.fileLetter)
  await database()
    .transaction()
    .execute((q) => mailFile(q, person.id, talk, delivery, letter))
  return { ok: true }
})
