import { database } from '@server/database'
import { removeSharedFile } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => await removeSharedFile(database(), talk, idOf(event, 'file')))
