import type { Rules } from '@core/rules'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { handInOf, rulesOfDesk, takeRules } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const wish = await bodyOf<{ rules?: Rules; desk?: string }>(event, schemas.handInRules)
  const desk = wish.desk?.replace(/\/+$/, '') ?? null
  const rules = wish.rules ?? (await rulesOfDesk(desk ?? ''))
  return await database()
    .transaction()
    .execute(async (q) => {
      await takeRules(q, talk, rules, desk)
      return await handInOf(q, talk)
    })
})
