import { database } from '@server/database'
import { takeInPictures } from '@server/domain'
import { answerForTalk, receiveFiles } from '@server/http'

export default answerForTalk(async (event, talk) => takeInPictures(database(), talk, await receiveFiles(event)))
