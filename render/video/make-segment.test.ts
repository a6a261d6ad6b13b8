import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { Cue, Framing, Slide } from '@core/model'
import { GOP_FRAMES, runsOf, segmentsOf } from '@core/plan'
import type { Segment } from '@core/plan'
import type { EncodePath } from '.'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import type { Colours } from '@render/filters'
import { probe, recordedColours } from '@render/probe'
import { run } from '@render/process'
import { FilmPainter, PictureSource, codingOf, framesOfStream, joinFilm, makeSegments } from '.'

const SIZE = { width: 640, height: 360 }
const RATE = 30
const CODING = codingOf('mp4', 'fine', { kind: 'free' })
type Colour = readonly [number, number, number]
const PAPER: Colour = [244, 239, 226]
const SEA: Colour = [36, 80, 106]
const JACKET: Colour = [200, 60, 140]

let folder: string
let source: PictureSource
const at = (name: string): string => join(folder, name)

/** As browsers' recorders make one: VP8, whose container says how its colours are meant. */
const LIMITED: Colours = { range: 'limited', matrix: 'bt601' }
const CAMERAS: readonly Colours[] = [LIMITED, { range: 'full', matrix: 'bt709' }]
const cameraFile = ({ range, matrix }: Colours): string => at(`camera-${range}-${matrix}.webm`)

async function cameraOf(meant: Colours): Promise<void> {
  const colour = `0x${JACKET.map((part) => part.toString(16).padStart(2, '0')).join('')}`
  const scale = `scale=out_color_matrix=${meant.matrix}:out_range=${meant.range}`
  await run('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', `color=c=${colour}:s=640x360:r=30:d=4,format=rgb24,${scale},format=yuv420p`],
    ...['-c:v', 'libvpx', '-crf', '4', '-b:v', '5M', '-cpu-used', '5'],
    ...['-colorspace', meant.matrix === 'bt709' ? 'bt709' : 'bt470bg', '-color_range', meant.range === 'full' ? 'pc' : 'tv'],
    ...['-y', cameraFile(meant)],
  ])
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-segment-'))
  source = new PictureSource(at)
  for (const [name, colour] of [
    ['paper', PAPER],
    ['sea', SEA],
  ] as const) {
    const canvas = createCanvas(SIZE.width, SIZE.height)
    const ctx = canvas.getContext('2d')
    ctx.fillStyle = `rgb(${colour.join(',')})`
    ctx.fillRect(0, 0, SIZE.width, SIZE.height)
    await writeFile(at(name), await canvas.encode('png'))
  }
  await Promise.all(CAMERAS.map(cameraOf))
})
afterAll(async () => {
  source.close()
  await rm(folder, { recursive: true })
})

const pictured = (name: string, image: string, more: Partial<Slide>): Slide => {
  const plain = slide(name, 1, more)
  return {
    ...plain,
    steps: plain.steps.map((step) => ({
      ...step,
      picture: { kind: 'image', source: asId(image), size: SIZE, ground: '#000000', screen: asId(image), thumb: asId(image) },
    })),
  }
}
const framing: Framing = { ...PLAIN_FRAMING, rect: { x: 0.5, y: 0.5, w: 0.4, h: 0.4 } }
const SLIDES = [
  pictured('paper', 'paper', { framing }),
  pictured('sea', 'sea', { framing }),
  pictured('coming', 'sea', { framing, transition: 'fade' }),
  pictured('face', 'sea', { framing: { ...framing, placing: 'full' } }),
]

/** Makes every part of a stretch. @returns each with the file of its frames */
async function made(
  cues: readonly Cue[],
  camera: boolean,
  meant: Colours = LIMITED,
): Promise<readonly { readonly segment: Segment; readonly file: string; readonly path: EncodePath; readonly looks: readonly Buffer[] }[]> {
  const index = indexFilm(film(SLIDES, [stretch('s', 4000, asId('paper'), cues, { camera })]))
  const painter = new FilmPainter(SIZE, source)
  const out = []
  for (const [number, segment] of segmentsOf(index, RATE).entries()) {
    const file = at(`${String(camera)}-${meant.range}-${String(number)}.h264`)
    const looks: Buffer[] = []
    const [path = 'whole'] = await makeSegments(
      [
        {
          segment,
          runs: runsOf(index, segment, RATE),
          size: SIZE,
          frame: SIZE,
          fps: RATE,
          coding: CODING,
          niceness: 0,
          camera:
            segment.inset === null
              ? null
              : { kind: 'recording', path: cameraFile(meant), size: { width: 640, height: 360 }, colours: meant },
          out: file,
          onLook: (picture) => {
            looks.push(picture)
          },
          onFrames: () => undefined,
        },
      ],
      painter,
    )
    out.push({ segment, file, path, looks })
  }
  return out
}

/** Colours at a place of every frame of a stream, as its colour tags have them shown. @param x @param y in fractions of the picture */
async function colours(file: string, x: number, y: number): Promise<readonly Colour[]> {
  const spot =
    `crop=4:4:${String(Math.round(x * SIZE.width))}:${String(Math.round(y * SIZE.height))},` +
    `scale=1:1:in_color_matrix=bt709:in_range=tv,format=rgb24`
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-vf', spot, '-fps_mode', 'passthrough', '-f', 'rawvideo', 'pipe:1'])
  return Array.from({ length: stdout.length / 3 }, (_, n): Colour => [stdout[n * 3] ?? 0, stdout[n * 3 + 1] ?? 0, stdout[n * 3 + 2] ?? 0])
}
const off = (a: Colour | undefined, b: Colour): number => Math.max(...b.map((value, n) => Math.abs(value - (a?.[n] ?? -255))))
const TOLD = 6

describe('a part of a film', () => {
  it('that stands still is one group, which the join repeats for as long as it is seen', async () => {
    const [paper, sea] = await made([{ kind: 'show', at: 3000, slide: asId('sea'), step: 0 }], false)
    if (paper === undefined || sea === undefined) throw new Error('two parts')
    expect([paper.segment.kind, paper.segment.frames, sea.segment.frames]).toEqual(['still', 90, 30])
    expect([framesOfStream(paper.segment), (await colours(paper.file, 0.3, 0.3)).length]).toEqual([90, 90])
    const file = at('joined.mp4')
    const times = 3 * GOP_FRAMES + 1
    await joinFilm({
      format: 'mp4',
      sound: null,
      captions: null,
      fps: RATE,
      out: file,
      notes: { title: 'Tides; = #', artist: '', chapters: [{ title: 'Paper', start: 0, end: 1000 }], cover: null },
      parts: [
        { file: paper.file, still: true, frames: times },
        { file: sea.file, still: true, frames: 17 },
      ],
    })
    const seen = await colours(file, 0.3, 0.3)
    expect(seen.length).toBe(times + 17)
    expect(seen.findIndex((colour) => off(colour, SEA) < TOLD)).toBe(times)
    expect(Math.max(...seen.slice(0, times).map((colour) => off(colour, PAPER)))).toBeLessThan(TOLD)
    expect(
      (await run('ffprobe', ['-v', 'error', '-show_entries', 'format_tags=title', '-of', 'csv=p=0', file])).stdout.toString().trim(),
    ).toContain('Tides; = #')
  })

  it('has each picture from its frame on until the next one comes, and the last until the end', async () => {
    const stroke = {
      id: asId<'stroke'>('line'),
      slide: asId<'slide'>('paper'),
      colour: 'brick' as const,
      width: 'broad' as const,
      pressure: false,
      points: [
        { dt: 0, x: 0.1, y: 0.3, p: 0.5 },
        { dt: 400, x: 0.45, y: 0.3, p: 0.5 },
        { dt: 1200, x: 0.46, y: 0.3, p: 0.5 },
      ],
    }
    const parts = await made([{ kind: 'ink', at: 1000, stroke }], false)
    const grown = parts.find(({ segment }) => segment.kind === 'moving')
    if (grown === undefined) throw new Error('ink grows in one of the parts')
    const [begun, ended] = [await colours(grown.file, 0.1, 0.3), await colours(grown.file, 0.4, 0.3)]
    expect(grown.path).toBe('bands')
    expect([begun.length, ended.length]).toEqual([grown.segment.drawn, grown.segment.drawn])
    const first = (seen: readonly Colour[]): number => seen.findIndex((colour) => off(colour, PAPER) > 12)
    // Its second point is due 400 ms after it was begun.
    expect(first(begun)).toBeLessThanOrEqual(1)
    expect(first(ended)).toBeGreaterThanOrEqual(11)
    expect(first(ended)).toBeLessThanOrEqual(13)
    expect(ended.slice(first(ended)).every((colour) => off(colour, PAPER) > 12)).toBe(true)
  })

  it('in which ink grows is the same when it is made with another', async () => {
    const line = (name: string, y: number, slide: 'paper' | 'sea') => ({
      id: asId<'stroke'>(name),
      slide: asId<'slide'>(slide),
      colour: 'brick' as const,
      width: 'broad' as const,
      pressure: false,
      points: [
        { dt: 0, x: 0.1, y, p: 0.5 },
        { dt: 700, x: 0.45, y: y + 0.05, p: 0.5 },
      ],
    })
    const cues: readonly Cue[] = [
      { kind: 'ink', at: 500, stroke: line('one', 0.3, 'paper') },
      { kind: 'show', at: 1600, slide: asId('sea'), step: 0 },
      { kind: 'ink', at: 2000, stroke: line('two', 0.8, 'sea') },
    ]
    const index = indexFilm(film(SLIDES, [stretch('s', 4000, asId('paper'), cues)]))
    const grown = segmentsOf(index, RATE).filter(({ kind }) => kind === 'moving')
    expect(grown.length).toBe(2)
    const orders = (name: string) =>
      grown.map((segment, n) => ({
        segment,
        runs: runsOf(index, segment, RATE),
        size: SIZE,
        frame: SIZE,
        fps: RATE,
        coding: CODING,
        niceness: 0,
        camera: null,
        out: at(`${name}-${String(n)}.h264`),
        onLook: null,
        onFrames: () => undefined,
      }))
    const [together, alone] = [orders('together'), orders('alone')]
    expect(await makeSegments(together, new FilmPainter(SIZE, source))).toEqual(['bands', 'bands'])
    for (const order of alone) expect(await makeSegments([order], new FilmPainter(SIZE, source))).toEqual(['bands'])
    for (const [n, { out, segment }] of together.entries()) {
      expect(await readFile(out)).toEqual(await readFile(alone[n]?.out ?? ''))
      expect((await colours(out, 0.3, 0.5)).length).toBe(segment.drawn)
    }
  })

  it.each(CAMERAS)('has the face in its place, with its own colours, over the page as it is: $range $matrix', async (meant) => {
    const video = (await probe(cameraFile(meant))).streams[0]
    expect(video && recordedColours(video)).toEqual(meant)
    const [paper] = await made([], true, meant)
    if (paper === undefined) throw new Error('a part')
    expect(paper.segment.kind).toBe('moving')
    const [face, page] = [await colours(paper.file, 0.7, 0.7), await colours(paper.file, 0.2, 0.2)]
    expect([face.length, page.length]).toEqual([120, 120])
    expect(Math.max(...face.map((colour) => off(colour, JACKET)))).toBeLessThan(TOLD)
    expect(Math.max(...page.map((colour) => off(colour, PAPER)))).toBeLessThan(TOLD)
    expect(paper.path).toBe('bands')
    // While it is made, the whole picture is shown, face and all.
    const [look] = paper.looks
    if (look === undefined) throw new Error('a look at it')
    await writeFile(at('look.jpg'), look)
    const shown = await loadImage(at('look.jpg'))
    expect([shown.width, shown.height]).toEqual([480, 270])
    const canvas = createCanvas(480, 270)
    const ctx = canvas.getContext('2d')
    ctx.drawImage(shown, 0, 0)
    const pixel = (x: number, y: number): Colour => {
      const [r = 0, g = 0, b = 0] = ctx.getImageData(Math.round(x * 480), Math.round(y * 270), 1, 1).data
      return [r, g, b]
    }
    expect(off(pixel(0.7, 0.7), JACKET)).toBeLessThan(5 * TOLD)
    // The page is the same above the face's rows and in them, down to the last.
    for (const y of [0.2, 0.45, 0.7, 0.99]) expect(off(pixel(0.2, y), PAPER)).toBeLessThan(3 * TOLD)
  })

  it('shows a slide come in over all of it, and is made of whole pictures where the face covers them', async () => {
    const faded = await made([{ kind: 'show', at: 2000, slide: asId('coming'), step: 0 }], true)
    expect(faded.map(({ path }) => path)).toEqual(['bands', 'bands'])
    const seen = await colours(faded.at(-1)?.file ?? '', 0.2, 0.2)
    expect([off(seen[0], SEA) > 60, off(seen.at(-1), SEA) < TOLD]).toEqual([true, true])
    const [, , face] = await made([{ kind: 'show', at: 2000, slide: asId('face'), step: 0 }], true)
    expect([face?.segment.kind, face?.path]).toEqual(['moving', 'whole'])
    expect(off((await colours(face?.file ?? '', 0.2, 0.2)).at(-1), JACKET)).toBeLessThan(TOLD)
  })

  it('fails when its camera cannot be read, and says so', async () => {
    const index = indexFilm(film(SLIDES, [stretch('s', 4000, asId('paper'), [], { camera: true })]))
    const [segment] = segmentsOf(index, RATE)
    if (segment === undefined) throw new Error('a part')
    await expect(
      makeSegments(
        [
          {
            segment,
            runs: runsOf(index, segment, RATE),
            size: SIZE,
            frame: SIZE,
            fps: RATE,
            coding: CODING,
            niceness: 0,
            camera: {
              kind: 'recording',
              path: at('nobody.webm'),
              size: { width: 640, height: 360 },
              colours: { range: 'limited', matrix: 'bt601' },
            },
            out: at('nobody.h264'),
            onLook: null,
            onFrames: () => undefined,
          },
        ],
        new FilmPainter(SIZE, source),
      ),
    ).rejects.toThrow(/nobody/)
  })
})
