import { getRouterParam } from 'h3'
import { database } from '@server/database'
import { seriesPage } from '@server/domain'
import { answer, networkOf, refuseGuesser } from '@server/http'

export default answer(async (event) => {
  await refuseGuesser(networkOf(event))
  return await seriesPage(database(), getRouterParam(event, 'key') ?? '')
})
