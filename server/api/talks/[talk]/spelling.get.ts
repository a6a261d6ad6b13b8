import { database } from '@server/database'
import { spellingOf } from '@server/domain'
import { answerForTalk } from '@server/http'

/** Words of a talk that may be misspelt. */
export default answerForTalk((_event, talk) => spellingOf(database(), talk))
