import type { SharedLink } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeSharedLinks } from '@server/domain'
import { answerForAccountTalk, bodyOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => {
  const { links } = await bodyOf<{ readonly links: readonly SharedLink[] }>(event, schemas.sharedLinks)
  return await database()
    .transaction()
    .execute((q) => changeSharedLinks(q, talk, links))
})
