import { database } from '@server/database'
import { sendLinkAgain } from '@server/domain'
import { answerForCall, idOf } from '@server/http'

/** Somebody has lost the link that is theirs: it is sent to them, and to nobody else. */
export default answerForCall(async (event, call) => {
  const entrant = idOf<'entrant'>(event, 'entrant')
  await database()
    .transaction()
    .execute((q) => sendLinkAgain(q, call, entrant))
  return { ok: true }
})
