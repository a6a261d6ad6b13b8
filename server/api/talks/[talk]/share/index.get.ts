import { database } from '@server/database'
import { shareOf } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) => shareOf(database(), talk))
