import { createHash, randomUUID } from 'node:crypto'
import { readFileSync, readdirSync } from 'node:fs'
import type { TalkView } from '@contracts'
import { programFile } from '../scripts/start/programs'
import { ask, sleep } from '../tests/harness/timed-take'
import { recordingOf } from './recorded'
import { startRunning } from './running-product'
import type { RunningProduct } from './running-product'
import type { Figure } from './figure'

const CHUNKS_A_SECOND = 4
const TOGETHER = 60
const HOUR = 3600
/** How long each of ten presenters records, in seconds. */
const EACH = 300

/** Memory that the product's processes hold, in MB, by what they are. */
function memoryOf(product: RunningProduct): Readonly<Record<'server' | 'worker', number>> {
  const held = { server: 0, worker: 0 }
  for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      const command = readFileSync(`/proc/${id}/cmdline`, 'utf8')
      if (!readFileSync(`/proc/${id}/environ`, 'utf8').includes(product.data)) continue
      const other = command.includes(programFile('worker')) ? 'worker' : null
      const kind = command.includes('server/index.mjs') ? 'server' : other
      if (kind !== null)
        held[kind] = Math.max(held[kind], Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) / 1024)
    } catch {
      // It ended while it was looked at.
    }
  }
  return held
}

/** Sends a recording chunk by chunk through the route that pages use, as fast as it is answered. @returns the take */
async function send(product: RunningProduct, talk: string, slide: string, media: Buffer, seconds: number): Promise<string> {
  const [take, stretch] = [randomUUID(), randomUUID()]
  await ask(product, 'PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
  await ask(product, 'PUT', `/stretches/${stretch}`, {
    take,
    number: 0,
    camera: true,
    voice: true,
    mime: 'video/webm;codecs=vp8,opus',
    opening: { slide, step: 0, blank: false, inset: true, ink: [] },
  })
  const count = seconds * CHUNKS_A_SECOND
  const size = Math.ceil(media.length / count)
  for (let first = 0; first < count; first += TOGETHER) {
    const chunks = Array.from({ length: Math.min(TOGETHER, count - first) }, (_, n) =>
      media.subarray((first + n) * size, (first + n + 1) * size),
    )
    const header = chunks.map((chunk) => `${String(chunk.length)}:${createHash('sha256').update(chunk).digest('hex')}`).join(',')
    const answer = await fetch(`${product.url}/api/stretches/${stretch}/chunks/${String(first)}`, {
      method: 'PUT',
      headers: { 'x-aisle-chunks': header, 'content-type': 'application/octet-stream' },
      body: new Uint8Array(Buffer.concat(chunks)),
    })
    if (!answer.ok) throw new Error(`chunks from ${String(first)} on: ${await answer.text()}`)
  }
  await ask(product, 'POST', `/stretches/${stretch}/close`, { chunks: count, cues: 0, length: seconds * 1000 })
  await ask(product, 'POST', `/takes/${take}/finish`)
  return take
}

async function ready(product: RunningProduct, talk: string, take: string): Promise<void> {
  for (;;) {
    const found = (await ask<TalkView>(product, 'GET', `/talks/${talk}`)).takes.find((one) => one.id === take)
    if (found?.state === 'closed') return
    if (found?.state === 'failed') throw new Error(found.sentence ?? 'the take failed')
    await sleep(200)
  }
}

/** An hour's take, sped up through the real way of uploading, and ten presenters who upload at once: memory of server and worker. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4397)
  let peak = { server: 0, worker: 0 }
  const watch = setInterval(() => {
    const now = memoryOf(product)
    peak = { server: Math.max(peak.server, now.server), worker: Math.max(peak.worker, now.worker) }
  }, 200)
  try {
    const talks = await ask<readonly { readonly id: string }[]>(product, 'GET', '/talks')
    const first = talks[0]?.id ?? ''
    const slide = (await ask<TalkView>(product, 'GET', `/talks/${first}`)).slides[0]?.id ?? ''
    const idle = memoryOf(product)

    const hour = await recordingOf(HOUR)
    let began = performance.now()
    const take = await send(product, first, slide, hour, HOUR)
    const sent = performance.now() - began
    await ready(product, first, take)
    const long = {
      chunks: HOUR * CHUNKS_A_SECOND,
      mb: Math.round(hour.length / 1e6),
      uploadSeconds: Number((sent / 1000).toFixed(1)),
      readySeconds: Number(((performance.now() - began - sent) / 1000).toFixed(1)),
      serverMb: Math.round(peak.server),
      workerMb: Math.round(peak.worker),
    }

    const theirs = await Promise.all(
      Array.from({ length: 10 }, async () => (await ask<{ id: string }>(product, 'POST', `/talks/${first}/duplicate`)).id),
    )
    const slides = await Promise.all(
      theirs.map(async (talk) => (await ask<TalkView>(product, 'GET', `/talks/${talk}`)).slides[0]?.id ?? ''),
    )
    const media = hour.subarray(0, Math.round((hour.length * EACH) / HOUR))
    peak = { server: 0, worker: 0 }
    began = performance.now()
    const takes = await Promise.all(theirs.map((talk, n) => send(product, talk, slides[n] ?? '', media, EACH)))
    const together = performance.now() - began
    const serverMb = Math.round(peak.server)
    await Promise.all(takes.map((one, n) => ready(product, theirs[n] ?? '', one)))
    return {
      value: serverMb,
      unit: 'MB',
      target: 'server with ten presenters, 400 or less',
      ok: serverMb <= 400,
      detail: {
        idleServerMb: Math.round(idle.server),
        hour: long,
        ten: { secondsEach: EACH, uploadSeconds: Number((together / 1000).toFixed(1)), serverMb, workerMb: Math.round(peak.worker) },
      },
    }
  } finally {
    clearInterval(watch)
    await product.stop()
  }
}
