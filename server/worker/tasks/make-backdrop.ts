import { Refusal } from '@core/model'
import { database } from '@server/database'
import { backdropToMake, noteBackdrop } from '@server/domain'
import { log } from '@server/log'
import { backdropName, cameraOf, makeBackdrop } from '@server/media'
import type { MakeBackdrop } from '@server/media'
import { alone } from '../claims'

/** How often a page is told, in ms. */
const PACE = 700
const UNMADE = 'The film of the face with this backdrop could not be made. The face is seen as filmed; choose again to try once more.'

/** Makes a recording's film with a backdrop, unless another worker has: then that is waited for. */
export async function backdropAlone(wanted: MakeBackdrop): Promise<string> {
  let path = ''
  await alone('backdrop-film', backdropName(wanted.stretch, wanted.backdrop), async () => {
    path = await makeBackdrop(wanted)
  })
  return path
}

/** Makes a camera's film with another backdrop. */
export async function makeBackdropTask(id: string): Promise<void> {
  const film = await backdropToMake(database(), id)
  if (film === null) return
  const { stretch, backdrop } = film
  const { length } = await cameraOf(stretch)
  const began = Date.now()
  let [told, known] = [0, 0]
  let telling = Promise.resolve()
  const onShare = (share: number, found: number): void => {
    known = found
    if (Date.now() - told < PACE) return
    told = Date.now()
    // What was there already is not counted as work.
    const left = share > found ? Math.round(((told - began) / (share - found)) * (1 - share)) : null
    telling = telling
      .then(() => noteBackdrop(database(), film, { state: 'making', share, time_left_ms: left }))
      .catch((fault: unknown) => {
        log.warn({ error: String(fault) }, 'progress was not noted')
      })
  }
  await noteBackdrop(database(), film, { state: 'making', share: 0, time_left_ms: null })
  try {
    await backdropAlone({ stretch, backdrop, onShare })
    await telling
    const measured = known > 0 ? {} : { length_ms: length, took_ms: Date.now() - began }
    await noteBackdrop(database(), film, { state: 'done', share: 1, time_left_ms: 0, ...measured })
  } catch (error) {
    await telling
    if (!(error instanceof Refusal)) throw error
    await noteBackdrop(database(), film, { state: 'failed', share: 0, time_left_ms: null, sentence: error.message })
  }
}

export async function makeBackdropGivenUp(id: string): Promise<void> {
  const film = await backdropToMake(database(), id)
  if (film !== null) await noteBackdrop(database(), film, { state: 'failed', share: 0, time_left_ms: null, sentence: UNMADE })
}
