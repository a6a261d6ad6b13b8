import { getQuery } from 'h3'
import type { CaptionKind } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { captionsOfDelivery } from '@server/domain'
import { answerForDelivery, parse, sendMade } from '@server/http'

export default answerForDelivery(async (event, delivery) => {
  const { kind } = parse<{ kind: CaptionKind }>(schemas.captionsQuery, getQuery(event))
  const { content, type, file } = await captionsOfDelivery(database(), delivery, kind)
  return sendMade(event, content, type, file)
})
