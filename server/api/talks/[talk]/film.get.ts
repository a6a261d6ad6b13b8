import { database } from '@server/database'
import { filmView } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => filmView(database(), talk))
