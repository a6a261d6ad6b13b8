import { mendedCue, mendedSnapshot } from '@core/ink'
import { Refusal } from '@core/model'
import { api } from '~/client'
import { forgetTake, localTakes } from './local-takes'
import type { LocalStretch, LocalTake } from './local-takes'
import { thisBrowser } from './this-browser'
import { joinTail } from './voice-tail'

/** Most chunks and bytes that go in one request, so that a slow line has carried it before it is given up. */
const MOST_CHUNKS = 60
const MOST_BYTES = 2_000_000

/** Numbers of chunks that this page knows the server has, by stretch, so that it does not ask again. */
const opened = new Set<string>()

/** What the server was told last of a stretch, so that it is not told again every second. */
const told = new Map<string, string>()

async function once(stretch: string, what: string, value: unknown, send: () => Promise<unknown>): Promise<void> {
  const key = `${stretch}:${what}`
  const now = JSON.stringify(value)
  if (told.get(key) === now) return
  await send()
  told.set(key, now)
}

async function sendChunks(stretch: string): Promise<void> {
  const db = await localTakes()
  for (;;) {
    const batch: { n: number; bytes: ArrayBuffer; digest: string }[] = []
    let bytes = 0
    let cursor = await db.transaction('chunks').store.index('stretch').openCursor(stretch)
    while (cursor !== null && batch.length < MOST_CHUNKS && bytes < MOST_BYTES) {
      const follows = batch.length === 0 || cursor.value.n === (batch.at(-1)?.n ?? 0) + 1
      if (!follows) break
      batch.push(cursor.value)
      bytes += cursor.value.bytes.byteLength
      cursor = await cursor.continue()
    }
    const [first] = batch
    if (first === undefined) return
    const header = batch.map((chunk) => `${String(chunk.bytes.byteLength)}:${chunk.digest}`).join(',')
    await api.put(`/stretches/${stretch}/chunks/${String(first.n)}`, new Blob(batch.map((chunk) => chunk.bytes)), {
      'x-aisle-chunks': header,
      'content-type': 'application/octet-stream',
    })
    // The server has them on its disk: only now may they go.
    const transaction = db.transaction('chunks', 'readwrite')
    for (const chunk of batch) await transaction.store.delete([stretch, chunk.n])
    await transaction.done
  }
}

/** As many events as one request takes, at least one: ink has many points. */
function inOneRequest<Sent>(events: readonly Sent[]): readonly Sent[] {
  let bytes = 0
  const fits = events.findIndex((event) => (bytes += JSON.stringify(event).length) > MOST_BYTES)
  return fits < 0 ? events : events.slice(0, Math.max(1, fits))
}

/**
 * Sends events by their numbers. One that the server would not take is kept aside here, and the others go on.
 * @returns how many it would not take
 */
async function sendCues(stretch: string): Promise<number> {
  let aside = 0
  const db = await localTakes()
  for (;;) {
    const cues = await db.getAllFromIndex('cues', 'stretch', stretch, 200)
    const [first] = cues
    if (first === undefined) return aside
    const run = inOneRequest(cues.filter((cue, n) => cue.n === first.n + n).map(({ n, cue }) => ({ stretch, n, cue: mendedCue(cue) })))
    const { refused = [] } = await api.put<{ refused?: readonly number[] }>(`/stretches/${stretch}/cues`, {
      first: first.n,
      cues: run.map(({ cue }) => cue),
    })
    const transaction = db.transaction(['cues', 'aside'], 'readwrite')
    for (const cue of run) {
      if (refused.includes(cue.n)) await transaction.objectStore('aside').put(cue)
      await transaction.objectStore('cues').delete([stretch, cue.n])
    }
    await transaction.done
    aside += refused.length
  }
}

/** How often the server is told that a take goes on, in ms, so that no other browser begins one; and when it was told last. */
const ANNOUNCE_EVERY = 5000
const announced = new Map<string, number>()

/** Tells the server of a take, or that it goes on. @throws Refusal `conflict` when the talk is being recorded elsewhere */
export async function announceTake(take: LocalTake): Promise<void> {
  await api.put(`/talks/${take.talk}/takes/${take.id}`, { kind: take.kind, intent: take.intent, place: thisBrowser() })
  announced.set(take.id, performance.now())
}

async function sendFingerprints(stretch: string): Promise<void> {
  const db = await localTakes()
  for (const { n, at, rate, samples } of await db.getAllFromIndex('prints', 'stretch', stretch)) {
    await api.put(`/stretches/${stretch}/prints/${String(n)}?at=${String(at)}&rate=${String(rate)}`, new Blob([samples]), {
      'content-type': 'application/octet-stream',
    })
    await db.delete('prints', [stretch, n])
  }
}

/** Sends a stretch's first pictures, by which the place of its recorded ones is found. */
async function sendFace(stretch: string): Promise<void> {
  const db = await localTakes()
  const face = await db.get('faces', stretch)
  if (face === undefined) return
  await api.put(`/stretches/${stretch}/face`, new Blob([face.print]), { 'content-type': 'application/octet-stream' })
  await db.delete('faces', stretch)
}

/** Sends full-size pictures of a window that it does not look like any more. */
async function sendStills(stretch: string): Promise<void> {
  const db = await localTakes()
  for (const n of await db.getAllKeysFromIndex('stills', 'stretch', stretch)) {
    const still = await db.get('stills', n)
    if (still === undefined || still.until === null) continue
    await api.put(
      `/stretches/${stretch}/stills/${String(still.n)}?from=${String(still.from)}&until=${String(still.until)}`,
      new Blob([still.picture]),
      { 'content-type': 'application/octet-stream' },
    )
    await db.delete('stills', n)
  }
}

/** Sends what was said last and may not be in the recording, of a stretch that was cut off. */
async function sendTail(stretch: string): Promise<void> {
  const tail = joinTail(await (await localTakes()).getAllFromIndex('tails', 'stretch', stretch))
  if (tail === null) return
  await api.put(`/stretches/${stretch}/tail?at=${String(tail.at)}&rate=${String(tail.rate)}`, new Blob([tail.samples]), {
    'content-type': 'application/octet-stream',
  })
}

/** @returns how many of its events the server would not take just now */
async function sendStretch(stretch: LocalStretch): Promise<number> {
  if (!opened.has(stretch.id)) {
    const { id, offsets: _, closing: __, kept: ___, ...body } = stretch
    await api.put(`/stretches/${id}`, { ...body, opening: mendedSnapshot(body.opening) })
    opened.add(id)
  }
  const { offsets, kept, closing } = stretch
  if (offsets !== null) await once(stretch.id, 'offsets', offsets, () => api.put(`/stretches/${stretch.id}/offsets`, offsets))
  await sendChunks(stretch.id)
  const aside = await sendCues(stretch.id)
  await sendFingerprints(stretch.id)
  await sendFace(stretch.id)
  await sendStills(stretch.id)
  if (kept !== null) await once(stretch.id, 'kept', kept, () => api.put(`/stretches/${stretch.id}/kept`, { kept }))
  // What lies aside here is not waited for there.
  const left = await (await localTakes()).countFromIndex('aside', 'stretch', stretch.id)
  if (closing !== null)
    await once(stretch.id, 'closing', closing, () => api.post(`/stretches/${stretch.id}/close`, { ...closing, cues: closing.cues - left }))
  return aside
}

/**
 * Sends whatever the server does not have of a take; asked again, it sends the rest. A take that was stopped, and whose
 * every part has arrived, is finished there and forgotten here.
 * @param onAside hears how many events the server would not take; they are kept here
 * @returns whether it is finished
 * @throws Refusal; what was not sent is still here
 */
export async function sendTake(take: LocalTake, onAside: (count: number) => void = () => undefined): Promise<boolean> {
  const db = await localTakes()
  if (performance.now() - (announced.get(take.id) ?? -Infinity) > ANNOUNCE_EVERY) await announceTake(take)
  const stretches = (await db.getAllFromIndex('stretches', 'take', take.id)).sort((a, b) => a.number - b.number)
  for (const stretch of stretches) {
    const aside = await sendStretch(stretch)
    if (aside > 0) onAside(aside)
  }
  const now = await db.get('takes', take.id)
  if (now?.stopped !== true || stretches.some((stretch) => stretch.closing === null)) return false
  await api.post(`/takes/${take.id}/finish`)
  await forgetTake(take.id)
  return true
}

/** Chunks of a take that are on this machine alone. */
export async function chunksWaiting(take: string): Promise<number> {
  const db = await localTakes()
  const stretches = await db.getAllKeysFromIndex('stretches', 'take', take)
  const counts = await Promise.all(stretches.map((stretch) => db.countFromIndex('chunks', 'stretch', stretch)))
  return counts.reduce((sum, count) => sum + count, 0)
}

/** Finishes a take that was broken off, with all that was kept of it here and there. */
export async function recoverTake(id: string): Promise<void> {
  const db = await localTakes()
  const take = await db.get('takes', id)
  if (take !== undefined) {
    await sendTake(take)
    for (const stretch of await db.getAllFromIndex('stretches', 'take', id)) if (stretch.closing === null) await sendTail(stretch.id)
  }
  await api.post(`/takes/${id}/recover`, { browser: thisBrowser().browser })
  await forgetTake(id)
}

/** Gives up a take that was broken off. The server keeps what arrived for as long as it can be brought back. */
export async function discardBrokenTake(id: string): Promise<void> {
  await api.delete(`/takes/${id}`).catch((error: unknown) => {
    if (!(error instanceof Refusal && error.code === 'not-found')) throw error
  })
  await forgetTake(id)
}
