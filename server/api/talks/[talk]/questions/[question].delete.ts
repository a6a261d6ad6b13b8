import { database } from '@server/database'
import { deleteQuestion, questionsOf } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await deleteQuestion(database(), talk, idOf(event, 'question'))
  return await questionsOf(database(), talk)
})
