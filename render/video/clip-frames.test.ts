import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Clip, Cue } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { clip, film, slide, stretch } from '@core/testing'
import { bringClip } from '@render/clips'
import { run } from '@render/process'
import { FilmPainter } from './film-painter'
import { PictureSource } from './picture-source'

const SIZE = { width: 640, height: 360 }
let folder = ''
let own: Clip
let source: PictureSource

/** A film of which every picture is lighter than the one before it. */
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'clip-'))
  const lighter = "color=black:s=320x180:r=25:d=2,geq=lum='16+4*N':cb=128:cr=128"
  const brought = join(folder, 'brought.mp4')
  await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', lighter, '-c:v', 'libx264', '-qp', '4', '-pix_fmt', 'yuv420p', brought])
  const made = await bringClip(brought, { out: folder, name: 'made', time: 60_000 })
  if (made.picture === null) throw new Error('a film has pictures')
  const { size, rate, poster } = made.picture
  own = clip('c', 2000, {
    media: { file: asId(made.file), length: made.length, picture: { size, rate, poster: asId(poster) }, sound: false, loudness: null },
    box: { x: 0.5, y: 0.25, w: 0.5, h: 0.5 },
  })
  source = new PictureSource((name) => join(folder, name))
})
afterAll(async () => {
  source.close()
  await rm(folder, { recursive: true, force: true })
})

it('shows the picture of a clip that belongs to each moment, forwards, back, and round and round', async () => {
  const composition = { layout: 'points', theme: 'paper', heading: '', body: '', second: '', pictures: [], reveal: 'appear' } as const
  const picture = { kind: 'composed', composition, shown: 0, clear: null, size: { width: 16, height: 9 } } as const
  const round = { ...own, id: asId<'clip'>('r'), from: 1000, to: 2000, loop: true, box: { x: 0, y: 0.25, w: 0.5, h: 0.5 } }
  const one = slide('one', 1, { composition, steps: [{ picture, content: '', text: '' }], clips: [own, round] })
  const cues: Cue[] = [
    { kind: 'clip', at: 0, clip: round.id, place: 0, playing: true },
    { kind: 'clip', at: 1000, clip: own.id, place: 0, playing: true },
    { kind: 'clip', at: 3000, clip: own.id, place: 500, playing: false },
  ]
  const index = indexFilm(film([one], [stretch('s', 9000, one.id, cues, { camera: false })]))
  const painter = new FilmPainter(SIZE, source)
  const numbers: { readonly own: number; readonly round: number }[] = []
  for (const at of [500, 1010, 1030, 1500, 2990, 3500, 1500, 8000]) {
    const scene = sceneAt(index, at)
    if (scene === null) throw new Error('there is a scene')
    const bytes = await painter.paint(scene)
    const lightness = (x: number, y: number): number => bytes[y * SIZE.width + x] ?? 0
    const number = (x: number): number => Math.round((lightness(x, 180) - 16) / 4)
    numbers.push({ own: number(480), round: number(160) })
  }
  await painter.rest()
  // At 25 pictures a second; the other begins anew with its picture 25 every second.
  expect(numbers.map((one) => one.own)).toEqual([0, 0, 0, 12, 49, 12, 12, 12])
  expect(numbers.map((one) => one.round)).toEqual([37, 25, 25, 37, 49, 37, 37, 25])
})
