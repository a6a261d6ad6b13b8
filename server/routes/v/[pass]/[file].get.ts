import { getRouterParam, setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { filmToTake } from '@server/domain'
import { answerWithPass, screeningPlaylist, sendFile } from '@server/http'
import type { PassedIn } from '@server/http'
import { nameOfMedia, screeningFile } from '@server/media'
import { deliveryPath } from '@server/store'
import { log } from '@server/log'

const nothing = (): Refusal => new Refusal('not-found', 'There is nothing under this address.')

/** Text that never changes under its address. */
function sendText(event: H3Event, text: string, mime: string): string {
  setResponseHeaders(event, { 'content-type': mime, 'cache-control': 'public, max-age=31536000, immutable' })
  return text
}

/** What comes after a part that is asked for is asked for next: it is made meanwhile. */
function foresee(name: string, { screening }: PassedIn): void {
  for (const track of [screening.sound, screening.face]) {
    const n = track.findIndex((media) => nameOfMedia(media) === name)
    const next = n < 0 ? undefined : track[n + 1]
    if (next !== undefined)
      void screeningFile(next).catch((error: unknown) => {
        log.warn({ error: String(error) }, 'a part of a screening could not be made')
      })
  }
}

async function sendFilm(event: H3Event, { access }: PassedIn): Promise<void> {
  const film = await filmToTake(database(), access.mayTake.film)
  if (film === null) throw nothing()
  await sendFile(event, { path: deliveryPath(film.id), mime: 'video/mp4', download: film.file, fixed: false, tag: film.id })
}

export default answerWithPass(async (event, passed) => {
  const name = getRouterParam(event, 'file') ?? ''
  const { screening } = passed
  if (name === 'film.json') return sendText(event, screening.text, 'application/json')
  if (name === 'talk.mp4') return await sendFilm(event, passed)
  const playlist = await screeningPlaylist(name, screening)
  if (playlist !== null) return sendText(event, playlist, 'application/vnd.apple.mpegurl')
  const media = screening.media.get(name)
  if (media === undefined) throw nothing()
  const path = await screeningFile(media)
  foresee(name, passed)
  const mime = media.kind.startsWith('sound') ? 'audio/mp4' : 'video/mp4'
  await sendFile(event, { path, mime, fixed: true, shared: true, tag: name })
  return undefined
})
