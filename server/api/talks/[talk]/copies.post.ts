import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { copySlides, ownTalk } from '@server/domain'
import { answerTo, bodyOf, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const talk = idOf<'talk'>(event, 'talk')
  await ownTalk(database(), person.id, talk)
  const { from, slides, at } = await bodyOf<{ from: string; slides: string[]; at: number }>(event, schemas.copySlides)
  await ownTalk(database(), person.id, from)
  return {
    slides: await database()
      .transaction()
      .execute((q) => copySlides(q, from, slides, talk, at)),
  }
})
