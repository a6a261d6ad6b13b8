import { database } from '@server/database'
import { deleteSeries, seriesOf } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await deleteSeries(database(), person.id, idOf(event, 'series'))
  return await seriesOf(database(), person.id)
})
