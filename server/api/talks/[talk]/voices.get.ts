import { database } from '@server/database'
import { measuredVoices } from '@server/domain'
import { answerForTalk } from '@server/http'

/** What was measured in the voices of a talk, and what would make them better. */
export default answerForTalk((_event, talk) => measuredVoices(database(), talk))
