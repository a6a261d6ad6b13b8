import { addSharedFiles } from '@server/domain'
import { answerForAccountTalk, takeInFiles } from '@server/http'

export default answerForAccountTalk((event, talk) => takeInFiles(event, (q, files) => addSharedFiles(q, talk, files)))
