import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { questionsFor } from '@server/domain'
import { answerByKey, parse } from '@server/http'

export default answerByKey(async (event, { talk }) => {
  const { own } = parse<{ own: readonly string[] }>(schemas.ownQuestions, {
    own: String(getQuery(event)['own'] ?? '')
      .split(',')
      .filter((id) => id !== ''),
  })
  return await questionsFor(database(), talk, own)
})
