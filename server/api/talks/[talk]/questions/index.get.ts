import { database } from '@server/database'
import { questionsOf } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) => questionsOf(database(), talk))
