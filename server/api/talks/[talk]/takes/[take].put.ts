import type { Intent, TakeKind } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { openTake } from '@server/domain'
import { answerForTalk, bodyOf, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { kind, intent } = await bodyOf<{ kind: TakeKind, intent: Intent }>(event, schemas.newTake)
  await openTake(database(), talk, idOf<'take'>(event, 'take'), kind, intent)
  return { ok: true }
})
