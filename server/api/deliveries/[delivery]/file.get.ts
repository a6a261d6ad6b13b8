import { getQuery } from 'h3'
import { database } from '@server/database'
import { finishedFile } from '@server/domain'
import { answerForDelivery, sendFile } from '@server/http'
import { deliveryPath } from '@server/store'

export default answerForDelivery(async (event, delivery) => {
  const { file } = await finishedFile(database(), delivery)
  await sendFile(event, {
    path: deliveryPath(delivery), mime: 'video/mp4', fixed: true, ...('show' in getQuery(event) ? {} : { download: file }),
  })
})
