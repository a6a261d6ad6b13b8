import { database } from '@server/database'
import { talkView } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => talkView(database(), talk))
