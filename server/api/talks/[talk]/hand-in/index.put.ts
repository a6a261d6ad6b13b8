import type { Rules } from '@core/rules'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { handInOf, refuseForCall, rulesOfDesk, takeRules } from '@server/domain'
import { answerForAccountTalk, bodyOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => {
  const wish = await bodyOf<{ rules?: Rules; desk?: string }>(event, schemas.handInRules)
  const desk = wish.desk?.replace(/\/+$/, '') ?? null
  const rules = wish.rules ?? (await rulesOfDesk(desk ?? ''))
  return await database()
    .transaction()
    .execute(async (q) => {
      await refuseForCall(q, talk)
      await takeRules(q, talk, rules, desk)
      return await handInOf(q, talk)
    })
})
