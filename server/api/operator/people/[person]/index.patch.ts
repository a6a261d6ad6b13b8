import type { PersonChange } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changePerson } from '@server/domain'
import { CREDENTIAL_BYTES, answerToOperator, bodyOf, idOf } from '@server/http'
import { log } from '@server/log'

export default answerToOperator(async (event, operator) => {
  const person = idOf<'person'>(event, 'person')
  const change = await bodyOf<PersonChange>(event, schemas.personChange, CREDENTIAL_BYTES)
  await database()
    .transaction()
    .execute((q) => changePerson(q, person, change))
  log.info({ operator: operator.id, person, change }, 'account changed')
  return { ok: true }
})
