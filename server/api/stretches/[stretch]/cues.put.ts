import type { Cue } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { keepCues } from '@server/domain'
import { answerForStretch, bodyOf } from '@server/http'

/** Keeps those that can be; says the numbers of the others, which the page keeps aside. */
export default answerForStretch(async (event, stretch) => {
  const { first, cues } = await bodyOf<{ first: number, cues: readonly unknown[] }>(event, schemas.cueBatch)
  const looked = cues.map((cue, n) => ({ n: first + n, ...schemas.cue.validate(cue) as { readonly value: Cue, readonly error?: Error } }))
  await keepCues(database(), stretch, looked.filter(({ error }) => error === undefined).map(({ n, value }) => ({ n, cue: value })))
  return { refused: looked.filter(({ error }) => error !== undefined).map(({ n }) => n) }
})
