import { createHash } from 'node:crypto'
import { mkdtemp, open, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { BitsRule, Cue, Framing, Quality, Size, Slide } from '@core/model'
import { runsOf, segmentsOf } from '@core/plan'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { run } from '@render/process'
import { FilmPainter, PictureSource, codingOf, joinFilm, makeSegments } from '@render/video'

/**
 * Slices that are written here, and joins of what several encoders made, are decoded by a decoder of other people's: it must see the
 * same, bit for bit.
 */
let folder: string
let source: PictureSource
const at = (name: string): string => join(folder, name)
/** How long each film is. */
const SECONDS = 4
const PAGE = { width: 1280, height: 720 }

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-decoders-'))
  source = new PictureSource(at)
  for (const [name, ground] of [
    ['paper', '#F4EFE2'],
    ['sea', '#24506A'],
  ] as const) {
    const canvas = createCanvas(PAGE.width, PAGE.height)
    const ctx = canvas.getContext('2d')
    ctx.fillStyle = ground
    ctx.fillRect(0, 0, PAGE.width, PAGE.height)
    ctx.fillStyle = '#B23A2B'
    ctx.font = '80px sans-serif'
    ctx.fillText(`The ${name} at low water`, 60, 200)
    await writeFile(at(name), await canvas.encode('png'))
  }
  await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=640x360:r=30:d=4',
    '-c:v',
    'libvpx',
    '-b:v',
    '2M',
    '-cpu-used',
    '5',
    '-y',
    at('camera.webm'),
  ])
})
afterAll(async () => {
  source.close()
  await rm(folder, { recursive: true })
})

const framing: Framing = { ...PLAIN_FRAMING, rect: { x: 0.6, y: 0.55, w: 0.35, h: 0.4 } }
function pictured(name: string, image: string, more: Partial<Slide>): Slide {
  const plain = slide(name, 1, { framing, ...more })
  return {
    ...plain,
    steps: plain.steps.map((step) => ({
      ...step,
      picture: { kind: 'image', source: asId(image), size: PAGE, ground: '#000000', screen: asId(image), thumb: asId(image) },
    })),
  }
}
const SLIDES = [
  pictured('paper', 'paper', {}),
  pictured('sea', 'sea', {}),
  pictured('coming', 'paper', { transition: 'fade' }),
  pictured('face', 'sea', { framing: { ...framing, placing: 'full' } }),
]
const stroke = {
  id: asId<'stroke'>('line'),
  slide: asId<'slide'>('paper'),
  colour: 'brick' as const,
  width: 'broad' as const,
  pressure: false,
  points: [
    { dt: 0, x: 0.1, y: 0.4, p: 0.5 },
    { dt: 900, x: 0.5, y: 0.6, p: 0.5 },
  ],
}
/** A page that stands still, ink that grows on it, another page, one that fades in, and a face that fills the frame. */
const CUES: readonly Cue[] = [
  { kind: 'ink', at: 1000, stroke },
  { kind: 'show', at: 2000, slide: asId('sea'), step: 0 },
  { kind: 'show', at: 2600, slide: asId('coming'), step: 0 },
  { kind: 'show', at: 3400, slide: asId('face'), step: 0 },
]

interface Way {
  readonly size: Size
  readonly rate: number
  readonly camera: boolean
  readonly quality: Quality
  readonly bits: BitsRule
}
const free: BitsRule = { kind: 'free' }
const WAYS: readonly Way[] = [
  { size: { width: 1280, height: 720 }, rate: 30, camera: true, quality: 'good', bits: free },
  { size: { width: 1280, height: 720 }, rate: 60, camera: false, quality: 'fine', bits: free },
  { size: { width: 854, height: 480 }, rate: 24, camera: true, quality: 'small', bits: free },
  { size: { width: 640, height: 480 }, rate: 25, camera: true, quality: 'good', bits: { kind: 'rate', most: 300 } },
  { size: { width: 1366, height: 768 }, rate: 50, camera: false, quality: 'good', bits: free },
  { size: { width: 606, height: 1080 }, rate: 30, camera: true, quality: 'good', bits: free },
]

/** Makes a film as it is delivered. @returns how its parts were made */
async function made({ size, rate, camera, quality, bits }: Way, out: string): Promise<readonly string[]> {
  const coding = codingOf('mp4', quality, bits)
  const index = indexFilm(film(SLIDES, [stretch('s', SECONDS * 1000, asId('paper'), CUES, { camera })]))
  const painter = new FilmPainter(size, source)
  const parts = []
  const manners: string[] = []
  for (const [number, segment] of segmentsOf(index, rate).entries()) {
    const file = `${out}.${String(number)}.h264`
    const [manner = 'none'] = await makeSegments(
      [
        {
          segment,
          runs: runsOf(index, segment, rate),
          size,
          frame: size,
          fps: rate,
          coding,
          niceness: 0,
          camera:
            segment.inset === null
              ? null
              : {
                  kind: 'recording',
                  path: at('camera.webm'),
                  size: { width: 640, height: 360 },
                  colours: { range: 'limited', matrix: 'bt601' },
                },
          out: file,
          onLook: null,
          onFrames: () => undefined,
        },
      ],
      painter,
    )
    manners.push(`${segment.kind} ${manner}`)
    parts.push({ file, still: segment.kind === 'still', frames: segment.frames })
  }
  await joinFilm({
    format: 'mp4',
    sound: null,
    captions: null,
    fps: rate,
    out,
    notes: { title: '', artist: '', chapters: [], cover: null },
    parts,
  })
  return manners
}

/** Digests of a film's pictures as this product's own tools decode them. */
async function byFfmpeg(file: string): Promise<readonly string[]> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-an',
    '-fps_mode',
    'passthrough',
    '-pix_fmt',
    'yuv420p',
    '-f',
    'framehash',
    '-hash',
    'md5',
    'pipe:1',
  ])
  return stdout
    .toString()
    .split('\n')
    .filter((line) => /^\d/.test(line))
    .map((line) => line.split(',').at(-1)?.trim() ?? '')
}

/** The same by OpenH264 through GStreamer, whose planes have rows of a multiple of four bytes. */
async function byOpenH264(file: string, { width, height }: Size): Promise<readonly string[]> {
  const [stream, raw] = [`${file}.h264`, `${file}.yuv`]
  await run('ffmpeg', ['-v', 'error', '-y', '-i', file, '-an', '-c', 'copy', '-bsf:v', 'h264_mp4toannexb', '-f', 'h264', stream])
  await run('gst-launch-1.0', [
    '-q',
    'filesrc',
    `location=${stream}`,
    '!',
    'h264parse',
    '!',
    'openh264dec',
    '!',
    'video/x-raw,format=I420',
    '!',
    'filesink',
    `location=${raw}`,
  ])
  const four = (value: number): number => Math.ceil(value / 4) * 4
  const half = (value: number): number => Math.ceil(value / 2)
  const planes = [
    [width, height],
    [half(width), half(height)],
    [half(width), half(height)],
  ] as const
  const picture = Buffer.alloc(planes.reduce((sum, [wide, high]) => sum + four(wide) * high, 0))
  const opened = await open(raw)
  const digests: string[] = []
  while ((await opened.read(picture, 0, picture.length)).bytesRead === picture.length) {
    const digest = createHash('md5')
    let place = 0
    for (const [wide, high] of planes) {
      for (let row = 0; row < high; row += 1) digest.update(picture.subarray(place + row * four(wide), place + row * four(wide) + wide))
      place += four(wide) * high
    }
    digests.push(digest.digest('hex'))
  }
  await opened.close()
  await rm(raw)
  return digests
}

describe('a delivered film', () => {
  it.each(WAYS)(
    'of $size.width x $size.height at $rate, $quality, with a camera: $camera, is the same in another decoder, bit for bit',
    async (way) => {
      const out = at(`${String(way.size.width)}-${String(way.rate)}.mp4`)
      const manners = await made(way, out)
      const [ours, theirs] = [await byFfmpeg(out), await byOpenH264(out, way.size)]
      expect(ours.length).toBe(SECONDS * way.rate)
      expect(theirs.length, manners.join(', ')).toBe(ours.length)
      expect(
        ours.flatMap((digest, n) => (digest === theirs[n] ? [] : [n])),
        manners.join(', '),
      ).toEqual([])
    },
  )

  it('has parts made every way there is among these', async () => {
    const all = new Set((await Promise.all(WAYS.slice(0, 4).map((way, n) => made(way, at(`again-${String(n)}.mp4`))))).flat())
    for (const manner of ['still whole', 'moving bands', 'moving whole']) expect([...all]).toContain(manner)
  })
})
