import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { historyOf } from '@server/domain'
import { answerForTalk, parse } from '@server/http'

export default answerForTalk(
  async (event, talk) => await historyOf(database(), talk, parse<string>(schemas.uuid, getQuery(event)['browser'])),
)
