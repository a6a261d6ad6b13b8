import { database } from '@server/database'
import { sharedWith } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => sharedWith(database(), talk))
