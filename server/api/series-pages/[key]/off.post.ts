import { getRouterParam } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { wantNoLetters } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, countPhrase, networkOf } from '@server/http'

/** Who was written to wants no more letters. */
export default answer(async (event) => {
  await countPhrase(networkOf(event))
  const { address, token } = await bodyOf<{ address: string; token: string }>(event, schemas.seriesOff, CREDENTIAL_BYTES)
  await wantNoLetters(database(), getRouterParam(event, 'key') ?? '', address, token)
  return { ok: true }
})
