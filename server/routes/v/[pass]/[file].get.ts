import { getRouterParam, setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import { webVtt } from '@core/formats'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { filmToTake, screenedHandout, screenedNotes, screenedWords, sharedFile, streamTracks } from '@server/domain'
import { answerWithPass, filmPartOf, filmPlaylist, screeningPlaylist, sendFile, sendMade } from '@server/http'
import type { FilmPart, PassedIn } from '@server/http'
import { foreseeFile, screeningFile } from '@server/media'
import type { ScreeningMedia } from '@server/media'
import { assetPath, deliveryPath, streamPath, wholeStreamPath } from '@server/store'
import { log } from '@server/log'

const nothing = (): Refusal => new Refusal('not-found', 'There is nothing under this address.')

/** Text that never changes under its address. */
function sendText(event: H3Event, text: string, mime: string): string {
  setResponseHeaders(event, { 'content-type': mime, 'cache-control': 'public, max-age=31536000, immutable' })
  return text
}

/** What comes after a part that is asked for is asked for next: it is made meanwhile, if nobody waits for anything. */
function foresee(next: ScreeningMedia): void {
  foreseeFile(next).catch((error: unknown) => {
    log.warn({ error: String(error) }, 'a part of a screening could not be made')
  })
}

async function sendFilm(event: H3Event, { access }: PassedIn): Promise<void> {
  const film = await filmToTake(database(), access.mayTake.film)
  if (film === null) throw nothing()
  await sendFile(event, { path: deliveryPath(film.id), mime: 'video/mp4', download: film.file, fixed: false, tag: film.id })
}

/** Name of a file that goes with the talk. */
const OF_A_FILE = /^file-(?<id>[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12})$/

/** A file that goes with the talk: to be saved, never shown as a page of ours. */
async function sendShared(event: H3Event, talk: string, id: string): Promise<void> {
  const { name, digest } = await sharedFile(database(), talk, id)
  await sendFile(event, { path: assetPath(digest), mime: 'application/octet-stream', download: name, fixed: false, tag: digest })
}

/** What may be taken along, as far as it may; null when it is nothing of that. */
async function takenAlong(event: H3Event, name: string, passed: PassedIn): Promise<{ readonly sent: unknown } | null> {
  const { access, screening } = passed
  switch (name) {
    case 'talk.mp4':
      return { sent: await sendFilm(event, passed) }
    case 'slides.pdf': {
      if (!access.mayTake.handout) throw nothing()
      const { bytes, file } = await screenedHandout(database(), access.talk, screening, access.mayTake.viewerNotes)
      return { sent: sendMade(event, bytes, 'application/pdf', file) }
    }
    case 'notes.md': {
      if (!access.mayTake.viewerNotes) throw nothing()
      const { text, file } = await screenedNotes(database(), access.talk, screening)
      return { sent: sendMade(event, text, 'text/markdown; charset=utf-8', file) }
    }
    default: {
      const file = OF_A_FILE.exec(name)?.groups?.['id']
      return file === undefined ? null : { sent: await sendShared(event, access.talk, file) }
    }
  }
}

/** What is said, to be read with the film; it may be put right at any time. */
async function sendCaptions(event: H3Event, { version, screening }: PassedIn): Promise<string> {
  const { captions } = await screenedWords(database(), version, screening)
  setResponseHeaders(event, { 'content-type': 'text/vtt; charset=utf-8', 'cache-control': 'private, max-age=60' })
  return webVtt(captions)
}

/** A talk as a film: which there is, where its parts lie, and the files that they lie in. */
async function sendTrack(event: H3Event, name: string, { lines, ending }: FilmPart, { version }: PassedIn): Promise<unknown> {
  const { talk, timing, revision } = version
  if (timing !== 'recorded') throw nothing()
  if (ending === 'm3u8') {
    const playlist = filmPlaylist(lines, await streamTracks(database(), talk, revision))
    if (playlist === null) throw nothing()
    return sendText(event, playlist, 'application/vnd.apple.mpegurl')
  }
  // Who watches asks for a part every few seconds: whether it is there is told by the file alone.
  const path = lines === null ? wholeStreamPath(talk, revision) : streamPath(talk, revision, lines)
  await sendFile(event, { path, mime: 'video/mp4', fixed: true, shared: true, tag: `${talk}-${String(revision)}-${name}` })
  return undefined
}

export default answerWithPass(async (event, passed) => {
  const name = getRouterParam(event, 'file') ?? ''
  const { screening } = passed
  if (name === 'film.json') return sendText(event, screening.text, 'application/json')
  if (name === 'captions.vtt') return await sendCaptions(event, passed)
  const taken = await takenAlong(event, name, passed)
  if (taken !== null) return taken.sent
  const film = filmPartOf(name)
  if (film !== null) return await sendTrack(event, name, film, passed)
  const playlist = await screeningPlaylist(name, screening)
  if (playlist !== null) return sendText(event, playlist, 'application/vnd.apple.mpegurl')
  const found = screening.media.get(name)
  if (found === undefined) throw nothing()
  const { media, next } = found
  const path = await screeningFile(media)
  if (next !== null) foresee(next)
  const mime = media.kind.startsWith('sound') ? 'audio/mp4' : 'video/mp4'
  await sendFile(event, { path, mime, fixed: true, shared: true, tag: name })
  return undefined
})
