import { database } from '@server/database'
import { sharedLinksNow } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => sharedLinksNow(database(), talk))
