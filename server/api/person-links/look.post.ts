import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { personLink } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, guarded } from '@server/http'

/** What a link is for. Nothing is used up by it: programs that open links in letters do no harm. */
export default answer(async (event) => {
  const { key } = await bodyOf<{ key: string }>(event, schemas.linkKey, CREDENTIAL_BYTES)
  return await guarded(event, () => personLink(database(), key))
})
