import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { mkdtemp } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { faceRect, framingOf } from '@core/layout'
import { frameAt } from '@core/plan'
import type { DeliveryView, TalkView } from '@contracts'
import { probe, ratio } from '@render/probe'
import { Client, sentenceOf } from '../harness/client'
import { colourGap, decodesClean, frameOf, meanColour, meanLevel } from '../harness/film-file'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { delivered, knotsTalk } from '../harness/talks'
import { PROGRAMS_FOLDER, bundle, programFile } from '../../scripts/start/programs'

let product: Product
let client: Client
let talk: string
let view: TalkView
const MAGENTA = [255, 0, 255]
const WIDTH = 854
const INKED = { x: 0.45, y: 0.797, w: 0.1, h: 0.006 }

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Recipes')
  talk = made.talk
  const points = Array.from({ length: 21 }, (_, n) => ({ dt: n * 20, x: 0.3 + n * 0.02, y: 0.8, p: 0.5 }))
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(6, 'magenta'),
      camera: true,
      length: 6000,
      slide: made.slides[0] ?? '',
      cues: [
        {
          kind: 'ink',
          at: 1000,
          stroke: {
            id: 'cccccccc-0000-4000-8000-000000000001',
            slide: made.slides[0],
            colour: 'brick',
            width: 'broad',
            pressure: false,
            points,
          },
        },
      ],
    },
  ])
  view = await client.get<TalkView>('GET', `/talks/${talk}`)
})
afterAll(async () => {
  await product.stop()
})

/** Where the face is on the first slide, its middle. */
function face() {
  const [slide] = view.slides
  if (slide === undefined) throw new Error('no slide')
  const { x, y, w, h } = faceRect(framingOf(slide, view.shape))
  return { x: x + w * 0.4, y: y + h * 0.4, w: w * 0.2, h: h * 0.2 }
}
const look = async (file: string, rate: number) => {
  const frame = await frameOf(file, frameAt(4000, rate))
  return {
    face: colourGap(meanColour(frame, WIDTH, face()), MAGENTA) < 60,
    ink: colourGap(meanColour(frame, WIDTH, INKED), meanColour(frame, WIDTH, { ...INKED, y: 0.74 })) > 30,
    voice: (await meanLevel(file)) > -60,
  }
}
const without = (face: boolean, ink: boolean, voice: boolean) => ({ without: { face, ink, voice } })

describe('a recipe', () => {
  it('says how many frames a second a file has, and it has them at a constant rate', async () => {
    for (const rate of [24, 25, 60] as const) {
      const file = await delivered(client, talk, { rate })
      const { streams, format } = await probe(file)
      const [video] = streams.filter((stream) => stream.codec_type === 'video')
      expect([ratio(video?.avg_frame_rate ?? ''), ratio(video?.r_frame_rate ?? ''), Number(video?.nb_read_packets)]).toEqual([
        rate,
        rate,
        6 * rate,
      ])
      expect(Math.abs(Number(format.duration) - 6)).toBeLessThan(0.05)
      expect(await decodesClean(file)).toBe(true)
      expect(await look(file, rate)).toEqual({ face: true, ink: true, voice: true })
    }
  })

  it('leaves out what it says, and nothing else', async () => {
    expect(await look(await delivered(client, talk, without(true, false, false)), 30)).toEqual({ face: false, ink: true, voice: true })
    expect(await look(await delivered(client, talk, without(false, true, false)), 30)).toEqual({ face: true, ink: false, voice: true })
    expect(await look(await delivered(client, talk, without(true, true, true)), 30)).toEqual({ face: false, ink: false, voice: false })
  })

  it('that makes no sense is refused in words', async () => {
    const order = (recipe: object) =>
      client.ask('POST', `/talks/${talk}/deliveries`, { lines: 480, quality: 'good', name: 'x', limit: { kind: 'none' }, ...recipe })
    for (const recipe of [{ rate: 29 }, { rate: 0 }, { lines: 481 }, { without: { face: true } }, { without: 'everything' }]) {
      const answer = await order(recipe)
      expect([JSON.stringify(recipe), answer.status]).toEqual([JSON.stringify(recipe), 400])
      expect(sentenceOf(answer.body)).toMatch(/^This cannot be done/)
    }
  })
})

describe('the ledger', () => {
  const lines = () => client.get<readonly DeliveryView[]>('GET', `/talks/${talk}/deliveries`)

  it('renames a file, never to a name that is taken, and deletes one with what is on the disk', async () => {
    const [first, second] = await lines()
    if (first === undefined || second === undefined) throw new Error('two files were made')
    expect((await client.ask('PATCH', `/deliveries/${first.id}`, { name: 'knots for the club' })).status).toBe(200)
    expect((await client.ask('PATCH', `/deliveries/${second.id}`, { name: 'knots for the club' })).status).toBe(200)
    expect((await lines()).slice(0, 2).map(({ file }) => file)).toEqual(['knots for the club.mp4', 'knots for the club-2.mp4'])
    expect((await client.ask('PATCH', `/deliveries/${first.id}`, { name: '../club' })).status).toBe(400)
    const folder = join(product.data, 'store', 'deliveries', first.id)
    expect(existsSync(folder)).toBe(true)
    expect((await client.ask('DELETE', `/deliveries/${first.id}`)).status).toBe(200)
    expect(existsSync(folder)).toBe(false)
    expect((await lines()).some(({ id }) => id === first.id)).toBe(false)
    expect((await client.ask('DELETE', `/deliveries/${first.id}`)).status).toBe(404)
  })
})

describe('the deliver command', () => {
  beforeAll(() => {
    bundle('deliver')
  })

  const deliver = async (...more: readonly string[]): Promise<{ readonly code: number | null; readonly said: string }> => {
    const child = spawn(process.execPath, [programFile('deliver'), ...more], {
      env: { ...process.env, AISLE_DATA: product.data, DATABASE_URL: product.databaseUrl, AISLE_PROGRAMS: resolve(PROGRAMS_FOLDER) },
    })
    let said = ''
    child.stdout.on('data', (data: Buffer) => {
      said += data.toString()
    })
    child.stderr.on('data', (data: Buffer) => {
      said += data.toString()
    })
    const code = await new Promise<number | null>((resolve) => {
      child.once('exit', resolve)
    })
    return { code, said }
  }

  it('makes a file where it is told to, and holds the limit or says why not', async () => {
    const out = join(await mkdtemp(join(tmpdir(), 'aisle-out-')), 'talk.mp4')
    expect(await deliver('--talk', 'Recipes', '--lines', '480', '--rate', '25', '--out', out)).toMatchObject({
      code: 0,
      said: expect.stringContaining('is there, and in the ledger as') as string,
    })
    const { streams } = await probe(out)
    expect(streams.find((stream) => stream.codec_type === 'video')).toMatchObject({ height: 480, avg_frame_rate: '25/1' })
    expect(await deliver('--talk', 'Recipes', '--hold', '--out', out)).toMatchObject({
      code: 1,
      said: expect.stringContaining('no limit to hold') as string,
    })
    await client.get('PATCH', `/talks/${talk}`, { limit: 4000 })
    expect(await deliver('--talk', 'Recipes', '--hold', '--out', out)).toMatchObject({
      code: 1,
      said: expect.stringContaining('2 s over its limit') as string,
    })
    expect(await deliver('--talk', "nobody's", '--out', out)).toMatchObject({
      code: 1,
      said: expect.stringContaining('The talks here: Recipes') as string,
    })
  })
})
