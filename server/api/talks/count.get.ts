import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { talkCount } from '@server/domain'
import { answerTo, parse } from '@server/http'

export default answerTo((event, person) =>
  talkCount(database(), person.id, parse<{ words: string }>(schemas.talkWords, getQuery(event)).words),
)
