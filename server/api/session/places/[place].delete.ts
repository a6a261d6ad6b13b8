import { Refusal } from '@core/model'
import { database } from '@server/database'
import { endPlace } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const ended = await endPlace(database(), person.id, idOf(event, 'place'))
  if (!ended) throw new Refusal('not-found', 'Nobody is signed in there any more.')
  return { ok: true }
})
