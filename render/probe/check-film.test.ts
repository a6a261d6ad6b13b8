import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { USUAL_RECIPE, asId } from '@core/model'
import type { Recipe } from '@core/model'
import { renderPlan } from '@core/plan'
import type { RenderPlan } from '@core/plan'
import { indexFilm } from '@core/scene'
import { SLIDES, film, stretch } from '@core/testing'
import { run } from '@render/process'
import { checkFilm } from '.'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-check-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

const planOf = (more: Partial<Recipe> = {}): RenderPlan =>
  renderPlan(indexFilm(film(SLIDES, [stretch('s', 2000, SLIDES[0]?.id ?? asId('one'))])), {
    ...USUAL_RECIPE,
    name: 'checked',
    limit: { kind: 'none' },
    lines: 480,
    ...more,
  })
const QUIET = { integrated: -16.2, truePeak: -1.4 }

const TAGS = ['-color_range', 'tv', '-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709']
let number = 0
/** A file as a plan of 480 lines wants it, or with something otherwise. */
async function fileOf({
  seconds = 2,
  rate = 30,
  size = '854x480',
  pictures = ['-c:v', 'libx264', '-profile:v', 'high', '-pix_fmt', 'yuv420p', ...TAGS],
  sound = ['-c:a', 'aac', '-ar', '48000'],
  withSound = true,
  name = 'mp4',
} = {}): Promise<string> {
  number += 1
  const file = join(folder, `${String(number)}.${name}`)
  const length = String(seconds)
  await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `color=c=teal:s=${size}:r=${String(rate)}:d=${length}`,
    ...(withSound ? ['-f', 'lavfi', '-i', `sine=frequency=300:duration=${length}`] : []),
    ...pictures,
    ...(withSound ? sound : []),
    '-y',
    file,
  ])
  return file
}
const said = async (
  file: string,
  plan = planOf(),
  loudness = QUIET,
  limit: number | null = null,
  captions = false,
): Promise<string | null> => {
  const checked = await checkFilm(file, { plan, loudness, captions, limit })
  return checked.kind === 'good' ? null : checked.sentence
}

describe('a finished file', () => {
  it('that is as planned is good, and its facts are what was found in it', async () => {
    const file = await fileOf()
    const checked = await checkFilm(file, { plan: planOf(), loudness: QUIET, captions: false, limit: 2200 })
    expect(checked).toMatchObject({
      kind: 'good',
      facts: { width: 854, height: 480, frames: 60, frameRate: 30, loudness: -16.2, truePeak: -1.4 },
    })
  })

  it('that lacks the captions it was to have is bad', async () => {
    expect(await said(await fileOf(), planOf(), QUIET, null, true)).toMatch(/lacks its captions/)
  })

  it.each([
    ['a frame is missing', { seconds: 1.96 }, /59 frames instead of 60/],
    ['its size is another', { size: '640x480' }, /its picture is 640 by 480/],
    ['its rate is another', { rate: 25 }, /50 frames instead of 60.*constant rate/],
    [
      'its colours are not told',
      { pictures: ['-c:v', 'libx264', '-profile:v', 'high', '-pix_fmt', 'yuv420p'] },
      /stored in another format/,
    ],
    [
      'its pixels are finer than players take',
      { pictures: ['-c:v', 'libx264', '-pix_fmt', 'yuv444p', ...TAGS] },
      /stored in another format/,
    ],
    ['its sound has another rate', { sound: ['-c:a', 'aac', '-ar', '44100'] }, /its sound is stored in another format/],
    ['it has no sound', { withSound: false }, /lacks its sound/],
    ['it is too long', { seconds: 3 }, /90 frames instead of 60.*it is 3\d\d\d ms long instead of 2000/],
  ] as const)('is not offered when %s', async (_, how, sentence) => {
    expect(await said(await fileOf(how as Parameters<typeof fileOf>[0]))).toMatch(sentence)
  })

  it('is held against its limit by the longest of all in it', async () => {
    const file = await fileOf()
    expect(await said(file, planOf(), QUIET, 1990)).toMatch(/ms over the limit/)
  })

  it('is not offered when it is too loud, or its peaks are', async () => {
    const file = await fileOf()
    expect(await said(file, planOf(), { integrated: -14.5, truePeak: -1.4 })).toMatch(/too loud, -14.5 LUFS/)
    expect(await said(file, planOf(), { integrated: -16, truePeak: -0.2 })).toMatch(/loudest peak is -0.2 dBTP/)
    // What cannot be raised further is no fault of the file's.
    expect(await said(file, planOf(), { integrated: -31, truePeak: -9 })).toBeNull()
  })

  it('is not offered a byte over the size that it may have', async () => {
    const file = await fileOf()
    expect(await said(file, planOf({ bits: { kind: 'size', most: 1000 } }))).toMatch(/bytes more than it may/)
    expect(await said(file, planOf({ bits: { kind: 'size', most: 10_000_000 } }))).toBeNull()
  })

  it('of sound alone needs no picture', async () => {
    const file = await fileOf({ pictures: ['-vn'], name: 'm4a' })
    expect(await said(file, planOf({ format: 'm4a' }))).toBeNull()
    expect(await said(file)).toMatch(/no picture/)
  })
})
