import { database } from '@server/database'
import { accountView } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => accountView(database(), person.id))
