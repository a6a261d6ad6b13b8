import { database } from '@server/database'
import { sharedLinksNow } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) => sharedLinksNow(database(), talk))
