import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { AS_RECORDED, asId } from '@core/model'
import type { ClipPart } from '@core/plan'
import { DUCKED } from '@core/voice'
import { bringClip } from '@render/clips'
import { run } from '@render/process'
import { SAMPLE_RATE, mixClips } from '.'

const RATE = SAMPLE_RATE
let folder = ''
let file = ''

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'mix-'))
  const brought = join(folder, 'brought.wav')
  await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'aevalsrc=0.2*sin(2*PI*1000*t):s=48000:d=8', brought])
  file = (await bringClip(brought, { out: folder, name: 'made', time: 60_000 })).file
})
afterAll(() => rm(folder, { recursive: true, force: true }))

/** A voice of 300 Hz between some times, in ms. */
function voiceOf(length: number, ...spoken: readonly (readonly [number, number])[]): Int16Array {
  const said = (at: number): boolean => spoken.some(([from, to]) => at * 1000 >= from * RATE && at * 1000 < to * RATE)
  return Int16Array.from({ length: (length * RATE) / 1000 }, (_, at) =>
    said(at) ? Math.round(9000 * Math.sin((2 * Math.PI * 300 * at) / RATE)) : 0,
  )
}
/** In blocks that do not match anything. */
function* inBlocks(samples: Int16Array): Generator<Int16Array> {
  for (let at = 0; at < samples.length; at += 7777) yield samples.slice(at, at + 7777)
}
async function mixed(voice: Int16Array, clips: readonly ClipPart[], begins = 0): Promise<Int16Array> {
  const out = new Int16Array(voice.length)
  let at = 0
  const blocks = mixClips(
    async function* () {
      yield* await Promise.resolve(inBlocks(voice))
    },
    { clips, clipOf: (name) => join(folder, name), begins },
  )
  for await (const block of blocks) {
    out.set(block, at)
    at += block.length
  }
  expect(at).toBe(voice.length)
  return out
}
/** How loud a tone is around a time, in dB against a clip that is as loud as it is (Goertzel, 1958). */
function toneAt(samples: Int16Array, hertz: number, at: number): number {
  const [from, count] = [Math.round(((at - 20) * RATE) / 1000), Math.round(0.04 * RATE)]
  let [re, im] = [0, 0]
  for (let n = 0; n < count; n += 1) {
    const angle = (2 * Math.PI * hertz * n) / RATE
    re += (samples[from + n] ?? 0) * Math.cos(angle)
    im += (samples[from + n] ?? 0) * Math.sin(angle)
  }
  return 20 * Math.log10(Math.max(1, (2 * Math.hypot(re, im)) / count) / (0.2 * 32_768))
}
const part = (at: number, length: number, more: Partial<ClipPart> = {}): ClipPart => ({
  at,
  length,
  file: asId(file),
  from: 1000,
  to: 1000 + length,
  playbackRate: AS_RECORDED,
  gain: 0,
  voice: -20,
  ...more,
})

describe('clips under a voice', () => {
  it('are heard where they are played and nowhere else, as loud as they are to be', async () => {
    const out = await mixed(voiceOf(6000), [part(1000, 2000), part(4000, 1000, { gain: -6 })])
    expect([500, 960, 3040, 3800, 5100].map((at) => toneAt(out, 1000, at) < -50)).toEqual([true, true, true, true, true])
    for (const at of [1040, 2000, 2960]) expect(toneAt(out, 1000, at)).toBeCloseTo(0, 0)
    expect(toneAt(out, 1000, 4500)).toBeCloseTo(-6, 0)
  })

  it('are soft while somebody speaks, and the voice is as it was', async () => {
    const voice = voiceOf(8000, [3000, 4000])
    const out = await mixed(voice, [part(0, 7000, { from: 0, to: 7000 })])
    expect([1000, 2500].map((at) => Math.round(toneAt(out, 1000, at)) + 0)).toEqual([0, 0])
    for (const at of [3050, 3500, 3950, 4300]) expect(toneAt(out, 1000, at)).toBeCloseTo(DUCKED, 0)
    expect(Math.round(toneAt(out, 1000, 5200)) + 0).toBe(0)
    expect(toneAt(out, 300, 3500)).toBeCloseTo(toneAt(voice, 300, 3500), 1)
  })

  it('keep their pitch at another tempo', async () => {
    const out = await mixed(voiceOf(3000), [part(500, 1000, { to: 3000, playbackRate: { num: 2, den: 1 } })])
    expect(toneAt(out, 1000, 1000)).toBeGreaterThan(-2)
    expect(toneAt(out, 2000, 1000)).toBeLessThan(-25)
    expect(toneAt(out, 1000, 1600)).toBeLessThan(-50)
  })

  it('sound in a part of a film as they do in the whole, wherever it begins', async () => {
    const voice = voiceOf(8000, [3000, 4000])
    const whole = await mixed(voice, [part(1500, 5000, { to: 6000 })])
    const begins = 2017
    const skipped = (begins * RATE) / 1000
    const some = await mixed(voice.slice(skipped), [part(1500 - begins, 5000, { to: 6000 })], begins)
    // What lies nearer to its beginning than anything reaches is decided by what is not in it.
    for (let at = RATE; at < some.length; at += 101) expect(Math.abs((some[at] ?? 0) - (whole[skipped + at] ?? 0))).toBeLessThan(60)
  })
})
