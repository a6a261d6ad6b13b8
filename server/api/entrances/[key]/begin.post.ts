import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { beginPart } from '@server/domain'
import type { Beginner } from '@server/domain'
import { CREDENTIAL_BYTES, answerForCallKey, bodyOf, countBegin, networkOf, rememberPart } from '@server/http'

export default answerForCallKey(async (event, call, comer) => {
  const beginner = await bodyOf<Beginner>(event, schemas.callBegin, CREDENTIAL_BYTES)
  await countBegin(networkOf(event))
  const { part, begun } = await database()
    .transaction()
    .execute((q) => beginPart(q, call.key, comer, beginner))
  await rememberPart(event, part)
  return begun
})
