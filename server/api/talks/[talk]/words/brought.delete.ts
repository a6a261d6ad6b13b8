import { database } from '@server/database'
import { takeBroughtBack, wordsOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk(async (_event, talk) => {
  await takeBroughtBack(database(), talk)
  return await wordsOf(database(), talk)
})
