import { database } from '@server/database'
import { entrantView } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => entrantView(database(), talk))
