import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Cue } from '@core/model'
import { Refusal } from '@core/model'
import { keepLocally, localTakes } from './local-takes'
import type { LocalStretch, LocalTake } from './local-takes'
import { recoverTake, sendTake, chunksWaiting } from './send-take'

interface Asked {
  readonly method: string
  readonly path: string
  readonly chunks: readonly string[]
  readonly body: unknown
}

/** What the server was asked, and what it answers. */
let asked: Asked[] = []
let refuse: (one: Asked) => number | null = () => null
/** Numbers of events that it will not take. */
let refused: readonly number[] = []

async function readBody(body: unknown): Promise<unknown> {
  if (body instanceof Blob) return await body.text()
  return typeof body === 'string' ? (JSON.parse(body) as unknown) : body
}

vi.stubGlobal('navigator', { userAgent: 'a browser' })
vi.stubGlobal('localStorage', { getItem: () => 'this-browser', setItem: () => undefined })
vi.stubGlobal('fetch', async (url: string, init: { method: string; body?: unknown; headers?: HeadersInit }) => {
  const { body } = init
  const digests = new Headers(init.headers).get('x-aisle-chunks')
  const one: Asked = {
    method: init.method,
    path: url.replace('/api', ''),
    chunks: digests === null ? [] : digests.split(','),
    body: await readBody(body),
  }
  asked.push(one)
  const status = refuse(one)
  return status === null
    ? new Response(JSON.stringify(one.path.endsWith('/cues') ? { refused } : {}), {
        status: 200,
        headers: { 'content-type': 'application/json' },
      })
    : new Response(JSON.stringify({ error: { code: 'unavailable', sentence: 'Not now.', detail: {} } }), {
        status,
        headers: { 'content-type': 'application/json' },
      })
})

let number = 0
const bytes = (text: string): ArrayBuffer => new TextEncoder().encode(text).buffer
const chunk = (stretch: string, n: number, text = String(n)) => ({ stretch, n, bytes: bytes(text), digest: `d${text}` })
const cue = (at: number): Cue => ({ kind: 'mute', at, on: true })

/** A take of one stretch, as the recorder keeps it. */
async function kept(
  stretch: Partial<LocalStretch> = {},
  take: Partial<LocalTake> = {},
): Promise<{ readonly take: LocalTake; readonly stretch: LocalStretch }> {
  number += 1
  const one: LocalTake = {
    id: `take-${String(number)}`,
    talk: 'talk',
    kind: 'full',
    intent: { kind: 'replaceAll' },
    stopped: false,
    began: 0,
    ...take,
  }
  const first: LocalStretch = {
    id: `stretch-${String(number)}`,
    take: one.id,
    number: 0,
    camera: false,
    voice: true,
    mime: 'audio/webm',
    offsets: null,
    closing: null,
    kept: null,
    opening: { slide: 'slide', step: 0, blank: false, inset: true, ink: [] } as unknown as LocalStretch['opening'],
    ...stretch,
  }
  await keepLocally('takes', one)
  await keepLocally('stretches', first)
  return { take: one, stretch: first }
}
const paths = (): readonly string[] => asked.map(({ method, path }) => `${method} ${path}`)
const sentChunks = (): readonly string[] => asked.flatMap(({ chunks }) => chunks)

beforeEach(() => {
  asked = []
  refuse = () => null
  refused = []
})

describe('a take that is being recorded', () => {
  it('is announced, opened once, and has its chunks sent in runs, each with its own digest', async () => {
    const { take, stretch } = await kept()
    await keepLocally('chunks', chunk(stretch.id, 0), chunk(stretch.id, 1), chunk(stretch.id, 3))
    expect(await sendTake(take)).toBe(false)
    expect(paths()).toEqual([
      `PUT /talks/talk/takes/${take.id}`,
      `PUT /stretches/${stretch.id}`,
      `PUT /stretches/${stretch.id}/chunks/0`,
      `PUT /stretches/${stretch.id}/chunks/3`,
    ])
    expect(asked[2]).toMatchObject({ chunks: ['1:d0', '1:d1'], body: '01' })
    expect(await chunksWaiting(take.id)).toBe(0)

    await keepLocally('chunks', chunk(stretch.id, 4))
    await sendTake(take)
    expect(paths().slice(4)).toEqual([`PUT /stretches/${stretch.id}/chunks/4`])
  })

  it('keeps what the server did not take, and sends it again with the rest, in order', async () => {
    const { take, stretch } = await kept()
    await keepLocally('chunks', chunk(stretch.id, 0), chunk(stretch.id, 1))
    refuse = ({ path }) => (path.includes('/chunks/') ? 503 : null)
    await expect(sendTake(take)).rejects.toThrow(Refusal)
    expect(await chunksWaiting(take.id)).toBe(2)

    refuse = () => null
    asked = []
    await keepLocally('chunks', chunk(stretch.id, 2))
    await sendTake(take)
    expect(sentChunks()).toEqual(['1:d0', '1:d1', '1:d2'])
    expect(await chunksWaiting(take.id)).toBe(0)
  })

  it('sends no more at once than a slow line carries', async () => {
    const { take, stretch } = await kept()
    const long = 'x'.repeat(900_000)
    await keepLocally('chunks', ...[0, 1, 2, 3, 4].map((n) => chunk(stretch.id, n, long)))
    await sendTake(take)
    expect(asked.filter(({ path }) => path.includes('/chunks/')).map(({ chunks }) => chunks.length)).toEqual([3, 2])
  })

  it('sends cues by their numbers, and none before one that is missing twice', async () => {
    const { take, stretch } = await kept()
    await keepLocally('cues', ...[0, 1, 4].map((n) => ({ stretch: stretch.id, n, cue: cue(n * 100) })))
    await sendTake(take)
    expect(asked.filter(({ path }) => path.endsWith('/cues')).map(({ body }) => body)).toEqual([
      { first: 0, cues: [cue(0), cue(100)] },
      { first: 4, cues: [cue(400)] },
    ])
    expect(await (await localTakes()).countFromIndex('cues', 'stretch', stretch.id)).toBe(0)
  })

  it('is mended on its way where something in it could not be taken in, and what is refused all the same holds nothing back', async () => {
    const { take, stretch } = await kept({ closing: { chunks: 0, cues: 3, length: 1000 } }, { stopped: true })
    const off: Cue = {
      kind: 'ink',
      at: 10,
      stroke: {
        id: 'k',
        slide: 'one',
        colour: 'brick',
        width: 'fine',
        pressure: false,
        points: Array.from({ length: 21_000 }, (_, dt) => ({ dt, x: 1.62, y: 0.5, p: 0.5 })),
      } as never,
    }
    await keepLocally(
      'cues',
      { stretch: stretch.id, n: 0, cue: off },
      { stretch: stretch.id, n: 1, cue: cue(20) },
      { stretch: stretch.id, n: 2, cue: cue(30) },
    )
    refused = [1]
    const said: number[] = []
    expect(
      await sendTake(take, (count) => {
        said.push(count)
      }),
    ).toBe(true)
    const sent = asked.find(({ path }) => path.endsWith('/cues'))?.body as {
      cues: readonly { stroke?: { points: readonly { x: number }[] } }[]
    }
    expect(sent.cues).toHaveLength(3)
    expect(sent.cues[0]?.stroke?.points).toHaveLength(20_000)
    expect(sent.cues[0]?.stroke?.points[0]?.x).toBe(1.5)
    expect(said).toEqual([1])
    expect(asked.find(({ path }) => path.endsWith('/close'))?.body).toEqual({ chunks: 0, cues: 2, length: 1000 })
    expect(await (await localTakes()).getAll('aside')).toEqual([{ stretch: stretch.id, n: 1, cue: cue(20) }])
  })

  it('tells what is kept of a stretch when it changes, and not again', async () => {
    const { take, stretch } = await kept({ kept: 900 })
    await sendTake(take)
    await sendTake(take)
    await keepLocally('stretches', { ...stretch, kept: 700 })
    await sendTake(take)
    expect(asked.filter(({ path }) => path.endsWith('/kept')).map(({ body }) => body)).toEqual([{ kept: 900 }, { kept: 700 }])
  })
})

describe('a take that was stopped', () => {
  it('is closed and finished after all of it has arrived, and then forgotten here', async () => {
    const closing = { chunks: 1, cues: 1, length: 1000 }
    const { take, stretch } = await kept({ closing }, { stopped: true })
    await keepLocally('chunks', chunk(stretch.id, 0))
    await keepLocally('cues', { stretch: stretch.id, n: 0, cue: cue(10) })
    await keepLocally('faces', { stretch: stretch.id, print: bytes('face') })
    expect(await sendTake(take)).toBe(true)
    expect(paths().slice(2)).toEqual([
      `PUT /stretches/${stretch.id}/chunks/0`,
      `PUT /stretches/${stretch.id}/cues`,
      `PUT /stretches/${stretch.id}/face`,
      `POST /stretches/${stretch.id}/close`,
      `POST /takes/${take.id}/finish`,
    ])
    expect(await (await localTakes()).get('takes', take.id)).toBeUndefined()
    expect(await (await localTakes()).get('stretches', stretch.id)).toBeUndefined()
  })

  it('is not forgotten when the server cannot finish it', async () => {
    const { take } = await kept({ closing: { chunks: 0, cues: 0, length: 10 } }, { stopped: true })
    refuse = ({ path }) => (path.endsWith('/finish') ? 503 : null)
    await expect(sendTake(take)).rejects.toThrow(Refusal)
    expect(await (await localTakes()).get('takes', take.id)).toBeDefined()
    refuse = () => null
    expect(await sendTake(take)).toBe(true)
  })
})

describe('a take that was broken off', () => {
  it('is recovered with the voice that its recording may lack, of the stretch that was cut off alone', async () => {
    const { take, stretch } = await kept({ closing: { chunks: 0, cues: 0, length: 500 } })
    const cut: LocalStretch = { ...stretch, id: `${stretch.id}-cut`, number: 1, closing: null }
    await keepLocally('stretches', cut)
    const said = (of: string) => ({ stretch: of, n: 0, at: 250, rate: 1000, samples: Int16Array.from([7, 8]).buffer })
    await keepLocally('tails', said(stretch.id), said(cut.id))
    await recoverTake(take.id)
    expect(paths().filter((path) => path.includes('/tail'))).toEqual([`PUT /stretches/${cut.id}/tail?at=250&rate=1000`])
    expect(paths().at(-1)).toBe(`POST /takes/${take.id}/recover`)
    expect(await (await localTakes()).get('takes', take.id)).toBeUndefined()
  })
})
