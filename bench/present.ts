import { createHash, randomUUID } from 'node:crypto'
import type { ScreeningView, ShareView, TalkView } from '@contracts'
import { ask, sleep } from '../tests/harness/timed-take'
import type { RunningProduct } from './running-product'

/** Chunks of a recording a second, as pages make them; they are sent once a second. */
const CHUNKS_A_SECOND = 4

/** A recording that somebody sends, and for how long. */
export interface Presenting {
  readonly talk: string
  readonly media: Buffer
  /** How long the recording is, in s. */
  readonly seconds: number
  /** When in a second it is sent, from 0 to 1. */
  readonly phase: number
}

/** Begins a take of voice and face, as pages do. */
export async function openTake(
  product: RunningProduct,
  talk: string,
  slide: string,
  kind: 'append' | 'replaceAll',
): Promise<{ readonly take: string; readonly stretch: string }> {
  const [take, stretch] = [randomUUID(), randomUUID()]
  await ask(product, 'PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind } })
  await ask(product, 'PUT', `/stretches/${stretch}`, {
    take,
    number: 0,
    camera: true,
    voice: true,
    mime: 'video/webm;codecs=vp8,opus',
    opening: { slide, step: 0, blank: false, inset: true, ink: [] },
  })
  return { take, stretch }
}

/** Sends chunks that follow each other in one go. @param first number of the first of them */
export async function sendChunks(product: RunningProduct, stretch: string, first: number, chunks: readonly Buffer[]): Promise<Response> {
  const header = chunks.map((chunk) => `${String(chunk.length)}:${createHash('sha256').update(chunk).digest('hex')}`).join(',')
  return await fetch(`${product.url}/api/stretches/${stretch}/chunks/${String(first)}`, {
    method: 'PUT',
    headers: { 'x-aisle-chunks': header, 'content-type': 'application/octet-stream' },
    body: new Uint8Array(Buffer.concat(chunks)),
  })
}

/**
 * Sends a recording in real time through the route that pages use.
 * @param end by the process's clock, in ms
 * @returns how long each sending took until it was acknowledged, in ms; those that were refused took for ever
 */
export async function present(
  product: RunningProduct,
  { talk, media, seconds, phase }: Presenting,
  end: number,
): Promise<readonly number[]> {
  const { slides } = await ask<TalkView>(product, 'GET', `/talks/${talk}`)
  const { stretch } = await openTake(product, talk, slides[0]?.id ?? '', 'append')
  const size = Math.ceil(media.length / (seconds * CHUNKS_A_SECOND))
  const times: number[] = []
  // Not all at the same moment of a second.
  await sleep(phase * 1000)
  const began = performance.now()
  for (let second = 0; performance.now() < end; second += 1) {
    const first = second * CHUNKS_A_SECOND
    const chunks = Array.from({ length: CHUNKS_A_SECOND }, (_, n) => media.subarray((first + n) * size, (first + n + 1) * size))
    if ((chunks.at(-1)?.length ?? 0) === 0) break
    const sent = performance.now()
    const answer = await sendChunks(product, stretch, first, chunks)
    await answer.arrayBuffer()
    times.push(answer.ok ? performance.now() - sent : Infinity)
    const next = began + (second + 1) * 1000 - performance.now()
    if (next > 0) await sleep(next)
  }
  return times
}

/** Shows a talk to whoever has the link, and waits until its films are made. */
export async function shared(product: RunningProduct, talk: string): Promise<{ readonly key: string; readonly media: string }> {
  const { address } = await ask<ShareView>(product, 'PUT', `/talks/${talk}/share`, {
    level: 'link',
    presenter: 'Maren Holt',
    description: '',
    handout: true,
    viewerNotes: true,
    film: null,
    questions: true,
    until: null,
    group: null,
    embedOn: [],
    reports: false,
  })
  const key = address.split('/s/')[1] ?? ''
  for (;;) {
    const { films, media } = await ask<ScreeningView>(product, 'GET', `/screenings/${key}`)
    if (films.length > 0) return { key, media }
    await sleep(1000)
  }
}
