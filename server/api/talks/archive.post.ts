import { beginRestoring } from '@server/domain'
import { answerTo, takeInFiles } from '@server/http'
import { settings } from '@server/settings'

export default answerTo((event, person) =>
  takeInFiles(event, async (q, files) => ({ id: await beginRestoring(q, person.id, files) }), settings().talkQuota),
)
