import { database } from '@server/database'
import { firstName, registerCsv } from '@server/domain'
import { answerForCall, sendMade } from '@server/http'

export default answerForCall(async (event, call) =>
  sendMade(event, await registerCsv(database(), call, new Map()), 'text/csv; charset=utf-8', `${firstName(call.title)}.csv`),
)
