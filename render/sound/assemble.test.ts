import { appendFile, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { AS_RECORDED, asId } from '@core/model'
import type { VoicePart } from '@core/plan'
import { SAMPLE_RATE, samplesOf } from './pcm'
import { assembleVoice } from './assemble'

let folder: string
const voicePath = (stretch: string): string => join(folder, stretch)
const voiceOf = ({ stretch }: Pick<VoicePart, 'stretch'>): string => voicePath(stretch)
const LENGTH = 6000

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-voice-'))
  let state = 7
  const noise = (): number => {
    state = (state * 48_271) % 2_147_483_647
    return (state / 2_147_483_647) * 2 - 1
  }
  // The tone of a room, the same from beginning to end.
  await writeFile(voicePath('room'), Buffer.from(Int16Array.from({ length: samplesOf(LENGTH) }, () => Math.round(noise() * 600)).buffer))
  await writeFile(
    voicePath('tone'),
    Buffer.from(
      Int16Array.from({ length: samplesOf(LENGTH) }, (_, n) => Math.round(8000 * Math.sin((2 * Math.PI * 200 * n) / SAMPLE_RATE))).buffer,
    ),
  )
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

const part = (stretch: string, at: number, from: number, to: number, rate = AS_RECORDED, gain = 0): VoicePart => ({
  at,
  length: Math.round(((to - from) * rate.den) / rate.num),
  stretch: asId(stretch),
  from,
  to,
  playbackRate: rate,
  gain,
})

async function whole(parts: readonly VoicePart[], length: number): Promise<Int16Array> {
  const out = new Int16Array(samplesOf(length))
  let at = 0
  for await (const block of assembleVoice(parts, voiceOf, out.length)) {
    out.set(block, at)
    at += block.length
  }
  expect(at).toBe(out.length)
  return out
}
const decibels = (samples: Int16Array, from: number, to: number): number => {
  const some = samples.subarray(samplesOf(from), samplesOf(to))
  return 10 * Math.log10(some.reduce((sum, value) => sum + value * value, 0) / some.length + 1e-9)
}
const steepest = (samples: Int16Array, from: number, to: number): number => {
  let most = 0
  for (let n = samplesOf(from); n < samplesOf(to); n += 1) most = Math.max(most, Math.abs((samples[n + 1] ?? 0) - (samples[n] ?? 0)))
  return most
}

setFlagsFromString('--expose-gc')
/** Collects what nobody holds any more. */
const collect = runInNewContext('gc') as () => void

describe('a join in the voice', () => {
  it("keeps the room's level within a decibel, also in the moment of the join", async () => {
    const samples = await whole([part('room', 0, 0, 2000), part('room', 2000, 3500, 5500)], 4000)
    const usual = decibels(samples, 500, 1500)
    for (const [from, to] of [
      [1960, 2000],
      [1994, 2018],
      [2000, 2012],
      [2000, 2040],
    ] as const)
      expect(Math.abs(decibels(samples, from, to) - usual)).toBeLessThan(1)
  })

  it('meets its neighbours when one was recorded softer', async () => {
    const samples = await whole([part('room', 0, 0, 2000), part('room', 2000, 2000, 4000, AS_RECORDED, -6)], 4000)
    expect(decibels(samples, 500, 1500) - decibels(samples, 2500, 3500)).toBeCloseTo(6, 0)
  })

  it('does not click where a tone is cut anywhere in its wave', async () => {
    for (const from of [3000.7, 3001.3, 3002.9].map(Math.round)) {
      const samples = await whole([part('tone', 0, 0, 2001), part('tone', 2001, from, from + 1500)], 3501)
      // A tone is as steep as its own wave; a click would be many times that.
      expect(steepest(samples, 1980, 2040)).toBeLessThan(steepest(samples, 500, 1500) * 1.8)
    }
  })

  it('fades where silence follows, and plays a part that is faster to its end', async () => {
    const samples = await whole([part('tone', 0, 0, 1000), part('tone', 2000, 1000, 3160, { num: 27, den: 25 })], 4500)
    expect(Math.abs(samples[samplesOf(1000) - 1] ?? 9999)).toBeLessThan(400)
    expect(decibels(samples, 1100, 1900)).toBeLessThan(0)
    expect(Math.abs(decibels(samples, 3700, 3950) - decibels(samples, 200, 800))).toBeLessThan(1)
    expect(decibels(samples, 4010, 4490)).toBeLessThan(0)
  })

  it('says so when a voice is not there, at another tempo too, and does not wait for it', async () => {
    for (const rate of [AS_RECORDED, { num: 27, den: 25 }])
      await expect(whole([part('gone', 0, 0, 1000, rate)], 1000)).rejects.toThrow('ENOENT')
  })

  it('holds little of a long part at another tempo, and loses nothing of it from one block to the next', async () => {
    const minutes = 12
    await writeFile(voicePath('long'), Buffer.alloc(0))
    const second = Buffer.from(
      Int16Array.from({ length: SAMPLE_RATE }, (_, n) => Math.round(8000 * Math.sin((2 * Math.PI * 200 * n) / SAMPLE_RATE))).buffer,
    )
    for (let n = 0; n < minutes * 60; n += 1) await appendFile(voicePath('long'), second)
    const length = (minutes * 60_000 * 25) / 27
    let most = 0
    let samples = 0
    let least = Infinity
    let blocks = 0
    collect()
    const before = process.memoryUsage().arrayBuffers
    for await (const block of assembleVoice(
      [{ ...part('long', 0, 0, minutes * 60_000, { num: 27, den: 25 }), length }],
      voiceOf,
      samplesOf(length),
    )) {
      blocks += 1
      if (blocks % 20 === 0) {
        // What nobody holds any more does not count, whenever it would have been collected.
        collect()
        most = Math.max(most, process.memoryUsage().arrayBuffers - before)
      }
      samples += block.length
      // No block is silent anywhere but where the whole fades out.
      for (let from = 0; from + 4800 < block.length; from += 4800)
        least = Math.min(least, decibels(block.subarray(from, from + 4800), 0, 100))
    }
    expect(samples).toBe(samplesOf(length))
    expect(least).toBeGreaterThan(70)
    // All of it is 69 MB and its other tempo 64 more.
    expect(most).toBeLessThan(40_000_000)
  })
})
