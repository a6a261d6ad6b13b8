import { getQuery } from 'h3'
import { asId } from '@core/model'
import * as schemas from '@contracts/schemas'
import { beginVoice } from '@server/domain'
import { answerForTalk, parse, takeInFiles } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { visit, browser, name } = parse<{ visit: string; browser: string; name: string }>(schemas.voiceFor, getQuery(event))
  return await takeInFiles(event, async (q, files) => ({ take: await beginVoice(q, talk, asId(visit), files, { browser, name }) }))
})
