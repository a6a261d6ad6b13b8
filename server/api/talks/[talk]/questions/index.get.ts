import { database } from '@server/database'
import { questionsOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => questionsOf(database(), talk))
