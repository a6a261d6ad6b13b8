import { database } from '@server/database'
import { ledger } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) => ledger(database(), talk))
