import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { AS_RECORDED } from '@core/model'
import { pictureTimes } from '@render/probe'
import { run } from '@render/process'
import { cameraFrames } from '@render/video'
import { decodeRecording, indexRecording, makeStretchVoice } from '.'

let folder: string
let raw: string
let decoded: string
let voice: string

const LENGTH = 6000
/**
 * One whole picture at its beginning and none after it, as a recorder gives them for seconds; it turns from dark to bright at 2 s, and
 * is heard at 2 s.
 */
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-stretch-'))
  raw = join(folder, 'raw.webm')
  await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'color=black:s=64x36:r=30:d=6',
    '-f',
    'lavfi',
    '-i',
    'sine=frequency=600:d=6',
    '-filter_complex',
    '[0:v]drawbox=color=white:t=fill:enable=gte(t\\,2)[v];[1:a]volume=0:enable=lt(t\\,2)[a]',
    '-map',
    '[v]',
    '-map',
    '[a]',
    '-c:v',
    'libvpx',
    '-g',
    '9999',
    '-deadline',
    'realtime',
    '-lag-in-frames',
    '0',
    '-c:a',
    'libopus',
    '-f',
    'webm',
    raw,
  ])
  decoded = join(folder, 'decoded.pcm')
  voice = join(folder, 'voice.pcm')
  await decodeRecording({ path: raw }, decoded, { pictured: false })
})
afterAll(() => rm(folder, { recursive: true }))

async function closed(
  picture: number,
  sound: number,
): Promise<{ readonly recording: string; readonly turns: number | undefined; readonly heard: number }> {
  const recording = join(folder, `recording-${String(picture)}.webm`)
  await indexRecording(raw, recording, { picture, sound })
  const peaks = await makeStretchVoice({ decoded, voice, length: LENGTH, offset: sound, drift: 0, tail: null })
  // As the export reads it: a frame for every thirtieth of a second from the stretch's zero on.
  let [bright, at] = [-1, 0]
  for await (const { image } of cameraFrames(
    { kind: 'recording', path: recording, size: { width: 64, height: 36 }, colours: { range: 'limited', matrix: 'bt601' } },
    0,
    AS_RECORDED,
    150,
    30,
  )) {
    if (bright < 0 && 'getContext' in image && (image.getContext('2d').getImageData(30, 16, 1, 1).data[0] ?? 0) > 128) bright = at
    at += 1
  }
  return { recording, turns: (bright * 1000) / 30, heard: (peaks.findIndex((peak) => peak > 10) * LENGTH) / peaks.length }
}

describe('a stretch that is closed', () => {
  it('has its pictures from the first moment on, at their times, when what it begins with lies before it', async () => {
    const { recording, turns, heard } = await closed(150, 40)
    const shown = await pictureTimes(recording)
    expect(shown[0]).toBe(0)
    expect(shown.filter((time) => time < 1000).length).toBeGreaterThan(28)
    expect(Math.abs((turns ?? 0) - 1850)).toBeLessThanOrEqual(34)
    expect(Math.abs(heard - 1960)).toBeLessThanOrEqual(40)
  })

  it('has them where they belong when its pictures begin later than it', async () => {
    const { turns, heard } = await closed(-400, -90)
    expect(Math.abs((turns ?? 0) - 2400)).toBeLessThanOrEqual(34)
    expect(Math.abs(heard - 2090)).toBeLessThanOrEqual(40)
  })

  it('sounds the same whether its recording was decoded as it came or afterwards', async () => {
    const bytes = await readFile(raw)
    const cameAt = join(folder, 'came.pcm')
    async function* coming(): AsyncGenerator<Uint8Array> {
      for (let at = 0; at < bytes.length; at += 1000) {
        // Others have their turn between one chunk and the next, as when they come from afar.
        await new Promise(setImmediate)
        yield bytes.subarray(at, at + 1000)
      }
    }
    const came = await decodeRecording({ bytes: coming() }, cameAt, { pictured: true })
    expect(came).toEqual(await decodeRecording({ path: raw }, decoded, { pictured: true }))
    const times = await pictureTimes(raw)
    expect(Math.abs((came.pictures?.last ?? 0) - (times.at(-1) ?? 0))).toBeLessThan(10)
    expect(came.pictures?.gaps).toEqual([])
    expect((await readFile(cameAt)).equals(await readFile(decoded))).toBe(true)
  })

  it('is as much longer or shorter than its recording as the clock of its microphone was wrong', async () => {
    for (const drift of [0.01, -0.01]) {
      const peaks = await makeStretchVoice({ decoded, voice, length: LENGTH, offset: 0, drift, tail: null })
      const heard = (peaks.findIndex((peak) => peak > 10) * LENGTH) / peaks.length
      expect(Math.abs(heard - 2000 / (1 + drift))).toBeLessThanOrEqual(50)
      const samples = await readFile(voice)
      expect(samples.length).toBe(LENGTH * 96)
      // Its pitch goes with it: so often does the tone pass zero upwards in a second of it.
      const tone = new Int16Array(samples.buffer, samples.byteOffset + 3000 * 96, 48_000)
      const passes = tone.reduce((sum, sample, n) => sum + (n > 0 && sample >= 0 && (tone[n - 1] ?? 0) < 0 ? 1 : 0), 0)
      expect(Math.abs(passes - 600 * (1 + drift))).toBeLessThanOrEqual(1)
    }
  })
})
