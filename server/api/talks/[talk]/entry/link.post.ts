import { database } from '@server/database'
import { entrantView, renewOwnLink } from '@server/domain'
import { answerForTalk, rememberPart } from '@server/http'

/** Another link for the one that there was: whoever has that is let in by it no more. */
export default answerForTalk(async (event, talk) => {
  await rememberPart(
    event,
    await database()
      .transaction()
      .execute((q) => renewOwnLink(q, talk)),
  )
  return await entrantView(database(), talk)
})
