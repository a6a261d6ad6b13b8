import { getRouterParam } from 'h3'
import { database } from '@server/database'
import { assetOf } from '@server/domain'
import { answerForTalk, sendFile } from '@server/http'
import { assetPath } from '@server/store'

export default answerForTalk(async (event, talk) => {
  const digest = getRouterParam(event, 'digest') ?? ''
  const { mime } = await assetOf(database(), talk, digest)
  await sendFile(event, { path: assetPath(digest), mime, fixed: true })
})
