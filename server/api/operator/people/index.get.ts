import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { peoplePage } from '@server/domain'
import { answerToOperator, parse } from '@server/http'

export default answerToOperator(async (event) => {
  const { words, from } = parse<{ words: string; from: number }>(schemas.peopleWish, getQuery(event))
  return await peoplePage(database(), words.trim(), from)
})
