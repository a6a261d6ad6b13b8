import { database } from '@server/database'
import { firstName, registerCsv, registerOf } from '@server/domain'
import { answerForCall, sendMade } from '@server/http'

export default answerForCall(async (event, call) =>
  sendMade(event, registerCsv(await registerOf(database(), call)), 'text/csv; charset=utf-8', `${firstName(call.title)}.csv`),
)
