import { database } from '@server/database'
import { takeInPictures } from '@server/domain'
import { answerForTalk, withFiles } from '@server/http'

export default answerForTalk((event, talk) => withFiles(event, (files) => takeInPictures(database(), talk, files)))
