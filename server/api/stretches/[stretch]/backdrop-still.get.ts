import { getQuery } from 'h3'
import type { Ms, NewBackdrop } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { tryOnRecording } from '@server/domain'
import { answerForStretch, parse } from '@server/http'

/** What a recording would look like with a backdrop, in one picture, and what would help. */
export default answerForStretch(async (event, stretch, { talk }) => {
  const { at, ...backdrop } = parse<{ at: Ms } & NewBackdrop>(schemas.backdropStillAsked, getQuery(event))
  return await tryOnRecording(database(), talk, stretch, at, backdrop)
})
