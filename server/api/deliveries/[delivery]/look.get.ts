import { answerForDelivery, sendFile } from '@server/http'
import { lookPath } from '@server/store'

export default answerForDelivery((event, delivery) => sendFile(event, { path: lookPath(delivery), mime: 'image/jpeg', fixed: false }))
