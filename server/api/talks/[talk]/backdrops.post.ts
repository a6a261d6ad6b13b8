import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { backdropsOf, currentProgramme } from '@server/domain'
import { answerForTalk, parse } from '@server/http'

/** Has the films made that a talk's faces are to be seen in, and tells how far they are. */
export default answerForTalk(async (event, talk) => {
  const { again } = parse<{ again: boolean }>(schemas.backdropsWanted, getQuery(event))
  return await database()
    .transaction()
    .execute(async (q) => backdropsOf(q, await currentProgramme(q, talk), again))
})
