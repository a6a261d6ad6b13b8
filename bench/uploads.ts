import type { TalkView } from '@contracts'
import { ask, sleep } from '../tests/harness/timed-take'
import { openTake, sendChunks } from './present'
import { memoryHeldBy, processesOf } from './processes'
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
  for (const { pid, part } of processesOf(product.data))
    if (part === 'server' || part === 'worker') held[part] = Math.max(held[part], memoryHeldBy(pid))
  return held
}

/** Sends a recording chunk by chunk through the route that pages use, as fast as it is answered. @returns the take */
async function send(product: RunningProduct, talk: string, slide: string, media: Buffer, seconds: number): Promise<string> {
  const { take, stretch } = await openTake(product, talk, slide, 'replaceAll')
  const count = seconds * CHUNKS_A_SECOND
  const size = Math.ceil(media.length / count)
  for (let first = 0; first < count; first += TOGETHER) {
    const chunks = Array.from({ length: Math.min(TOGETHER, count - first) }, (_, n) =>
      media.subarray((first + n) * size, (first + n + 1) * size),
    )
    const answer = await sendChunks(product, stretch, first, chunks)
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
