import type { Preset } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepPreset } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const { name, preset } = await bodyOf<{ name: string; preset: Preset }>(event, schemas.preset)
  await database()
    .transaction()
    .execute((q) => keepPreset(q, person.id, name, preset))
  return { ok: true }
})
