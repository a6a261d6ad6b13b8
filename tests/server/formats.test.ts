import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LINES } from '@core/model'
import type { Recipe } from '@core/model'
import { frameAt } from '@core/plan'
import type { DeliveryView, PresetView, TalkView } from '@contracts'
import { probe } from '@render/probe'
import { measureFile } from '@render/sound'
import { Client, sentenceOf } from '../harness/client'
import { KNOTS } from '../harness/decks'
import { colourGap, decodesClean, frameOf, meanColour } from '../harness/film-file'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { knotsTalk, settledDelivery } from '../harness/talks'

let product: Product
let client: Client
let talk: string
let slides: readonly string[]
const WIDTH = 854
const GROUND = { x: 0.3, y: 0.75, w: 0.3, h: 0.1 }
const LENGTH = 9000

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Formats')
  talk = made.talk
  slides = made.slides
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(9, 'magenta'),
      camera: true,
      length: LENGTH,
      slide: slides[0] ?? '',
      cues: [
        { kind: 'show', at: 3000, slide: slides[1], step: 0 },
        { kind: 'show', at: 6000, slide: slides[2], step: 0 },
      ],
    },
  ])
})
afterAll(async () => {
  await product.stop()
})

const BASE = { lines: 480, quality: 'good', name: 'file', limit: { kind: 'none' } }
const ledger = (of = talk) => client.get<DeliveryView[]>('GET', `/talks/${of}/deliveries`)
const order = async (recipe: Partial<Recipe> & { readonly starts?: string }, of = talk): Promise<readonly string[]> =>
  (await client.get<{ ids: string[] }>('POST', `/talks/${of}/deliveries`, { ...BASE, ...recipe })).ids
const settled = (id: string, of = talk): Promise<DeliveryView> => settledDelivery(client, of, id)

/** Makes one file. @returns its line in the ledger and where it was saved */
async function made(recipe: Partial<Recipe>, of = talk): Promise<{ readonly view: DeliveryView; readonly file: string }> {
  const [id = ''] = await order(recipe, of)
  const view = await settled(id, of)
  expect([view.state, view.sentence]).toEqual(['done', null])
  const file = join(await mkdtemp(join(tmpdir(), 'aisle-file-')), view.file)
  await writeFile(file, await client.bytes(`/deliveries/${id}/file`))
  return { view, file }
}
/** Which pages are seen at times of a file, in ms; the second slide has two of them. */
const slidesAt = async (file: string, times: readonly number[]): Promise<readonly number[]> =>
  await Promise.all(
    times.map(async (at) => {
      const colour = meanColour(await frameOf(file, frameAt(at, 30)), WIDTH, GROUND)
      return KNOTS.findIndex((knot) => colourGap(colour, knot.colour) < 14)
    }),
  )

describe('a file', () => {
  it('in WebM shows the same at the same times, in VP9 and Opus, and decodes clean', async () => {
    const { view, file } = await made({ format: 'webm' })
    const { streams, format, chapters } = await probe(file)
    expect(view.file).toMatch(/\.webm$/)
    expect(streams.map((stream) => stream.codec_name).sort()).toEqual(['opus', 'vp9'])
    expect(format.format_name).toContain('webm')
    expect(Math.abs(Number(format.duration) * 1000 - LENGTH)).toBeLessThan(60)
    expect(chapters.map((chapter) => chapter.tags?.title)).toEqual(['Bowline', 'Clove hitch', 'Reef knot'])
    expect(await slidesAt(file, [1000, 2900, 3100, 5900, 6100, 8800])).toEqual([0, 0, 1, 1, 3, 3])
    expect(await decodesClean(file)).toBe(true)
    expect(view.facts).toMatchObject({ videoCodec: 'VP9', audioCodec: 'Opus, 48 kHz', frames: 270 })
  })

  it('of sound alone holds the whole voice, in each format, with its chapters where there is a place for them', async () => {
    for (const [format, codec] of [
      ['m4a', 'aac'],
      ['mp3', 'mp3'],
      ['wav', 'pcm_s16le'],
    ] as const) {
      const { view, file } = await made({ format })
      const { streams, format: container, chapters } = await probe(file)
      expect(view.file.endsWith(`.${format}`)).toBe(true)
      expect(streams.filter((stream) => stream.codec_type === 'audio').map((stream) => stream.codec_name)).toEqual([codec])
      expect(Math.abs(Number(container.duration) * 1000 - LENGTH)).toBeLessThan(110)
      expect(Math.abs(((await measureFile(file)).integrated ?? 0) + 16)).toBeLessThan(1)
      if (format !== 'wav') expect(chapters.map((chapter) => chapter.tags?.title)).toEqual(['Bowline', 'Clove hitch', 'Reef knot'])
      expect(view.facts).toMatchObject({ frames: 0, width: 0, videoCodec: '' })
    }
  })

  it('is as loud as its recipe says', async () => {
    const { file } = await made({ format: 'm4a', loudness: -23 })
    expect(Math.abs(((await measureFile(file)).integrated ?? 0) + 23)).toBeLessThan(1)
  })

  it('is of a part from one time to another, or of some slides, as these are in the whole', async () => {
    const range = await made({ part: { kind: 'range', from: 2000, to: 7000 } })
    expect(range.view.length).toBe(5000)
    expect(await slidesAt(range.file, [500, 900, 1100, 3900, 4100, 4800])).toEqual([0, 0, 1, 1, 3, 3])
    const some = await made({ part: { kind: 'slides', slides: [slides[0], slides[2]] as never } })
    expect(some.view.length).toBe(6000)
    expect(await slidesAt(some.file, [500, 2900, 3100, 5800])).toEqual([0, 0, 3, 3])
    const none = await client.ask('POST', `/talks/${talk}/deliveries`, { ...BASE, part: { kind: 'range', from: 20_000, to: 30_000 } })
    expect([none.status, sentenceOf(none.body)]).toEqual([409, 'Nothing of the talk lies between these times.'])
  })

  it('of a size of its own has bars beside the slides, or loses their edges', async () => {
    const upright = { width: 480, height: 640 }
    const bars = await made({ size: { ...upright, fit: 'bars' } })
    const fill = await made({ size: { ...upright, fit: 'fill' } })
    const colour = async (file: string, y: number): Promise<readonly number[]> =>
      meanColour(await frameOf(file, 60), upright.width, { x: 0.3, y, w: 0.05, h: 0.05 })
    for (const { view, file } of [bars, fill]) {
      expect([view.facts?.width, view.facts?.height]).toEqual([480, 640])
      expect(await decodesClean(file)).toBe(true)
    }
    expect(colourGap(await colour(bars.file, 0.05), [16, 26, 24])).toBeLessThan(10)
    expect(colourGap(await colour(bars.file, 0.6), KNOTS[0]?.colour ?? [])).toBeLessThan(14)
    expect(colourGap(await colour(fill.file, 0.9), KNOTS[0]?.colour ?? [])).toBeLessThan(14)
  })

  it('of each slide is named by its number and holds that slide alone', async () => {
    const ids = await order({ each: 'slide', name: '{talk} {number} {slide}' })
    const views = await Promise.all(ids.map((id) => settled(id)))
    expect(views.map(({ file, length, state }) => [file, length, state])).toEqual([
      ['Formats 01 Bowline.mp4', 3000, 'done'],
      ['Formats 02 Clove hitch.mp4', 3000, 'done'],
      ['Formats 03 Reef knot.mp4', 3000, 'done'],
    ])
    // Of a part, only what lies in it; a slide that begins where it ends is not in it.
    const some = await order({ each: 'slide', name: '{talk} part {number}', part: { kind: 'range', from: 1000, to: 6000 } })
    expect((await Promise.all(some.map((id) => settled(id)))).map(({ file, length }) => [file, length])).toEqual([
      ['Formats part 01.mp4', 2000],
      ['Formats part 02.mp4', 3000],
    ])
  })

  it('has its own fields in its name, and another name when that is taken', async () => {
    const recipe = { name: '{paper}-{surname}', fields: { paper: '117', surname: 'Okonjo' } }
    expect((await made(recipe)).view.file).toBe('117-Okonjo.mp4')
    expect((await made(recipe)).view.file).toBe('117-Okonjo-2.mp4')
  })

  it('is a slide show of planned times when nothing was recorded', async () => {
    const { talk: plain } = await knotsTalk(client, 'Plain')
    const refused = await client.ask('POST', `/talks/${plain}/deliveries`, BASE)
    expect([refused.status, sentenceOf(refused.body)]).toEqual([409, expect.stringContaining('Nothing is recorded yet')])
    const view = await client.get<TalkView>('GET', `/talks/${plain}`)
    await client.get('POST', `/talks/${plain}/deck`, {
      revision: view.revision,
      edit: { kind: 'set', slides: view.slides.map(({ id }) => id), fields: { planned: 4000 } },
    })
    const { view: delivery, file } = await made({ timing: 'planned' }, plain)
    expect([delivery.length, delivery.revision]).toEqual([12_000, null])
    expect(await slidesAt(file, [1000, 3900, 4100, 7900, 8100, 11_900])).toEqual([0, 0, 1, 2, 3, 3])
  })
})

describe('what bounds a file', () => {
  it('is its size: never a byte over, and nine tenths of it used', async () => {
    const {
      talk: busy,
      slides: [first = ''],
    } = await knotsTalk(client, 'Busy')
    await sendTake(client, busy, 'full', { kind: 'replaceAll' }, [
      { media: await facedRecording(3, 'magenta', 60), camera: true, length: 3000, slide: first, cues: [] },
    ])
    const free = (await made({ quality: 'fine' }, busy)).view.facts?.bytes ?? 0
    // The voice takes what it takes; of the rest three fifths are left to the pictures.
    const voice = (await made({ format: 'm4a' }, busy)).view.facts?.bytes ?? 0
    const most = Math.round(voice + (free - voice) * 0.6)
    const { view, file } = await made({ bits: { kind: 'size', most } }, busy)
    expect(view.facts?.bytes).toBeLessThanOrEqual(most)
    expect(view.facts?.bytes).toBeGreaterThanOrEqual(most * 0.9)
    expect(await decodesClean(file)).toBe(true)
  })

  it('refuses a size at which it would look bad, with what it would take', async () => {
    const [id = ''] = await order({ bits: { kind: 'size', most: 100_000 } })
    const view = await settled(id)
    expect(view.state).toBe('failed')
    expect(view.sentence).toMatch(/^It would look bad: .* takes 0\.\d MB, and 0\.1 MB are allowed\. Allow more/)
  })

  it('says with how many lines a file would be small enough, and it is', async () => {
    const {
      talk: large,
      slides: [first = ''],
    } = await knotsTalk(client, 'Large')
    await sendTake(client, large, 'full', { kind: 'replaceAll' }, [
      { media: await facedRecording(3, 'magenta', 60), camera: true, length: 3000, slide: first, cues: [] },
    ])
    // The larger sizes may do; of those that do not, one leaves room for fewer lines.
    for (const most of [130_000, 110_000, 95_000, 82_000]) {
      const [id = ''] = await order({ lines: 1080, bits: { kind: 'size', most } }, large)
      const { sentence } = await settled(id, large)
      const said = Number(/(\d+) lines would do/.exec(sentence ?? '')?.[1])
      const lines = LINES.find((one) => one === said)
      if (lines === undefined) continue
      const { view } = await made({ lines, bits: { kind: 'size', most } }, large)
      expect(view.facts?.bytes).toBeLessThanOrEqual(most)
      return
    }
    throw new Error('no size was refused with what would do')
  })

  it('is its rate, that its pictures do not pass', async () => {
    const { file } = await made({ bits: { kind: 'rate', most: 100 }, lines: 720 })
    const bits = Number((await probe(file)).format.size) * 8 - 132_000 * 9
    expect(bits / 9).toBeLessThan(130_000)
    expect(await decodesClean(file)).toBe(true)
  })
})

describe('the queue', () => {
  it('waits for its time, is put first, stands still and goes on', async () => {
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString()
    const [id = ''] = await order({ format: 'm4a', loudness: -14, starts: tomorrow })
    const line = async () => (await ledger()).find((one) => one.id === id)
    expect(await line()).toMatchObject({ state: 'queued', starts: tomorrow })
    expect((await client.ask('POST', `/deliveries/${id}/pause`)).status).toBe(200)
    expect((await line())?.state).toBe('paused')
    expect((await client.ask('POST', `/deliveries/${id}/first`)).status).toBe(409)
    expect((await client.ask('POST', `/deliveries/${id}/retry`)).status).toBe(200)
    expect((await settled(id)).state).toBe('done')
    const [later = ''] = await order({ format: 'm4a', loudness: -23, starts: tomorrow })
    expect((await client.ask('POST', `/deliveries/${later}/first`)).status).toBe(200)
    expect((await settled(later)).state).toBe('done')
  })

  it('stands still in the middle of a file, and loses no more than the part that is being made', async () => {
    const [id = ''] = await order({ lines: 720, rate: 60, quality: 'fine' })
    await until('some of it made', async () => ((await ledger()).find((one) => one.id === id)?.framesDone ?? 0) > 0)
    expect((await client.ask('POST', `/deliveries/${id}/pause`)).status).toBe(200)
    expect((await ledger()).find((one) => one.id === id)?.state).toBe('paused')
    await client.get('POST', `/deliveries/${id}/retry`)
    expect((await settled(id)).state).toBe('done')
  })
})

describe('a recipe that is kept', () => {
  const { name: _, limit: __, ...recipe } = { ...BASE, format: 'webm' }

  it("is a person's own, exchanged by its name and deleted", async () => {
    const kept = () => client.get<PresetView[]>('GET', '/presets')
    await client.get('POST', '/presets', { name: 'for the club', preset: { ...recipe, name: '{talk}', limit: 'warn' } })
    await client.get('POST', '/presets', { name: 'for the club', preset: { ...recipe, name: '{talk}', limit: 'hold', rate: 25 } })
    const [one, ...others] = await kept()
    expect([one?.name, one?.preset.rate, one?.preset.limit, others.length]).toEqual(['for the club', 25, 'hold', 0])
    expect(
      (await client.ask('POST', '/presets', { name: 'x', preset: { ...recipe, name: '{talk}', limit: 'hold', part: { kind: 'all' } } }))
        .status,
    ).toBe(400)
    expect((await client.ask('DELETE', `/presets/${one?.id ?? ''}`)).status).toBe(200)
    expect(await kept()).toEqual([])
    expect((await client.ask('DELETE', `/presets/${one?.id ?? ''}`)).status).toBe(404)
  })
})
