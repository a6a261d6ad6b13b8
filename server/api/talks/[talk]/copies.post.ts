import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { copySlides, ownTalk } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk, person) => {
  const { from, slides, at } = await bodyOf<{ from: string; slides: string[]; at: number }>(event, schemas.copySlides)
  await ownTalk(database(), [person.id], from)
  return {
    slides: await database()
      .transaction()
      .execute((q) => copySlides(q, from, slides, talk, at)),
  }
})
