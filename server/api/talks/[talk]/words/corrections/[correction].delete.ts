import { database } from '@server/database'
import { takeCorrectionBack, wordsOf } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await takeCorrectionBack(database(), talk, idOf(event, 'correction'))
  return await wordsOf(database(), talk)
})
