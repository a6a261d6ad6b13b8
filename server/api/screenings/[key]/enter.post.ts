import { getRouterParam } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { useTicket } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, countPhrase, networkOf, rememberAddress } from '@server/http'

/** Somebody brings what was sent to their address. */
export default answer(async (event) => {
  await countPhrase(networkOf(event))
  const { ticket } = await bodyOf<{ ticket: string }>(event, schemas.ticket, CREDENTIAL_BYTES)
  await rememberAddress(event, await useTicket(database(), getRouterParam(event, 'key') ?? '', ticket))
  return { ok: true }
})
