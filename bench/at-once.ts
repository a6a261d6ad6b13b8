import { randomUUID } from 'node:crypto'
import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { run } from '@render/process'
import type { TalkView } from '@contracts'
import { Client } from '../tests/harness/client'
import { digestOf } from '../tests/harness/recording'
import { screeningOf, shareTalk } from '../tests/harness/screening'
import { knotsTalk } from '../tests/harness/talks'
import { startRunning } from './running-product'
import type { Figure } from './figure'

/** Bytes of a chunk. */
const CHUNK = 256 * 1024
/** How many times as fast as it was spoken a recording comes. */
const FASTER = 30
/** How often it is looked whether it can be watched, in ms: more often takes what makes it ready a part of the machine. */
const ASK_AGAIN = 100
/** How long a talk of ten minutes, and one of an hour, may take to be watched, in s. */
const MOST = { 10: 3, 60: 10 } as const

/** A recording with voice and a camera of 720 lines: a minute, over and over. */
async function recordingOf(minutes: number, folder: string): Promise<Buffer> {
  const minute = join(folder, 'minute.webm')
  const whole = join(folder, `${String(minutes)}.webm`)
  const quiet = ['-v', 'error', '-y']
  await run('ffmpeg', [
    ...quiet,
    ...['-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=30:d=60', '-f', 'lavfi', '-i', 'sine=frequency=330:duration=60,volume=8dB'],
    ...['-c:v', 'libvpx', '-deadline', 'realtime', '-cpu-used', '8', '-b:v', '1M', '-g', '100', '-c:a', 'libopus', minute],
  ])
  await run('ffmpeg', [...quiet, '-stream_loop', String(minutes - 1), '-i', minute, '-c', 'copy', whole])
  return await readFile(whole)
}

/** How long after its end a take is in the programme, and its beginning can be watched; in s. */
interface Readiness {
  readonly placed: number
  readonly watched: number
}

/** Sends a recording as it would come, only faster, and looks from the moment at which its take is finished. */
async function untilWatched(url: string, client: Client, minutes: keyof typeof MOST, folder: string): Promise<Readiness> {
  const { talk, slides } = await knotsTalk(client, `${String(minutes)} minutes`)
  const { key } = await shareTalk(client, talk)
  const media = await recordingOf(minutes, folder)
  const [take, stretch] = [randomUUID(), randomUUID()]
  const length = minutes * 60_000
  const goesOn = () => client.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
  await goesOn()
  await client.get('PUT', `/stretches/${stretch}`, {
    ...{ take, number: 0, camera: true, voice: true, mime: 'video/webm;codecs=vp8,opus' },
    opening: { slide: slides[0], step: 0, blank: false, inset: true, ink: [] },
  })
  const chunks = Math.ceil(media.length / CHUNK)
  const first = performance.now()
  for (let n = 0; n < chunks; n += 1) {
    const due = first + (((n + 1) / chunks) * length) / FASTER
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - performance.now())))
    if (n % 100 === 0) await goesOn()
    const part = media.subarray(n * CHUNK, (n + 1) * CHUNK)
    const { status } = await client.ask('PUT', `/stretches/${stretch}/chunks/${String(n)}`, new Uint8Array(part), {
      'x-aisle-chunks': `${String(part.length)}:${digestOf(part)}`,
      'content-type': 'application/octet-stream',
    })
    if (status >= 300) throw new Error(`a chunk was refused: ${String(status)}`)
  }
  const cues = Array.from({ length: minutes * 2 - 1 }, (_, n) => ({
    kind: 'show',
    at: (n + 1) * 30_000,
    slide: slides[(n + 1) % slides.length],
    step: 0,
  }))
  await client.get('PUT', `/stretches/${stretch}/cues`, { first: 0, cues })
  const began = performance.now()
  await client.get('POST', `/stretches/${stretch}/close`, { chunks, cues: cues.length, length })
  await client.get('POST', `/takes/${take}/finish`)
  let view = await screeningOf(url, key)
  for (let asked = 1; view.timing !== 'recorded'; asked += 1) {
    await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN))
    view = await screeningOf(url, key)
    if (asked % 50 > 0) continue
    const failed = (await client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.state === 'failed')
    if (failed !== undefined) throw new Error(failed.sentence ?? 'the take failed')
  }
  const placed = (performance.now() - began) / 1000
  await Promise.all(
    ['sound', 'face'].map(async (track) => {
      const list = await (await fetch(`${url}${view.media}/${track}.m3u8`)).text()
      const first = /[0-9a-f]{64}\.m4s/.exec(list)?.[0] ?? ''
      const part = await fetch(`${url}${view.media}/${first}`)
      if (!part.ok) throw new Error(`${track}: ${String(part.status)}`)
      await part.arrayBuffer()
    }),
  )
  return { placed, watched: (performance.now() - began) / 1000 }
}

/** How soon after a take of ten minutes, and of an hour, its screening page plays. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4395)
  const folder = await mkdtemp(join(tmpdir(), 'aisle-at-once-'))
  try {
    const client = new Client(product.url)
    const ten = await untilWatched(product.url, client, 10, folder)
    const hour = await untilWatched(product.url, client, 60, folder)
    return {
      value: Number(ten.watched.toFixed(1)),
      unit: 's',
      target: `${String(MOST[10])} after ten minutes, ${String(MOST[60])} after an hour`,
      ok: ten.watched <= MOST[10] && hour.watched <= MOST[60],
      detail: { tenMinutes: ten, hour },
    }
  } finally {
    await product.stop()
    await rm(folder, { recursive: true, force: true })
  }
}
