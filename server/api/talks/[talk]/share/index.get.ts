import { database } from '@server/database'
import { shareOf } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => shareOf(database(), talk))
