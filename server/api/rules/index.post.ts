import type { Rules } from '@core/rules'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepRuleSet } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const { rules } = await bodyOf<{ rules: Rules }>(event, schemas.ruleSet)
  await database()
    .transaction()
    .execute((q) => keepRuleSet(q, person.id, rules))
  return { ok: true }
})
