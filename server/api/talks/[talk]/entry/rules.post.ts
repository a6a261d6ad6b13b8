import { database } from '@server/database'
import { entrantView, takeNewRules } from '@server/domain'
import { answerForTalk } from '@server/http'

/** Somebody would rather be held to the rules as they are now. */
export default answerForTalk(async (_event, talk) => {
  await database()
    .transaction()
    .execute((q) => takeNewRules(q, talk))
  return await entrantView(database(), talk)
})
