import { answerForStretch, sendFile } from '@server/http'
import { recordingPath } from '@server/store'

export default answerForStretch((event, stretch) => sendFile(event, { path: recordingPath(stretch), mime: 'video/webm', fixed: true }))
