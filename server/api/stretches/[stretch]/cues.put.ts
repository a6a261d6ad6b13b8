import type { Cue } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { foreignCues, keepCues } from '@server/domain'
import { EDIT_BYTES, answerForStretch, bodyOf } from '@server/http'

/** Keeps those that can be; says the numbers of the others, which the page keeps aside. */
export default answerForStretch(async (event, stretch, { talk }) => {
  const { first, cues } = await bodyOf<{ first: number; cues: readonly unknown[] }>(event, schemas.cueBatch, EDIT_BYTES)
  const looked = cues.map((cue, n) => ({ n: first + n, ...(schemas.cue.validate(cue) as { readonly value: Cue; readonly error?: Error }) }))
  const sound = looked.filter(({ error }) => error === undefined).map(({ n, value }) => ({ n, cue: value }))
  const foreign = await foreignCues(database(), talk, sound)
  await keepCues(
    database(),
    stretch,
    sound.filter(({ n }) => !foreign.has(n)),
  )
  return { refused: looked.filter(({ n, error }) => error !== undefined || foreign.has(n)).map(({ n }) => n) }
})
