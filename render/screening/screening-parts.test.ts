import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { AS_RECORDED, asId } from '@core/model'
import type { VoicePart } from '@core/plan'
import { FACE_PART, SOUND_PART_MS, faceMediaParts, soundParts } from '@core/screening'
import { run } from '@render/process'
import { assembleVoice } from '@render/sound'
import { faceSize, makeFacePart, makeSoundPart } from '.'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-screening-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

const RATE = 48_000
const noClip = (digest: string): string => {
  throw new Error(`no clip ${digest}`)
}
const voicePath = (stretch: string): string => join(folder, `${stretch}.pcm`)
const voiceOf = ({ stretch }: Pick<VoicePart, 'stretch'>): string => voicePath(stretch)
const part = (at: number, length: number, from: number, more: Partial<VoicePart> = {}): VoicePart => ({
  at,
  length,
  stretch: asId('a'),
  from,
  to: from + length,
  playbackRate: AS_RECORDED,
  gain: 0,
  ...more,
})

/** Parts as a player puts them together: the header, then one after the other. */
async function joined(name: string, parts: readonly { readonly header: Buffer; readonly part: Buffer }[]): Promise<string> {
  const file = join(folder, name)
  await writeFile(file, Buffer.concat([parts[0]?.header ?? Buffer.alloc(0), ...parts.map((one) => one.part)]))
  return file
}
async function samplesIn(file: string): Promise<Int16Array> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-f', 's16le', '-ac', '1', '-ar', String(RATE), 'pipe:1'])
  return new Int16Array(Uint8Array.from(stdout).buffer)
}
async function wholeOf(parts: readonly VoicePart[], samples: number): Promise<Int16Array> {
  const whole = new Int16Array(samples)
  let at = 0
  for await (const block of assembleVoice(parts, voiceOf, samples)) {
    whole.set(block, at)
    at += block.length
  }
  return whole
}
/** How far off samples are at most, and on the mean square, between two times. */
function differenceOf(a: Int16Array, b: Int16Array, from: number, to: number): { readonly most: number; readonly mean: number } {
  let [most, sum] = [0, 0]
  for (let n = from; n < to; n += 1) {
    const off = Math.abs((a[n] ?? 0) - (b[n] ?? 0))
    most = Math.max(most, off)
    sum += off * off
  }
  return { most, mean: Math.sqrt(sum / (to - from)) }
}

describe('the sound of a screening', () => {
  const length = 20_000
  beforeAll(async () => {
    const samples = Int16Array.from({ length: 30 * RATE }, (_, n) =>
      Math.round(6000 * Math.sin((2 * Math.PI * 330 * n) / RATE) + 3000 * Math.sin((2 * Math.PI * 1234 * n) / RATE)),
    )
    await writeFile(voicePath('a'), Buffer.from(samples.buffer))
  })

  it('made in parts is the sound of the whole, without a gap or a click where they meet', async () => {
    const voice = [part(0, 5000, 100), part(5000, 4000, 9000), part(10_500, 9500, 15_000)]
    const parts = soundParts({ voice, clips: [] }, length)
    expect(parts).toHaveLength(4)
    const made = await Promise.all(parts.map((one) => makeSoundPart(one, { gain: 0 }, { voiceOf, clipOf: noClip })))
    expect(new Set(made.map(({ header }) => header.toString('hex'))).size).toBe(1)
    const sound = await samplesIn(await joined('sound.mp4', made))
    const whole = await wholeOf(voice, sound.length)
    expect(Math.abs(sound.length - (length * RATE) / 1000)).toBeLessThanOrEqual(1024)
    // The first packet has nothing to overlap with.
    const everywhere = differenceOf(sound, whole, 2048, sound.length - 2048)
    expect(everywhere.mean).toBeLessThan(120)
    for (const n of [1, 2, 3]) {
      const meets = (n * SOUND_PART_MS * RATE) / 1000
      expect(differenceOf(sound, whole, meets - 2048, meets + 2048).mean).toBeLessThan(250)
    }
    // What was cut stays away: between 9 and 10.5 s there is silence.
    expect(differenceOf(sound, new Int16Array(sound.length), 9.1 * RATE, 10.4 * RATE).most).toBeLessThan(200)
  })

  it('goes on over a part that is played faster', async () => {
    const voice = [part(0, 16_000, 0, { to: 20_000, playbackRate: { num: 5, den: 4 } })]
    const made = await Promise.all(
      soundParts({ voice, clips: [] }, 16_000).map((one) => makeSoundPart(one, { gain: 0 }, { voiceOf, clipOf: noClip })),
    )
    const sound = await samplesIn(await joined('faster.mp4', made))
    const whole = await wholeOf(voice, sound.length)
    const meets = (SOUND_PART_MS * RATE) / 1000
    expect(differenceOf(sound, whole, meets - 2048, meets + 2048).mean).toBeLessThan(250)
  })

  it('is another only where something else is heard', () => {
    const before = soundParts({ voice: [part(0, 20_000, 0)], clips: [] }, length)
    const after = soundParts({ voice: [part(0, 14_000, 0), part(14_000, 6000, 20_000)], clips: [] }, length)
    expect(after.map((one, n) => JSON.stringify(one) === JSON.stringify(before[n]))).toEqual([true, true, false, false])
  })
})

describe('the face of a screening', () => {
  it('is seen where the film shows it and nowhere else, picture by picture', async () => {
    const path = join(folder, 'face.webm')
    // Each second in a colour of its own.
    const colours = ['red', 'lime', 'blue', 'yellow', 'magenta', 'cyan', 'white', 'orange', 'green', 'navy']
    await run('ffmpeg', [
      '-v',
      'error',
      ...colours.flatMap((colour) => ['-f', 'lavfi', '-i', `color=c=${colour}:s=640x480:r=30:d=1`]),
      '-filter_complex',
      `concat=n=${String(colours.length)}:v=1:a=0`,
      '-c:v',
      'libvpx',
      '-g',
      '100',
      '-deadline',
      'realtime',
      '-b:v',
      '1M',
      path,
    ])
    const faces = [
      { at: 1000, length: 2000, stretch: asId<'stretch'>('a'), from: 4500, to: 6500 },
      { at: 3000, length: 1000, stretch: asId<'stretch'>('a'), from: 0, to: 2000 },
      { at: 6500, length: 1500, stretch: asId<'stretch'>('a'), from: 8000, to: 9500 },
    ]
    const parts = faceMediaParts(faces, 9000)
    const size = faceSize({ width: 640, height: 480 })
    expect([parts.map((one) => one.frames), size]).toEqual([[60, 60, 60, 60, 30], { width: 480, height: 360 }])
    const camera = { kind: 'recording', path, size: { width: 640, height: 480 }, colours: { range: 'limited', matrix: 'bt601' } } as const
    const made = await Promise.all(parts.map((one) => makeFacePart(one, size, () => Promise.resolve(camera))))
    expect(new Set(made.map(({ header }) => header.toString('hex'))).size).toBe(1)
    const file = await joined('face.mp4', made)
    const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-vf', 'scale=1:1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'])
    expect(stdout.length / 3).toBe((9000 * FACE_PART.frameRate) / 1000)
    const colourAt = (ms: number) => [...stdout.subarray(Math.round((ms * 30) / 1000) * 3).subarray(0, 3)].map((value) => value > 127)
    const [black, magenta, cyan, white, red, lime] = [
      [false, false, false],
      [true, false, true],
      [false, true, true],
      [true, true, true],
      [true, false, false],
      [false, true, false],
    ]
    expect([500, 970, 1200, 1800, 2900, 3200, 3700, 4100, 6400].map(colourAt)).toEqual([
      black,
      black,
      magenta,
      cyan,
      white,
      red,
      lime,
      black,
      black,
    ])
    // Dark, but no black.
    expect(Math.max(...stdout.subarray(Math.round(6700 * 0.03) * 3).subarray(0, 3))).toBeGreaterThan(90)
  })
})
