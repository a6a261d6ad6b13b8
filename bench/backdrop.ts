import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { NewBackdrop, Size } from '@core/model'
import { clothColour } from '@core/camera'
import { OUTLINE_SIZE, findOutline, lookedAt, makeBackdropFilm } from '@render/backdrop'
import { outputOf, piecesOf } from '@render/process'
import type { CameraFile } from '@render/video'
import { filmLively, speakerAt } from '../tests/harness/lively-camera'
import type { Behind } from '../tests/harness/lively-camera'
import type { Figure } from './figure'

const SIZE: Size = { width: 1280, height: 720 }
const LENGTH = 12_000
const FPS = 30
const WANTED = { right: 0.95, steady: 2 } as const
/** Every so many rows is looked at. */
const ROWS = 6

/** Grey pictures of a film, one after the other. */
const greyOf = (path: string): AsyncGenerator<Uint8Array> =>
  piecesOf(
    outputOf('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'gray', 'pipe:1']),
    SIZE.width * SIZE.height,
  )

/** The places in a row where it begins and ends, in pixels with parts; null where it does not. */
function edgesOf(covered: Uint8Array, row: number): readonly [number, number] | null {
  const at = (x: number): number => covered[row * SIZE.width + x] ?? 0
  let [first, last] = [-1, -1]
  for (let x = 1; x < SIZE.width; x += 1) {
    if (at(x) < 128) continue
    if (first < 0) first = x
    last = x
  }
  if (first < 0) return null
  const part = (inside: number, outside: number): number => (128 - outside) / Math.max(1, inside - outside)
  const left = first - 1 + part(at(first), at(first - 1))
  const right = last + 1 - part(at(last), at(last + 1))
  return [left, right]
}

interface Measured {
  readonly right: number
  readonly worst: number
  readonly steady: number
  readonly finding: number
  readonly making: number
}

/** How well the presenter is told from what is behind: seen by what shows through before black and before white. */
async function told(behind: Behind, folder: string): Promise<Measured> {
  const at = (name: string): string => join(folder, `${behind}-${name}`)
  await filmLively(at('camera.webm'), SIZE, LENGTH, behind)
  const camera: CameraFile = { kind: 'recording', path: at('camera.webm'), size: SIZE, colours: { range: 'limited', matrix: 'bt601' } }
  const apart = { time: 600_000, programs: process.env['AISLE_PROGRAMS'] ?? null, home: process.cwd() }
  let began = performance.now()
  if (behind === 'lively') await findOutline({ camera, part: 0, out: at('outline.h264'), apart })
  const finding = (performance.now() - began) / LENGTH
  const cloth = behind === 'cloth' ? clothColour(await lookedAt(camera, 0), OUTLINE_SIZE.width, OUTLINE_SIZE.height) : null
  if (behind === 'cloth' && cloth === null) throw new Error('the cloth was not seen')
  began = performance.now()
  for (const colour of ['#000000', '#FFFFFF']) {
    const backdrop: NewBackdrop = { kind: 'plain', colour, finder: behind === 'cloth' ? 'cloth' : 'outline' }
    const outlines = cloth === null ? at('outline.h264') : null
    await makeBackdropFilm({ camera, backdrop, outlines, picture: null, cloth, out: at(`${colour.slice(1)}.mp4`), time: 600_000 })
  }
  const making = (performance.now() - began) / LENGTH / 2
  const white = greyOf(at('FFFFFF.mp4'))
  let [sum, worst, count] = [0, 1, 0]
  const moved: number[] = []
  let before: readonly (readonly [number, number] | null)[] | null = null
  for await (const dark of greyOf(at('000000.mp4'))) {
    const light = await white.next()
    if (light.done === true) break
    const bright = light.value
    const covered = dark.map((value, n) => Math.max(0, Math.min(255, 255 - ((bright[n] ?? 0) - value))))
    const truth = speakerAt(SIZE, (count * 1000) / FPS)
    const right = covered.reduce((all, value, n) => all + (value >= 128 === (truth[n] ?? 0) >= 128 ? 1 : 0), 0) / covered.length
    sum += right
    worst = Math.min(worst, right)
    count += 1
    const off = Array.from({ length: Math.floor(SIZE.height / ROWS) }, (_, row): readonly [number, number] | null => {
      const [made, real] = [edgesOf(covered, row * ROWS), edgesOf(truth, row * ROWS)]
      return made === null || real === null ? null : [made[0] - real[0], made[1] - real[1]]
    })
    for (const [row, now] of off.entries()) {
      const was = before?.[row] ?? null
      if (now !== null && was !== null) moved.push(Math.abs(now[0] - was[0]), Math.abs(now[1] - was[1]))
    }
    before = off
  }
  const steady = moved.sort((a, b) => a - b)[Math.floor(moved.length * 0.95)] ?? Infinity
  return { right: sum / count, worst, steady, finding, making }
}

/** How well who is before a camera is told from a lively room and from a cloth, and what that takes. */
export async function measure(): Promise<Figure> {
  const folder = process.env['AISLE_KEEP'] ?? (await mkdtemp(join(tmpdir(), 'aisle-backdrop-')))
  try {
    const rows = []
    for (const behind of ['lively', 'cloth'] as const) {
      const found = await told(behind, folder)
      rows.push({ behind, ...found })
      console.log(
        `${behind}: ${(found.right * 100).toFixed(2)}% of pixels right, ${(found.worst * 100).toFixed(2)}% at worst; ` +
          `edges within ${found.steady.toFixed(2)} px from picture to picture (95 of 100); ` +
          `${found.finding.toFixed(2)} s a second to find, ${found.making.toFixed(2)} to make`,
      )
    }
    const right = Math.min(...rows.map((row) => row.right))
    return {
      value: Number((right * 100).toFixed(2)),
      unit: '% of pixels',
      target: '≥ 95%, edges within 2 px',
      ok: rows.every((row) => row.right >= WANTED.right && row.steady <= WANTED.steady),
      detail: { size: SIZE, length: LENGTH, rows },
    }
  } finally {
    if (process.env['AISLE_KEEP'] === undefined) await rm(folder, { recursive: true, force: true })
  }
}
