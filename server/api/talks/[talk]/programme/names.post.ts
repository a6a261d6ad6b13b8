import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { nameVersion } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, name } = await bodyOf<{ revision: number; name: string }>(event, schemas.versionName)
  await nameVersion(database(), talk, revision, name)
  return { ok: true }
})
