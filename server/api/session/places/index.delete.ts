import { database } from '@server/database'
import { endPlaces } from '@server/domain'
import { answerTo, placeOf } from '@server/http'

/** Ends every place but the one that asks. */
export default answerTo(async (event, person) => {
  await endPlaces(database(), person.id, await placeOf(event))
  return { ok: true }
})
