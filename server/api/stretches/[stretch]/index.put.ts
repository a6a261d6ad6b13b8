import { schemas } from '@contracts'
import { database } from '@server/database'
import { openStretch, ownTake } from '@server/domain'
import type { NewStretch } from '@server/domain'
import { answerTo, bodyOf, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const stretch = await bodyOf<NewStretch>(event, schemas.newStretch)
  await ownTake(database(), person.id, stretch.take)
  await openStretch(database(), idOf<'stretch'>(event, 'stretch'), stretch)
  return { ok: true }
})
