import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { tellOfTalk } from '@server/domain'
import { answerTo, bodyOf, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const { talk } = await bodyOf<{ talk: string }>(event, schemas.seriesTalk)
  const count = await database()
    .transaction()
    .execute((q) => tellOfTalk(q, person.id, idOf(event, 'series'), talk))
  return { count }
})
