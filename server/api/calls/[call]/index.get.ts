import { database } from '@server/database'
import { callView } from '@server/domain'
import { answerForCall } from '@server/http'

export default answerForCall((_event, call) => callView(database(), call))
