import type { SeriesFields } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeSeries, seriesOf } from '@server/domain'
import { answerTo, bodyOf, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const fields = await bodyOf<SeriesFields>(event, schemas.seriesFields)
  await database()
    .transaction()
    .execute((q) => changeSeries(q, person.id, idOf(event, 'series'), fields))
  return await seriesOf(database(), person.id)
})
