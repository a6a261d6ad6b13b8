import { database } from '@server/database'
import { watchedOf } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) => watchedOf(database(), talk))
