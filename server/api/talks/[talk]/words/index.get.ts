import { database } from '@server/database'
import { wordsOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => wordsOf(database(), talk))
