import { getRouterParam } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { writeTicket } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, countLetter, networkOf, refuseGuesser } from '@server/http'

/** Answers the same whether the talk is for that address or not, and whether there is such a talk: who it is for is written to. */
export default answer(async (event) => {
  const network = networkOf(event)
  await refuseGuesser(network)
  const { address } = await bodyOf<{ address: string }>(event, schemas.ticketWish, CREDENTIAL_BYTES)
  await countLetter(network, address)
  await database()
    .transaction()
    .execute((q) => writeTicket(q, getRouterParam(event, 'key') ?? '', address))
  return { ok: true }
})
