import { database } from '@server/database'
import { talkCards } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => talkCards(database(), person.id))
