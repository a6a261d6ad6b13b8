import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { takeInvitationBack } from '@server/domain'
import { answerToOperator, parse } from '@server/http'

export default answerToOperator(async (event) => {
  const { email } = parse<{ email: string }>(schemas.addressOnly, getQuery(event))
  await takeInvitationBack(database(), email)
  return { ok: true }
})
