import { database } from '@server/database'
import { callSheet } from '@server/domain'
import { answerForCallKey } from '@server/http'

export default answerForCallKey((_event, call, comer) => callSheet(database(), call, comer))
