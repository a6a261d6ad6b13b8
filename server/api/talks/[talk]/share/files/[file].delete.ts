import { database } from '@server/database'
import { removeSharedFile } from '@server/domain'
import { answerForAccountTalk, idOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => await removeSharedFile(database(), talk, idOf(event, 'file')))
