import { database } from '@server/database'
import { recordingsOfSlide } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => await recordingsOfSlide(database(), talk, idOf<'slide'>(event, 'slide')))
