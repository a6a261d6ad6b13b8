import { database } from '@server/database'
import { registerOf } from '@server/domain'
import { answerForCall } from '@server/http'

export default answerForCall((_event, call) => registerOf(database(), call))
