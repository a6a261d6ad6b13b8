import type { AnswerRequest } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { answerQuestion, questionsOf } from '@server/domain'
import { answerForAccountTalk, bodyOf, idOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => {
  const answer = await bodyOf<AnswerRequest>(event, schemas.answerRequest)
  await answerQuestion(database(), talk, idOf(event, 'question'), answer)
  return await questionsOf(database(), talk)
})
