import { randomUUID } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PALETTES } from '@core/compose'
import { NOTHING_DRAWN, asId } from '@core/model'
import type { Drawing, ObjectMotion, PathLine, Point, SlideObject } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { toFilm } from '@contracts'
import type { FilmView, TalkView, ViewersFilm } from '@contracts'
import { probe } from '@render/probe'
import { restored } from '../harness/archived'
import { Client, sentenceOf } from '../harness/client'
import { exported } from '../harness/exports'
import { decodesClean, frameOf } from '../harness/film-file'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
import { everythingOf, screeningOf, shareTalk } from '../harness/screening'
import { delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-drawings-'))
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true, force: true })
})

const view = (talk: string): Promise<TalkView> => client.get<TalkView>('GET', `/talks/${talk}`)
async function draw(talk: string, slide: string, drawing: Drawing): Promise<TalkView> {
  const { revision } = await view(talk)
  await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [slide], fields: { drawing } } })
  return await view(talk)
}

const vessel = (y: number, colour: SlideObject['colour']): SlideObject => ({
  id: asId(randomUUID()),
  form: { kind: 'box', filled: true, breadth: 0.006, label: '' },
  box: { x: 0.08, y: y - 0.04, w: 0.1, h: 0.08 },
  turn: 0,
  colour,
  opacity: 1,
  locked: false,
  group: null,
})
const way = ({ id }: SlideObject, line: PathLine, points: readonly Point[], more: Partial<ObjectMotion>): ObjectMotion => ({
  id: asId(randomUUID()),
  object: id,
  step: 1,
  start: 'step',
  delay: 0,
  duration: 2000,
  ease: 'calm',
  does: { kind: 'path', points, line, turns: false },
  ...more,
})
const [ferry, pilot, tug] = [vessel(0.2, 'mark'), vessel(0.5, 'text'), vessel(0.8, 'soft')]
/** Three that go along: the tug with a step of its own, after the others. */
const STORY: Drawing = {
  ...NOTHING_DRAWN,
  objects: [ferry, pilot, tug],
  motions: [
    way(ferry, 'straight', [{ x: 0.7, y: 0.05 }], {}),
    way(
      pilot,
      'curved',
      [
        { x: 0.3, y: -0.06 },
        { x: 0.6, y: 0.05 },
      ],
      { start: 'together', duration: 1500 },
    ),
    way(
      tug,
      'freehand',
      [
        { x: 0.2, y: 0 },
        { x: 0.4, y: -0.08 },
        { x: 0.7, y: 0 },
      ],
      { step: 2, ease: 'even', delay: 300 },
    ),
  ],
}

const WIDTH = 854
const HEIGHT = 480
const partsOf = (hex: string): readonly number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))

/** The middle of what is of a colour near a place of a frame, in pixels. */
function found(frame: Buffer, colour: readonly number[], near: Point): Point {
  let [x, y, weight] = [0, 0, 0]
  for (let top = Math.max(0, Math.round(near.y) - 60); top < Math.min(HEIGHT, near.y + 60); top += 1)
    for (let left = Math.max(0, Math.round(near.x) - 90); left < Math.min(WIDTH, near.x + 90); left += 1) {
      const off = Math.max(...colour.map((part, n) => Math.abs((frame[(top * WIDTH + left) * 3 + n] ?? 0) - part)))
      if (off > 36) continue
      x += left + 0.5
      y += top + 0.5
      weight += 1
    }
  return { x: x / weight, y: y / weight }
}

describe('a story that is drawn', () => {
  let talk = ''
  let slide = ''
  beforeAll(async () => {
    const made = await knotsTalk(client, 'Who passes the lock first')
    talk = made.talk
    slide = randomUUID()
    const composition = { layout: 'bare', theme: 'paper', heading: '', body: '', second: '', pictures: [], reveal: 'together' }
    const fresh = {
      id: slide,
      title: 'The lock',
      section: '',
      notes: '',
      viewerNotes: '',
      description: '',
      planned: null,
      skip: false,
      optional: false,
      framing: null,
      transition: 'cut',
      composition,
    }
    const { revision } = await view(talk)
    await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'compose', at: 0, slide: fresh } })
    await draw(talk, slide, STORY)
    const cues = [
      { kind: 'show', at: 1000, slide, step: 1 },
      { kind: 'show', at: 3600, slide, step: 2 },
    ]
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media: await toneRecording(7), length: 7000, slide, cues }])
  })

  it('has a step for each part of it, in the deck as it is asked for again', async () => {
    const [first] = (await view(talk)).slides
    expect(first?.drawing).toEqual(STORY)
    expect(first?.steps.map(({ added }) => added === true)).toEqual([false, true, true])
  })

  it('is in the file as it was told: each vessel to two pixels of where it is said to be', async () => {
    const file = await delivered(client, talk)
    expect(await decodesClean(file)).toBe(true)
    expect((await probe(file)).streams.map(({ codec_type: kind }) => kind)).toEqual(expect.arrayContaining(['video', 'audio']))
    const index = indexFilm(toFilm(await client.get<FilmView>('GET', `/talks/${talk}/film`)))
    for (const frame of [15, 35, 45, 60, 75, 100, 130, 150, 175, 200]) {
      const picture = await frameOf(file, frame)
      const scene = sceneAt(index, (frame * 1000) / 30)
      expect(scene?.objects).toHaveLength(3)
      for (const { object, at } of scene?.objects ?? []) {
        const meant = { x: at.x * WIDTH, y: at.y * HEIGHT }
        const seen = found(picture, partsOf(PALETTES.paper[object.colour]), meant)
        expect(Math.hypot(seen.x - meant.x, seen.y - meant.y), `${object.colour} in frame ${String(frame)}`).toBeLessThan(2)
      }
    }
  })

  it('moves alike for those who watch', async () => {
    const { key } = await shareTalk(client, talk)
    const { film } = await everythingOf(product.url, await screeningOf(product.url, key), folder)
    const [own, theirs] = [
      indexFilm(toFilm(await client.get<FilmView>('GET', `/talks/${talk}/film`))),
      indexFilm(toFilm(JSON.parse(film) as ViewersFilm)),
    ]
    for (const t of [500, 1700, 2800, 4300, 6500])
      expect(sceneAt(theirs, t)?.objects.map(({ at }) => at)).toEqual(sceneAt(own, t)?.objects.map(({ at }) => at))
  })

  it('comes back from an archive as it was', async () => {
    const { bytes } = await exported(client, talk, { kind: 'archive' })
    const back = await restored(client, bytes)
    expect(back.slides[0]?.drawing).toEqual(STORY)
  })
})

describe('what is drawn on a slide', () => {
  it('lies over one that came from a file too, in as many objects as it takes and nothing beyond', async () => {
    const { talk, slides } = await knotsTalk(client, 'Drawn over')
    const many = Array.from({ length: 200 }, (_, n) => vessel(n / 200, 'mark'))
    const now = await draw(talk, slides[0] ?? '', { ...NOTHING_DRAWN, objects: many })
    expect(now.slides[0]?.drawing?.objects).toHaveLength(200)
    const refusedWith = async (drawing: object): Promise<number> => {
      const { revision } = await view(talk)
      const edit = { kind: 'set', slides: [slides[0]], fields: { drawing: { ...NOTHING_DRAWN, ...drawing } } }
      return (await client.ask('POST', `/talks/${talk}/deck`, { revision, edit })).status
    }
    const one = vessel(0.5, 'mark')
    const long = Array.from({ length: 10_001 }, () => ({ x: 0, y: 0 }))
    for (const drawing of [
      { objects: [...many, one] },
      { objects: [one, one] },
      { objects: [{ ...one, box: { x: 0, y: 0, w: 0, h: 0 } }] },
      { objects: [{ ...one, turn: 1000 }] },
      { objects: [{ ...one, form: { kind: 'circle' } }] },
      { objects: [one], motions: [way(one, 'straight', [], {})] },
      { objects: [one], motions: [way(one, 'straight', long, {})] },
      { objects: [one], motions: [way(one, 'straight', [{ x: 0, y: 0 }], { duration: 3_600_000 })] },
      { objects: [one], starts: [0, 1].map(() => ({ step: 1, after: 'begun', wait: 0 })) },
    ])
      expect(await refusedWith(drawing), JSON.stringify(drawing).slice(0, 120)).toBe(400)
    // A picture of another talk, or of nowhere.
    const form = { kind: 'picture', asset: 'e'.repeat(64), size: { width: 10, height: 10 }, alt: '' }
    const foreign = await client.ask('POST', `/talks/${talk}/deck`, {
      revision: (await view(talk)).revision,
      edit: { kind: 'set', slides: [slides[0]], fields: { drawing: { ...NOTHING_DRAWN, objects: [{ ...one, form }] } } },
    })
    expect([foreign.status, sentenceOf(foreign.body)]).toEqual([404, expect.stringMatching(/\w/)])
    expect((await view(talk)).slides[0]?.drawing?.objects).toHaveLength(200)
    expect(await decodesClean(await delivered(client, talk, { timing: 'planned' }))).toBe(true)
  })

  it('of two pages at once is one of them, and the other is told', async () => {
    const { talk, slides } = await knotsTalk(client, 'Drawn twice')
    const { revision } = await view(talk)
    const edit = (drawing: Drawing) => ({ kind: 'set', slides: [slides[0]], fields: { drawing } })
    const first = { ...NOTHING_DRAWN, objects: [vessel(0.3, 'mark')] }
    await client.get('POST', `/talks/${talk}/deck`, { revision, edit: edit(first) })
    const late = await client.ask('POST', `/talks/${talk}/deck`, {
      revision,
      edit: edit({ ...NOTHING_DRAWN, objects: [vessel(0.6, 'soft')] }),
    })
    expect(late.status).toBe(409)
    expect((await view(talk)).slides[0]?.drawing).toEqual(first)
  })
})
