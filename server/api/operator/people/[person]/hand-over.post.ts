import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { handOver, personOfAddress } from '@server/domain'
import { CREDENTIAL_BYTES, answerToOperator, bodyOf, idOf } from '@server/http'
import { log } from '@server/log'

/** Gives all that somebody made to another. */
export default answerToOperator(async (event, operator) => {
  const person = idOf<'person'>(event, 'person')
  const { email } = await bodyOf<{ email: string }>(event, schemas.addressOnly, CREDENTIAL_BYTES)
  const talks = await database()
    .transaction()
    .execute(async (q) => handOver(q, person, (await personOfAddress(q, email)).id))
  log.info({ operator: operator.id, person, talks }, 'talks handed over')
  return { talks }
})
