import { getQuery } from 'h3'
import { Refusal } from '@core/model'
import type { NewBackdrop } from '@core/model'
import * as schemas from '@contracts/schemas'
import { tryOnPicture } from '@server/domain'
import { answerTo, parse, readCapped } from '@server/http'

/** Most of a picture that is tried, in bytes. */
const MOST = 2 * 1_048_576

/** What a picture of a camera would look like with a backdrop, and what would help: tried before anything is recorded. */
export default answerTo(async (event) => {
  const backdrop = parse<NewBackdrop>(schemas.backdropAsked, getQuery(event))
  if (backdrop.kind === 'picture') throw new Refusal('malformed', 'A picture is put behind a recording, not tried before it.')
  return await tryOnPicture(await readCapped(event, MOST), backdrop)
})
