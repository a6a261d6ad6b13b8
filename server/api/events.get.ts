import { createEventStream } from 'h3'
import { answerTo, hearTalksOf } from '@server/http'

/** How often a quiet line is kept alive, in ms. */
const ALIVE = 20_000

/** What changes in the asker's talks, as it happens. */
export default answerTo(async (event, person) => {
  const stream = createEventStream(event)
  const deaf = hearTalksOf(person.id, {
    told: (told) => {
      void stream.push(JSON.stringify(told))
    },
    ready: () => {
      void stream.push({ event: 'ready', data: '' })
    },
  })
  const alive = setInterval(() => {
    void stream.push({ event: 'alive', data: '' })
  }, ALIVE)
  stream.onClosed(async () => {
    deaf()
    clearInterval(alive)
    await stream.close()
  })
  void stream.push({ event: 'alive', data: '' })
  return await stream.send()
})
