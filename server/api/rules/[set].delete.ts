import { database } from '@server/database'
import { dropRuleSet } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await dropRuleSet(database(), person.id, idOf<'rule-set'>(event, 'set'))
  return { ok: true }
})
