import { database } from '@server/database'
import { watchedOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => watchedOf(database(), talk))
