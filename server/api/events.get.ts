import { createEventStream } from 'h3'
import type { TalkEvent } from '@contracts'
import { answer, askers, hearTalksOf } from '@server/http'

/** How often a quiet line is kept alive, in ms. */
const ALIVE = 20_000

/** What changes in the asker's talks, as it happens. */
export default answer(async (event) => {
  const people = await askers(event)
  const stream = createEventStream(event)
  const hearer = {
    told: (told: TalkEvent) => {
      void stream.push(JSON.stringify(told))
    },
    ready: () => {
      void stream.push({ event: 'ready', data: '' })
    },
  }
  const unsubscribes = people.map(({ id }) => hearTalksOf(id, hearer))
  const alive = setInterval(() => {
    void stream.push({ event: 'alive', data: '' })
  }, ALIVE)
  stream.onClosed(async () => {
    for (const unsubscribe of unsubscribes) unsubscribe()
    clearInterval(alive)
    await stream.close()
  })
  void stream.push({ event: 'alive', data: '' })
  return await stream.send()
})
