import { database } from '@server/database'
import { sharedFiles } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) => sharedFiles(database(), talk))
