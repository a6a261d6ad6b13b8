import { getQuery } from 'h3'
import { asId } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { beginVoice } from '@server/domain'
import { answerForTalk, parse, withFiles } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { visit, browser, name } = parse<{ visit: string; browser: string; name: string }>(schemas.voiceFor, getQuery(event))
  return await withFiles(event, async (files) => ({
    take: await database()
      .transaction()
      .execute((q) => beginVoice(q, talk, asId(visit), files, { browser, name })),
  }))
})
