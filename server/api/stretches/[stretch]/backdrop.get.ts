import { getQuery } from 'h3'
import { Refusal } from '@core/model'
import type { NewBackdrop } from '@core/model'
import * as schemas from '@contracts/schemas'
import { answerForStretch, parse, sendFile } from '@server/http'
import { backdropPath } from '@server/media'
import { foundInCache } from '@server/store'

/** A camera with another backdrop, to be seen in place of its recording once it was made. */
export default answerForStretch(async (event, stretch) => {
  const path = backdropPath(stretch, parse<NewBackdrop>(schemas.backdropAsked, getQuery(event)))
  if (!(await foundInCache(path))) throw new Refusal('not-found', 'This is not made yet.')
  await sendFile(event, { path, mime: 'video/mp4', fixed: true })
})
