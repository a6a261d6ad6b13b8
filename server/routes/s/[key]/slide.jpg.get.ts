import { setResponseHeaders } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { firstSlide } from '@server/domain'
import { answerByKey } from '@server/http'

/** What other places show of a talk that they link to: of one that everybody with the link may see. */
export default answerByKey(async (event, { talk, open }) => {
  if (!open) throw new Refusal('not-found', 'There is nothing under this address.')
  const bytes = await firstSlide(database(), talk)
  setResponseHeaders(event, { 'content-type': 'image/jpeg', 'cache-control': 'public, max-age=3600' })
  return bytes
})
