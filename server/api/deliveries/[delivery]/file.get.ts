import { getQuery } from 'h3'
import type { Format } from '@core/model'
import { database } from '@server/database'
import { finishedFile } from '@server/domain'
import { answerForDelivery, sendFile } from '@server/http'
import { deliveryPath } from '@server/store'

const MIME: Readonly<Record<Format, string>> = {
  mp4: 'video/mp4',
  webm: 'video/webm',
  m4a: 'audio/mp4',
  mp3: 'audio/mpeg',
  wav: 'audio/wav',
}

export default answerForDelivery(async (event, delivery) => {
  const { file, format } = await finishedFile(database(), delivery)
  await sendFile(event, {
    path: deliveryPath(delivery),
    mime: MIME[format],
    fixed: true,
    ...('show' in getQuery(event) ? {} : { download: file }),
  })
})
