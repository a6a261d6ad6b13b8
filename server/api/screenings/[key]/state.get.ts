import { setResponseHeader } from 'h3'
import { database } from '@server/database'
import { screeningState } from '@server/domain'
import { answerByKey } from '@server/http'

export default answerByKey(async (event, { talk, open }) => {
  // Many who watch ask at about the same time.
  setResponseHeader(event, 'cache-control', open ? 'public, max-age=10' : 'private, no-store')
  return await screeningState(database(), talk)
})
