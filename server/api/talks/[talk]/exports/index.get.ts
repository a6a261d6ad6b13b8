import { database } from '@server/database'
import { talkExports } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => talkExports(database(), talk))
