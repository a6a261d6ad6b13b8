import { createEventStream } from 'h3'
import { answerForTalk, hearTalk } from '@server/http'

/** How often a quiet line is kept alive, in ms. */
const ALIVE = 20_000

export default answerForTalk(async (event, talk) => {
  const stream = createEventStream(event)
  const deaf = hearTalk(talk, (told) => { void stream.push(JSON.stringify(told)) })
  const alive = setInterval(() => { void stream.push({ event: 'alive', data: '' }) }, ALIVE)
  stream.onClosed(async () => {
    deaf()
    clearInterval(alive)
    await stream.close()
  })
  void stream.push({ event: 'alive', data: '' })
  return await stream.send()
})
