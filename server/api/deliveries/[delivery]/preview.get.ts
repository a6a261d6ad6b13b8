import { answerForDelivery, sendFile } from '@server/http'
import { previewPath } from '@server/store'

export default answerForDelivery((event, delivery) => sendFile(event, { path: previewPath(delivery), mime: 'image/jpeg', fixed: false }))
