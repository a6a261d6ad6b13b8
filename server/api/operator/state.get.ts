import { database } from '@server/database'
import { serverState } from '@server/domain'
import { answerToOperator } from '@server/http'

export default answerToOperator(() => serverState(database()))
