import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { invite } from '@server/domain'
import { CREDENTIAL_BYTES, answerToOperator, bodyOf } from '@server/http'

/** Invites somebody. The link is given as well, for who has no mail server. */
export default answerToOperator(async (event, person) => {
  const { email, operator } = await bodyOf<{ email: string; operator: boolean }>(event, schemas.invitation, CREDENTIAL_BYTES)
  return {
    link: await database()
      .transaction()
      .execute((q) => invite(q, person, email, operator)),
  }
})
