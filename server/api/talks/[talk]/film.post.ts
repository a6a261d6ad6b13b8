import { beginFilm } from '@server/domain'
import { answerForTalk, takeInFiles } from '@server/http'

export default answerForTalk((event, talk) => takeInFiles(event, async (q, files) => ({ id: await beginFilm(q, talk, files) })))
