import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { makeSeries, seriesOf } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const { name } = await bodyOf<{ name: string }>(event, schemas.newSeries)
  await makeSeries(database(), person.id, name)
  return await seriesOf(database(), person.id)
})
