import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { seriesTranscript } from '@server/domain'
import type { TranscriptWish } from '@server/domain'
import { answerTo, idOf, parse, sendMade } from '@server/http'

export default answerTo(async (event, person) => {
  const wish = parse<TranscriptWish>(schemas.transcriptQuery, getQuery(event))
  const { content, type, file } = await seriesTranscript(database(), person.id, idOf(event, 'series'), wish)
  return sendMade(event, content, type, file)
})
