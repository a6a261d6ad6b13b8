import { database } from '@server/database'
import { dropPreset } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await dropPreset(database(), person.id, idOf<'preset'>(event, 'preset'))
  return { ok: true }
})
