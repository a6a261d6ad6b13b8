import { database } from '@server/database'
import { listenAgain, wordsOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk(async (_event, talk) => {
  await listenAgain(database(), talk)
  return await wordsOf(database(), talk)
})
