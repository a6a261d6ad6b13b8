import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { showAddress } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, guarded } from '@server/http'

/** Who made an account shows that its address is theirs. They sign in then by the password that they chose. */
export default answer(async (event) => {
  const { key } = await bodyOf<{ key: string }>(event, schemas.linkKey, CREDENTIAL_BYTES)
  await guarded(event, () =>
    database()
      .transaction()
      .execute((q) => showAddress(q, key)),
  )
  return { ok: true }
})
