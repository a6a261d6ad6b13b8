import { database } from '@server/database'
import { deleteQuestion, questionsOf } from '@server/domain'
import { answerForAccountTalk, idOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => {
  await deleteQuestion(database(), talk, idOf(event, 'question'))
  return await questionsOf(database(), talk)
})
