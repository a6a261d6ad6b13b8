import { database } from '@server/database'
import { sharedFiles } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => sharedFiles(database(), talk))
