import { getQuery } from 'h3'
import type { CaptionKind } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { captionsFile } from '@server/domain'
import { answerForTalk, parse, sendMade } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { kind } = parse<{ kind: CaptionKind }>(schemas.captionsQuery, getQuery(event))
  const { content, type, file } = await captionsFile(database(), talk, kind)
  return sendMade(event, content, type, file)
})
