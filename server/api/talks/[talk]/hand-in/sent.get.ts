import { database } from '@server/database'
import { sentOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => sentOf(database(), talk))
