import { getRouterParam } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { assetOf } from '@server/domain'
import { answerWithPass, sendFile } from '@server/http'
import { assetPath } from '@server/store'

export default answerWithPass(async (event, { version, screening }) => {
  const digest = getRouterParam(event, 'digest') ?? ''
  if (!screening.assets.has(digest)) throw new Refusal('not-found', 'There is nothing under this address.')
  const { mime } = await assetOf(database(), version.talk, digest)
  await sendFile(event, { path: assetPath(digest), mime, fixed: true, shared: true, tag: digest })
})
