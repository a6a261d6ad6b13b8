import { database } from '@server/database'
import { handInOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => handInOf(database(), talk))
