import { database } from '@server/database'
import { sharedWith } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) => sharedWith(database(), talk))
