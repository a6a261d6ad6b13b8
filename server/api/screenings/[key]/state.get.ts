import { setResponseHeader } from 'h3'
import { database } from '@server/database'
import { screeningState } from '@server/domain'
import { answerByKey } from '@server/http'

export default answerByKey(async (event, { talk }) => {
  // Many who watch ask at about the same time.
  setResponseHeader(event, 'cache-control', 'public, max-age=10')
  return await screeningState(database(), talk)
})
