import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { transcriptFile } from '@server/domain'
import type { TranscriptWish } from '@server/domain'
import { answerForTalk, parse, sendMade } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const wish = parse<TranscriptWish>(schemas.transcriptQuery, getQuery(event))
  const { content, type, file } = await transcriptFile(database(), talk, wish)
  return sendMade(event, content, type, file)
})
