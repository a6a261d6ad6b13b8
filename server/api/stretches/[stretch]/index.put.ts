import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { openStretch, ownTake } from '@server/domain'
import type { NewStretch } from '@server/domain'
import { EDIT_BYTES, answer, askers, bodyOf, idOf } from '@server/http'

export default answer(async (event) => {
  const people = await askers(event)
  const stretch = await bodyOf<NewStretch>(event, schemas.newStretch, EDIT_BYTES)
  const { talk } = await ownTake(
    database(),
    people.map(({ id }) => id),
    stretch.take,
  )
  await openStretch(database(), idOf<'stretch'>(event, 'stretch'), talk, stretch)
  return { ok: true }
})
