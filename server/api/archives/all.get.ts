import { sendStream, setResponseHeaders } from 'h3'
import { database } from '@server/database'
import { zippedArchives } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo(async (event, person) => {
  const stream = await zippedArchives(database(), person.id)
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'cache-control': 'private, no-store',
    'content-disposition': 'attachment; filename="aisle-all-talks.zip"',
  })
  await sendStream(event, stream)
})
