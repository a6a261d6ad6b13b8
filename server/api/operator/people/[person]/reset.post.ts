import { database } from '@server/database'
import { addressOfPerson, resetLink } from '@server/domain'
import { answerToOperator, idOf } from '@server/http'
import { log } from '@server/log'

/** A link that sets somebody's password, for who gets no letters. */
export default answerToOperator(async (event, operator) => {
  const person = idOf<'person'>(event, 'person')
  const link = await database()
    .transaction()
    .execute(async (q) => resetLink(q, person, await addressOfPerson(q, person), operator.id))
  log.info({ operator: operator.id, person }, 'a link to another password was made')
  return { link }
})
