import { createHash, randomUUID } from 'node:crypto'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Backdrop, StretchId } from '@core/model'
import type { BackdropStillView, BackdropsView, DeliveryView, FilmView } from '@contracts'
import { probe } from '@render/probe'
import { Client, sentenceOf } from '../harness/client'
import { colourGap, frameOf, meanColour } from '../harness/film-file'
import { livelyRecording } from '../harness/lively-camera'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake } from '../harness/recording'
import { until } from '../harness/run-product'
import { delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
let talk: string
let stretch: StretchId
const SIZE = { width: 640, height: 360 }
const LENGTH = 3000

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-backdrop-'))
  const knots = await knotsTalk(client, 'Knots')
  ;({ talk } = knots)
  const sent = { media: await livelyRecording(SIZE, LENGTH), camera: true, length: LENGTH, slide: knots.slides[0] ?? '' }
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [sent])
  const [first] = (await client.get<FilmView>('GET', `/talks/${talk}/film`)).stretches
  if (first === undefined) throw new Error('a stretch')
  stretch = first.id
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

async function put(backdrop: Backdrop | null): Promise<void> {
  const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
  const edit = { kind: 'backdrop', stretches: [stretch], visits: [], backdrop }
  await client.get('POST', `/talks/${talk}/programme`, { revision: programme.revision, author: randomUUID(), edit })
}
const backdrops = (): Promise<BackdropsView> => client.get('POST', `/talks/${talk}/backdrops`)
const settled = (): Promise<BackdropsView> =>
  until('the backdrop', async () => {
    const now = await backdrops()
    return now.films.every(({ state }) => state === 'done' || state === 'failed') && now
  })
const digestOf = async (file: string): Promise<string> =>
  createHash('sha256')
    .update(await readFile(file))
    .digest('hex')
/** How much of a frame has a colour. */
function shareOf(frame: Buffer, colour: readonly number[]): number {
  let count = 0
  for (let at = 0; at < frame.length; at += 3) if (colourGap([...frame.subarray(at, at + 3)], colour) < 16) count += 1
  return count / (frame.length / 3)
}
const PINE = [0x24, 0x41, 0x3b] as const

describe('a backdrop', () => {
  it('is tried on a moment of the recording, and on a picture of a camera', async () => {
    const tried = await client.get<BackdropStillView>(
      'GET',
      `/stretches/${stretch}/backdrop-still?kind=plain&finder=outline&colour=%2324413B&at=1000`,
    )
    const jpeg = Buffer.from(tried.picture, 'base64')
    expect([jpeg.readUInt16BE(0), tried.advice]).toEqual([0xffd8, []])
    const sent = await client.get<BackdropStillView>('POST', '/backdrop-still?kind=soft&finder=outline', new Uint8Array(jpeg))
    expect(Buffer.from(sent.picture, 'base64').readUInt16BE(0)).toBe(0xffd8)
    const wrong = await client.ask('POST', '/backdrop-still?kind=soft&finder=outline', new Uint8Array(9))
    expect([wrong.status, sentenceOf(wrong.body)]).toEqual([400, 'This is no picture of a camera.'])
  })

  it('is made once it is chosen, seen in the file, and gone without a trace when it is taken away', async () => {
    const plain = await delivered(client, talk)
    await put({ kind: 'plain', colour: '#24413B', finder: 'outline' })
    expect((await settled()).films).toMatchObject([{ stretch, state: 'done', share: 1, sentence: null }])
    expect(await until('what it took', async () => (await backdrops()).pace ?? false)).toBeGreaterThan(0)
    const film = join(folder, 'face.mp4')
    const bytes = await client.bytes(`/stretches/${stretch}/backdrop?kind=plain&finder=outline&colour=%2324413B`)
    await writeFile(film, bytes)
    expect(Math.abs(Number((await probe(film)).format.duration) - LENGTH / 1000)).toBeLessThan(0.1)
    const corner = { x: 0.02, y: 0.05, w: 0.15, h: 0.3 }
    expect(colourGap(meanColour(await frameOf(film, 45), SIZE.width, corner), PINE)).toBeLessThan(6)

    const dressed = await delivered(client, talk)
    // The face in its corner has it behind, and had the room.
    expect(shareOf(await frameOf(dressed, 45), PINE)).toBeGreaterThan(0.008)
    expect(shareOf(await frameOf(plain, 45), PINE)).toBeLessThan(0.001)

    await put(null)
    const again = await delivered(client, talk)
    expect(await digestOf(again)).toBe(await digestOf(plain))
    const [newest] = await client.get<readonly DeliveryView[]>('GET', `/talks/${talk}/deliveries`)
    expect(newest?.facts?.encoded).toBe(0)
  })

  it('that is changed while a file is made is not in that file', async () => {
    const making = delivered(client, talk, { name: 'begun', lines: 720 })
    await until('the file to be ordered', async () =>
      (await client.get<readonly DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).some(({ file }) => file.startsWith('begun')),
    )
    await put({ kind: 'plain', colour: '#24413B', finder: 'outline' })
    expect(shareOf(await frameOf(await making, 45), PINE)).toBeLessThan(0.001)
    await put(null)
  })

  it('that is told by a cloth that is not there says so, and what was recorded is seen', async () => {
    await put({ kind: 'soft', finder: 'cloth' })
    const { films } = await settled()
    expect(films).toMatchObject([{ state: 'failed', sentence: expect.stringContaining('No green or blue cloth') as string }])
    const missing = await client.ask('GET', `/stretches/${stretch}/backdrop?kind=soft&finder=cloth`)
    expect(missing.status).toBe(404)
    await put(null)
    expect((await backdrops()).films).toEqual([])
  })

  it('of a picture that is not the talk’s is refused', async () => {
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const edit = {
      kind: 'backdrop',
      stretches: [stretch],
      visits: [],
      backdrop: { kind: 'picture', asset: 'a'.repeat(64), finder: 'outline' },
    }
    const refused = await client.ask('POST', `/talks/${talk}/programme`, { revision: programme.revision, author: randomUUID(), edit })
    expect([refused.status, sentenceOf(refused.body)]).toEqual([404, expect.stringContaining('not in this talk')])
    const tried = await client.ask('GET', `/stretches/${stretch}/backdrop-still?kind=picture&finder=outline&asset=${'a'.repeat(64)}&at=0`)
    expect(tried.status).toBe(404)
  })
})
