import { randomUUID } from 'node:crypto'
import { readFile, readdir, stat } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView, FilmView, TalkView } from '@contracts'
import { PRINT_SIZE, packVideoFingerprint } from '@core/camera'
import { pictureTimes } from '@render/probe'
import { run } from '@render/process'
import { Client, sentenceOf } from '../harness/client'
import { KNOTS, fileForm, makePdf } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf as digest, facedRecording, toneRecording } from '../harness/recording'

let product: Product
let client: Client
let talk: string
let slides: TalkView['slides']
let media: Buffer

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  media = await toneRecording(3)
  talk = (await client.get<{ id: string }>('POST', '/talks', { name: 'Knots', limit: 2000 })).id
  await client.get('POST', `/talks/${talk}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
  slides = (
    await until('the deck', async () => {
      const now = await client.get<TalkView>('GET', `/talks/${talk}`)
      return now.imports[0]?.state === 'done' && now
    })
  ).slides
})
afterAll(async () => {
  await product.stop()
})

/** @param recording that is cut into three chunks */
async function openStretch(recording = media, camera = false): Promise<{ take: string; stretch: string; chunks: readonly Buffer[] }> {
  const take = randomUUID()
  const stretch = randomUUID()
  await client.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
  await client.get('PUT', `/stretches/${stretch}`, {
    take,
    number: 0,
    camera,
    voice: true,
    mime: 'audio/webm;codecs=opus',
    opening: { slide: slides[0]?.id, step: 0, blank: false, inset: true, ink: [] },
  })
  const third = Math.ceil(recording.length / 3)
  return { take, stretch, chunks: [0, 1, 2].map((n) => recording.subarray(n * third, (n + 1) * third)) }
}

const send = (stretch: string, n: number, ...chunks: readonly Buffer[]) =>
  client.ask('PUT', `/stretches/${stretch}/chunks/${String(n)}`, new Uint8Array(Buffer.concat(chunks)), {
    'x-aisle-chunks': chunks.map((chunk) => `${String(chunk.length)}:${digest(chunk)}`).join(','),
    'content-type': 'application/octet-stream',
  })

const finished = (take: string): Promise<TalkView> =>
  until('the take', async () => {
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    return view.takes.find((one) => one.id === take)?.state === 'closed' && view
  })

describe('receiving a recording', () => {
  it('keeps chunks that come twice, late and out of order, and makes the stretch as long as it was', async () => {
    const {
      take,
      stretch,
      chunks: [a, b, c],
    } = await openStretch()
    if (a === undefined || b === undefined || c === undefined) throw new Error('three chunks')
    expect((await send(stretch, 2, c)).status).toBe(200)
    expect((await send(stretch, 0, a)).status).toBe(200)
    expect((await send(stretch, 0, a, b)).status).toBe(200)
    expect((await send(stretch, 2, c)).status).toBe(200)
    const cues = [
      { kind: 'show', at: 1000, slide: slides[1]?.id, step: 0 },
      { kind: 'show', at: 1500, slide: slides[1]?.id, step: 1 },
    ]
    for (let twice = 0; twice < 2; twice += 1) await client.get('PUT', `/stretches/${stretch}/cues`, { first: 0, cues })
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 2, length: 2900 })
    await client.get('POST', `/takes/${take}/finish`)
    await client.get('POST', `/takes/${take}/finish`)
    await finished(take)
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(
      film.programme.pieces.map((piece) => (piece.kind === 'recorded' ? [piece.slide, piece.show.from, piece.show.to] : null)),
    ).toEqual([
      [slides[0]?.id, 0, 1000],
      [slides[1]?.id, 1000, 2900],
    ])
    expect(film.stretches[0]?.cues.length).toBe(2)
    expect((await readFile(product.storedAt(`stretches/${stretch}/raw.webm`))).equals(media)).toBe(true)
    expect((await readFile(product.storedAt(`stretches/${stretch}/voice.pcm`))).length).toBe(2900 * 48 * 2)
  })

  it('keeps every event but the one that cannot be taken in, names that, and finishes the take without it', async () => {
    const {
      take,
      stretch,
      chunks: [a, b, c],
    } = await openStretch()
    if (a === undefined || b === undefined || c === undefined) throw new Error('three chunks')
    await send(stretch, 0, a, b, c)
    const points = [{ dt: 0, x: 0.2, y: 0.2, p: 0.5 }]
    const ink = (x: number) => ({
      kind: 'ink',
      at: 400,
      stroke: {
        id: randomUUID(),
        slide: slides[0]?.id,
        colour: 'moss',
        width: 'fine',
        pressure: false,
        points: [...points, { dt: 9, x, y: 0.2, p: 0.5 }],
      },
    })
    const answer = await client.get<{ refused: readonly number[] }>('PUT', `/stretches/${stretch}/cues`, {
      first: 0,
      cues: [ink(0.4), ink(1.62), { kind: 'show', at: 1000, slide: slides[1]?.id, step: 0 }],
    })
    expect(answer.refused).toEqual([1])
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 2, length: 2900 })
    await client.get('POST', `/takes/${take}/finish`)
    await finished(take)
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(film.stretches[0]?.cues.map(({ kind }) => kind)).toEqual(['ink', 'show'])
  })

  it('changes nothing of the talk when nothing of the take counts', async () => {
    const before = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const { take, stretch, chunks: parts } = await openStretch()
    await send(stretch, 0, ...parts)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 2900 })
    await client.get('PUT', `/stretches/${stretch}/kept`, { kept: 0 })
    await client.get('POST', `/takes/${take}/finish`)
    await finished(take)
    expect((await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme).toEqual(before.programme)
    await client.get('DELETE', `/takes/${take}`)
    expect((await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme).toEqual(before.programme)
  })

  it('that another browser is recording is not taken for broken off, and what comes late makes it whole again', async () => {
    const [mine, theirs] = [randomUUID(), randomUUID()]
    const [take, stretch] = [randomUUID(), randomUUID()]
    const announce = () =>
      client.get('PUT', `/talks/${talk}/takes/${take}`, {
        kind: 'full',
        intent: { kind: 'replaceAll' },
        place: { browser: mine, name: 'a laptop' },
      })
    await announce()
    await client.get('PUT', `/stretches/${stretch}`, {
      take,
      number: 0,
      camera: false,
      voice: true,
      mime: 'audio/webm;codecs=opus',
      opening: { slide: slides[0]?.id, step: 0, blank: false, inset: true, ink: [] },
    })
    const third = Math.ceil(media.length / 3)
    const parts = [0, 1, 2].map((n) => media.subarray(n * third, (n + 1) * third))
    await send(stretch, 0, parts[0]!)
    await send(stretch, 2, parts[2]!)
    const stateOf = async () => (await client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === take)
    expect(await stateOf()).toMatchObject({ state: 'open', live: true })
    const refused = await client.ask('POST', `/takes/${take}/recover`, { browser: theirs })
    expect([refused.status, sentenceOf(refused.body)]).toEqual([409, expect.stringMatching(/being recorded on a laptop right now/)])
    // Its own browser may come back at once. It is finished at the gap, and then the rest comes all the same.
    await client.get('POST', `/takes/${take}/recover`, { browser: mine })
    const short = await finished(take)
    const lengthNow = async () =>
      (await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme.pieces.reduce(
        (sum, piece) => sum + (piece.kind === 'recorded' ? piece.show.to - piece.show.from : 0),
        0,
      )
    expect(await lengthNow()).toBeLessThan(2500)
    expect(short.takes.filter((one) => one.id === take)).toHaveLength(1)
    expect((await send(stretch, 1, parts[1]!)).status).toBe(200)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 2900 })
    await client.get('POST', `/takes/${take}/finish`)
    await until('the whole take', async () => (await lengthNow()) === 2900)
    expect((await readFile(product.storedAt(`stretches/${stretch}/raw.webm`))).equals(media)).toBe(true)
    expect((await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme.pieces).toHaveLength(1)
    // All of it is there now: another part under a new number is refused.
    expect((await send(stretch, 3, parts[0]!)).status).toBe(409)
    // Discarded, nothing of it is left, also not what was there of it first.
    await client.get('DELETE', `/takes/${take}`)
    const { pieces } = (await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme
    expect(pieces.filter((piece) => piece.kind === 'recorded' && piece.show.stretch === stretch)).toEqual([])
  })

  it('that is discarded while it is made ready comes back placed', async () => {
    const { take, stretch, chunks: parts } = await openStretch()
    await send(stretch, 0, ...parts)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 2900 })
    await client.get('POST', `/takes/${take}/finish`)
    await client.get('DELETE', `/takes/${take}`)
    await client.get('POST', `/takes/${take}/restore`)
    await finished(take)
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(programme.pieces.map((piece) => (piece.kind === 'recorded' ? piece.show.stretch : ''))).toEqual([stretch])
  })

  it('refuses chunks that are damaged or cut short, and others under a number that is taken', async () => {
    const {
      stretch,
      chunks: [a, b],
    } = await openStretch()
    if (a === undefined || b === undefined) throw new Error('two chunks')
    const damaged = await client.ask('PUT', `/stretches/${stretch}/chunks/0`, new Uint8Array(a), {
      'x-aisle-chunks': `${String(a.length)}:${digest(b)}`,
      'content-type': 'application/octet-stream',
    })
    expect([damaged.status, sentenceOf(damaged.body)]).toEqual([400, expect.stringMatching(/arrived damaged/)])
    const short = await client.ask('PUT', `/stretches/${stretch}/chunks/0`, new Uint8Array(a.subarray(0, 10)), {
      'x-aisle-chunks': `${String(a.length)}:${digest(a)}`,
      'content-type': 'application/octet-stream',
    })
    expect([short.status, sentenceOf(short.body)]).toEqual([400, expect.stringMatching(/cut short/)])
    await send(stretch, 0, a)
    expect((await send(stretch, 0, b)).status).toBe(409)
    expect((await client.ask('PUT', `/stretches/${stretch}/chunks/-1`, new Uint8Array(a))).status).toBe(400)
  })

  it('does not close a stretch before all of it is there, and says what is missing', async () => {
    const {
      stretch,
      chunks: [a, , c],
    } = await openStretch()
    if (a === undefined || c === undefined) throw new Error('chunks')
    await send(stretch, 0, a)
    await send(stretch, 2, c)
    const { status, body } = await client.ask('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 1000 })
    expect(status).toBe(409)
    expect(body).toMatchObject({ error: { detail: { missing: [1] } } })
  })

  it('recovers from what arrived without a gap, with its length found in the recording', async () => {
    const {
      take,
      stretch,
      chunks: [a, b],
    } = await openStretch()
    if (a === undefined || b === undefined) throw new Error('chunks')
    await send(stretch, 0, a, b)
    await client.get('POST', `/takes/${take}/recover`)
    const view = await finished(take)
    const length = view.takes.find((one) => one.id === take)?.length ?? 0
    expect(length).toBeGreaterThan(1500)
    expect(length).toBeLessThan(2600)
  })

  it('is read while it is recorded, and ready with all that came until it was closed', async () => {
    const recording = await toneRecording(4)
    const { take, stretch, chunks } = await openStretch(recording)
    const [a, b, c] = chunks
    if (a === undefined || b === undefined || c === undefined) throw new Error('three chunks')
    const folder = product.workedOnAt(`stretches/${stretch}`)
    const readSoFar = async (): Promise<number> => {
      const name = (await readdir(folder)).find((one) => /^raw\.webm\.\d+\.part$/.test(one))
      return name === undefined ? 0 : (await stat(`${folder}/${name}`)).size
    }
    await send(stretch, 0, a)
    await expect.poll(readSoFar).toBe(a.length)
    // What comes before its turn waits.
    await send(stretch, 2, c)
    await send(stretch, 1, b)
    await expect.poll(readSoFar).toBe(recording.length)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 3900 })
    await client.get('POST', `/takes/${take}/finish`)
    await finished(take)
    expect((await readFile(`${folder}/raw.webm`)).equals(recording)).toBe(true)
    expect((await stat(`${folder}/voice.pcm`)).size).toBe(3900 * 96)
    const row = product.db.selectFrom('stretch').select(['raw_digest', 'voice_digest']).where('id', '=', stretch)
    await expect.poll(async () => (await row.executeTakeFirstOrThrow()).voice_digest).toBe(digest(await readFile(`${folder}/voice.pcm`)))
    expect((await row.executeTakeFirstOrThrow()).raw_digest).toBe(digest(recording))
    // Nothing that was only needed on the way is left.
    await expect.poll(async () => [...(await readdir(folder))].sort()).toEqual(['raw.webm', 'recording.webm', 'voice.pcm'])
  })

  it('goes on with what was said last where a recording that was cut off ends too early, and takes the face off there', async () => {
    const {
      take,
      stretch,
      chunks: [a, b, c],
    } = await openStretch(await facedRecording(3, 'red'), true)
    if (a === undefined || b === undefined || c === undefined) throw new Error('three chunks')
    await send(stretch, 0, a, b, c)
    // Half a second of it is in the recording as well, another rate and all.
    const tail = Int16Array.from({ length: 44_100 * 3 }, (_, n) => Math.round(8000 * Math.sin((2 * Math.PI * 150 * n) / 44_100)))
    const put = (body: Uint8Array) =>
      client.ask('PUT', `/stretches/${stretch}/tail?at=2500&rate=44100`, body, { 'content-type': 'application/octet-stream' })
    expect(sentenceOf((await put(new Uint8Array(3))).body)).toMatch(/no piece of a voice/)
    expect((await put(new Uint8Array(tail.buffer))).status).toBe(200)
    await client.get('POST', `/takes/${take}/recover`)
    await finished(take)
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const made = film.stretches.find((one) => one.id === stretch)
    expect(made?.length).toBe(5500)
    expect(made?.cues.map(({ kind }) => kind)).toEqual(['inset'])
    expect(Math.abs((made?.cues[0]?.at ?? 0) - 2967)).toBeLessThan(40)
    const bytes = await readFile(product.storedAt(`stretches/${stretch}/voice.pcm`))
    const voice = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2)
    expect(voice.length).toBe(5500 * 48)
    const level = (from: number, to: number): number =>
      Math.sqrt(voice.slice(from * 48, to * 48).reduce((sum, sample) => sum + sample * sample, 0) / ((to - from) * 48))
    expect(Math.abs(level(3100, 5400) - 8000 / Math.SQRT2)).toBeLessThan(60)
    // Not a moment is silent, least of all where one goes over into the other.
    const quietest = Math.min(...Array.from({ length: 53 }, (_, n) => level(100 + n * 100, 200 + n * 100)))
    expect(quietest).toBeGreaterThan(0.5 * Math.min(level(500, 2500), level(3500, 5000)))
  })

  it('has its pictures where small ones taken meanwhile say, not where the page guessed', async () => {
    const made = await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=320x180:r=30:d=4',
      '-f',
      'lavfi',
      '-i',
      'sine=d=4',
      '-c:v',
      'libvpx',
      '-deadline',
      'realtime',
      '-c:a',
      'libopus',
      '-f',
      'webm',
      'pipe:1',
    ])
    const { take, stretch, chunks } = await openStretch(made.stdout, true)
    await send(stretch, 0, ...chunks)
    await client.get('PUT', `/stretches/${stretch}/offsets`, { picture: -31, sound: 0 })
    // The page saw every moment 230 ms later than it stands in the recording, from 0.4 s of the stretch on.
    const { width, height } = PRINT_SIZE
    const small = await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=320x180:r=30:d=2.5',
      '-vf',
      `scale=${String(width)}:${String(height)}:flags=area,format=gray`,
      '-f',
      'rawvideo',
      'pipe:1',
    ])
    const print = Array.from({ length: 75 }, (_, n) => ({
      at: (n * 1000) / 30 + 230,
      pixels: new Uint8Array(small.stdout.subarray(n * width * height, (n + 1) * width * height)),
    })).slice(5)
    const put = (body: Uint8Array) => client.ask('PUT', `/stretches/${stretch}/face`, body, { 'content-type': 'application/octet-stream' })
    expect(sentenceOf((await put(new Uint8Array(7))).body)).toMatch(/no print of a face/)
    expect((await put(packVideoFingerprint(print))).status).toBe(200)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 4000 })
    await client.get('POST', `/takes/${take}/finish`)
    await finished(take)
    const times = await pictureTimes(product.storedAt(`stretches/${stretch}/recording.webm`))
    expect(Math.abs((times[30] ?? 0) - 1230)).toBeLessThanOrEqual(2)
  })

  it('takes a discarded take out of the programme and brings both back', async () => {
    const film = () => client.get<FilmView>('GET', `/talks/${talk}/film`)
    const before = (await film()).programme.pieces
    const { take, stretch, chunks } = await openStretch()
    await send(stretch, 0, ...chunks)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 3, cues: 0, length: 2500 })
    await client.get('POST', `/takes/${take}/finish`)
    await finished(take)
    const recorded = (await film()).programme.pieces
    expect(recorded).not.toEqual(before)
    await client.get('DELETE', `/takes/${take}`)
    expect((await film()).programme.pieces).toEqual(before)
    await client.get('POST', `/takes/${take}/restore`)
    expect((await film()).programme.pieces).toEqual(recorded)
  })
})

describe('a limit', () => {
  it('is held when the recipe holds it, with the seconds over, and passed when it only warns', async () => {
    const { recipe } = await client.get<TalkView>('GET', `/talks/${talk}`)
    const held = await client.ask('POST', `/talks/${talk}/deliveries`, { ...recipe, lines: 480, limit: { kind: 'hold', limit: 2000 } })
    expect(held.status).toBe(422)
    expect(sentenceOf(held.body)).toMatch(/1 s over its limit of 0:02\. Record it shorter, raise the limit/)
    const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
      ...recipe,
      lines: 480,
      limit: { kind: 'warn', limit: 2000 },
    })
    const done = await until('the file', async () =>
      (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find(
        (one) => one.id === id && ['done', 'failed'].includes(one.state),
      ),
    )
    expect(done).toMatchObject({ state: 'done', facts: { width: 854, height: 480, frames: 75 } })
    expect(done.facts?.loudness).toBeCloseTo(-16, 0)
  })
})
