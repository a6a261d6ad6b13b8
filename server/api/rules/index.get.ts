import { database } from '@server/database'
import { ruleSetsOf } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => ruleSetsOf(database(), person.id))
