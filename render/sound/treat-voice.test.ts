import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { UNTREATED } from '@core/model'
import type { VoiceTreatment } from '@core/model'
import { VoiceMeter, proposedTreatment } from '@core/voice'
import type { VoiceFacts } from '@core/voice'
import { run } from '@render/process'
import { SAMPLE_RATE, treatVoice } from '.'

/*
 * Made speech in made noise. Between the sentences there are pauses of which the times are known.
 */
let folder: string
const SAID = ['The harbour is quiet this morning.', 'Six boats lie at the quay, and the tide is going out.', 'The pilot sails at seven.']
const LEAD = 2
const PAUSE = 2.5

const file = (name: string): string => join(folder, name)
async function samplesOf(name: string): Promise<Int16Array> {
  return new Int16Array(Uint8Array.from(await readFile(file(name))).buffer)
}
const level = (samples: Int16Array, from: number, to: number): number => {
  let sum = 0
  for (const sample of samples.subarray(from, to)) sum += (sample / 32_768) ** 2
  return 10 * Math.log10(Math.max(1e-12, sum / (to - from)))
}

/** Samples of each sentence in the whole, first and last. */
const spoken: (readonly [number, number])[] = []
let clean: Int16Array

/** Sentences with pauses between them, each by so many dB louder. */
async function speech(gains: readonly number[]): Promise<Int16Array> {
  const parts: Int16Array[] = [new Int16Array(LEAD * SAMPLE_RATE)]
  spoken.length = 0
  for (const [n, text] of SAID.entries()) {
    await run('espeak-ng', ['-v', 'en', '-s', '140', '-w', file('said.wav'), text])
    const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file('said.wav'), '-ar', '48000', '-ac', '1', '-f', 's16le', 'pipe:1'])
    const own = new Int16Array(Uint8Array.from(stdout).buffer).map((sample) => Math.round(sample * 0.5 * 10 ** ((gains[n] ?? 0) / 20)))
    const at = parts.reduce((sum, { length }) => sum + length, 0)
    spoken.push([at, at + own.length])
    parts.push(own, new Int16Array(PAUSE * SAMPLE_RATE))
  }
  const whole = new Int16Array(parts.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

/** What is between sentences, well away from them. */
const pauses = (): readonly (readonly [number, number])[] =>
  spoken.map(([, end]) => [end + SAMPLE_RATE / 2, end + 2 * SAMPLE_RATE] as const)

let seed = 11
const noise = (): number => {
  seed = (seed * 48_271) % 2_147_483_647
  return (seed / 2_147_483_647) * 2 - 1
}

async function write(name: string, of: Int16Array, add: (n: number) => number): Promise<void> {
  const sum = of.map((sample, n) => Math.max(-32_768, Math.min(32_767, Math.round(sample + add(n)))))
  await writeFile(file(name), new Uint8Array(sum.buffer))
}

async function factsOf(name: string): Promise<VoiceFacts> {
  const meter = new VoiceMeter()
  meter.take(await samplesOf(name))
  return meter.facts
}

async function treated(name: string, treatment: Partial<VoiceTreatment>): Promise<Int16Array> {
  const apart = { time: 60_000, programs: null, home: process.cwd() }
  await treatVoice({ voice: file(name), out: file('out'), treatment: { ...UNTREATED, ...treatment }, facts: await factsOf(name), apart })
  return await samplesOf('out')
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-treat-'))
  clean = await speech([0, 0, 0])
  await write('clean', clean, () => 0)
  await write('noisy', clean, () => noise() * 260)
  await write('humming', clean, (n) => noise() * 20 + 500 * Math.sin((2 * Math.PI * 50 * n) / SAMPLE_RATE))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

/** Level in a band of all that is spoken. */
async function bands(name: string): Promise<readonly number[]> {
  const levels: number[] = []
  for (const hz of [250, 500, 1000, 2000, 4000]) {
    const band = ['-af', `bandpass=f=${String(hz)}:width_type=o:w=1`]
    const raw = ['-f', 's16le', '-ar', '48000', '-ac', '1']
    const { stdout } = await run('ffmpeg', ['-v', 'error', ...raw, '-i', file(name), ...band, ...raw, 'pipe:1'])
    const samples = new Int16Array(Uint8Array.from(stdout).buffer)
    levels.push(10 * Math.log10(spoken.reduce((sum, [from, to]) => sum + 10 ** (level(samples, from, to) / 10), 0)))
  }
  return levels
}

describe('a voice in a noisy room', () => {
  it.each(['learned', 'gated'] as const)('has its room taken down by 12 dB in pauses, and its speech left within 1 dB: %s', async (way) => {
    const before = await samplesOf('noisy')
    const after = await treated('noisy', { noise: way })
    expect(after.length).toBe(before.length)
    for (const [from, to] of pauses()) expect(level(before, from, to) - level(after, from, to)).toBeGreaterThanOrEqual(12)
    const [was, is] = [await bands('noisy'), await bands('out')]
    for (const [n, db] of was.entries()) expect(Math.abs((is[n] ?? 0) - db)).toBeLessThanOrEqual(1)
  })

  it('stays in time to the sample', async () => {
    for (const way of ['learned', 'gated'] as const) {
      const after = await treated('noisy', { noise: way })
      const [from] = spoken[1] ?? [0]
      let best = { at: 0, sum: -Infinity }
      for (let late = -600; late <= 600; late += 1) {
        let sum = 0
        for (let n = from; n < from + SAMPLE_RATE; n += 5) sum += (clean[n] ?? 0) * (after[n + late] ?? 0)
        if (sum > best.sum) best = { at: late, sum }
      }
      expect(Math.abs(best.at)).toBeLessThanOrEqual(2)
    }
  })
})

describe('a voice that hums', () => {
  it('has the hum taken out, by what was measured of it', async () => {
    const facts = await factsOf('humming')
    expect(facts.hum?.of).toBe('50 Hz')
    const treatment = proposedTreatment(facts)
    expect(treatment.hum).toBe('50 Hz')
    const [before, after] = [await samplesOf('humming'), await treated('humming', { hum: '50 Hz' })]
    for (const [from, to] of pauses()) expect(level(before, from, to) - level(after, from, to)).toBeGreaterThan(12)
  })

  it('is left alone where it is clean', async () => {
    expect(proposedTreatment(await factsOf('clean'))).toMatchObject({ noise: null, hum: null, rumble: false, level: false })
  })
})

describe('a voice with soft and loud sentences', () => {
  it('is evened, as loud as before, and its room does not pump', async () => {
    await write('uneven', await speech([0, -12, -2]), () => noise() * 20)
    expect(proposedTreatment(await factsOf('uneven')).level).toBe(true)
    const before = await samplesOf('uneven')
    const after = await treated('uneven', { level: true })
    const levels = (samples: Int16Array): readonly number[] => spoken.map(([from, to]) => level(samples, from, to))
    const spread = (values: readonly number[]): number => Math.max(...values) - Math.min(...values)
    expect(spread(levels(before))).toBeGreaterThan(9)
    expect(spread(levels(after))).toBeLessThan(4.5)
    // Within any half second of a pause the room goes up or down by less than 2 dB.
    for (const [from, to] of pauses())
      for (let at = from; at + SAMPLE_RATE / 2 < to; at += SAMPLE_RATE / 10)
        expect(Math.abs(level(after, at, at + 4800) - level(after, at + 19_200, at + 24_000))).toBeLessThan(2)
  })
})
