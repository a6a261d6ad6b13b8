import { createReadStream, createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { LEVEL_STEP, evenGains, fromDb, speechLevel } from '@core/voice'
import type { VoiceFacts } from '@core/voice'
import type { VoiceTreatment } from '@core/model'
import { filter, filtersText } from '@render/filters'
import type { Filter } from '@render/filters'
import { outputOf, throughApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import { SAMPLES_IN, SAMPLES_OUT, SAMPLE_RATE } from './pcm'
import { SampleReader } from './sample-reader'

/** Grows whenever the same treatment would sound otherwise. */
export const TREATMENT = 2

export interface TreatVoiceOrder {
  /** The voice as it was recorded: mono samples of 16 bits. */
  readonly voice: string
  readonly out: string
  readonly treatment: VoiceTreatment
  readonly facts: Pick<VoiceFacts, 'noise'>
  /** For what runs apart. */
  readonly apart: Omit<ApartBounds, 'memory'>
}

/** MB that the network may take with what runs it. */
const MEMORY = 512
/** Lower than any voice, in Hz; twice, so that less of it is left. */
const RUMBLE = [filter('highpass', [], { f: 75 }), filter('highpass', [], { f: 75 })] as const
/** Harmonics of hum that are taken out, each so wide, in Hz: of a voice between them nothing is missed. */
const HARMONICS = 6
const NARROW = 3
/** By how much the gate takes each part of the spectrum down, and how far above the room it begins, in dB. */
const GATE = { by: 30, above: 3.6, least: -80, most: -20 } as const
/** A gate gives each moment so many samples late. Measured. */
const GATE_LATENCY = 1200
const SOFT_S = filter('deesser', [], { i: 0.5, m: 0.6, f: 0.4 })
/** Peaks of what was raised are held below this, in dBFS. */
const CEILING = -1.5

const humFilters = (hum: string): readonly Filter[] =>
  Array.from({ length: HARMONICS }, (_, n) =>
    filter('bandreject', [], { f: (n + 1) * Number.parseInt(hum, 10), width_type: 'h', w: NARROW }),
  )

/** What ffmpeg does of a treatment, and by how many samples that comes late. */
function filtersOf({ noise, hum, rumble, sibilance }: VoiceTreatment, room: number | null): readonly [readonly Filter[], number] {
  const floor = Math.max(GATE.least, Math.min(GATE.most, (room ?? GATE.least) + GATE.above))
  const gate = noise === 'gated' ? [filter('afftdn', [], { nr: GATE.by, nf: floor.toFixed(1) })] : []
  return [
    [...(rumble ? RUMBLE : []), ...(hum === null ? [] : humFilters(hum)), ...gate, ...(sibilance ? [SOFT_S] : [])],
    gate.length === 0 ? 0 : GATE_LATENCY,
  ]
}

type Bytes = AsyncIterable<Uint8Array>

/** Drops the first samples and puts as many of silence at the end. */
async function* earlier(chunks: Bytes, samples: number): Bytes {
  let left = samples * 2
  for await (const chunk of chunks) {
    const dropped = Math.min(left, chunk.length)
    left -= dropped
    if (chunk.length > dropped) yield chunk.subarray(dropped)
  }
  yield new Uint8Array(samples * 2)
}

function filtered(chunks: Bytes, filters: readonly Filter[], late: number): Bytes {
  if (filters.length === 0) return chunks
  const args = ['-hide_banner', '-loglevel', 'error', ...SAMPLES_IN, '-af', filtersText(filters), ...SAMPLES_OUT]
  const out = outputOf('ffmpeg', args, { input: chunks })
  return late === 0 ? out : earlier(out, late)
}

const BLOCK = 10 * LEVEL_STEP
/** Full scale of 16 bits, in dB over one. */
const FULL_SCALE = 20 * Math.log10(32_768)

async function* blocksOf(path: string): AsyncGenerator<Int16Array> {
  const reader = new SampleReader(createReadStream(path))
  for (let block = await reader.next(BLOCK); block.length > 0; block = await reader.next(BLOCK)) yield block
}

/** How loud a voice is step by step, in dBFS. */
async function levelsOf(path: string): Promise<readonly number[]> {
  const steps: number[] = []
  for await (const block of blocksOf(path)) {
    for (let from = 0; from + LEVEL_STEP <= block.length; from += LEVEL_STEP) {
      let sum = 0
      for (let n = from; n < from + LEVEL_STEP; n += 1) sum += block[n]! * block[n]!
      steps.push(sum === 0 ? -120 : 10 * Math.log10(sum / LEVEL_STEP) - FULL_SCALE)
    }
  }
  return steps
}

/** Samples with gains laid over them, from the middle of one step to that of the next; as 32-bit floats, so that none is cut off. */
async function* raised(path: string, gains: Float32Array, all: number): AsyncGenerator<Uint8Array> {
  const factors = gains.map((gain) => fromDb(gain + all) / 32_768)
  const factorOf = (step: number): number => factors[Math.max(0, Math.min(factors.length - 1, step))] ?? 1 / 32_768
  let first = 0
  for await (const block of blocksOf(path)) {
    const out = new Float32Array(block.length)
    for (let n = 0; n < block.length; n += 1) {
      const place = (first + n) / LEVEL_STEP - 0.5
      const step = Math.floor(place)
      const before = factorOf(step)
      out[n] = block[n]! * (before + (factorOf(step + 1) - before) * (place - step))
    }
    first += block.length
    yield new Uint8Array(out.buffer)
  }
}

/** Evens the level of a voice, as loud as a whole as another is, with its peaks held. @param like that as which */
async function evened(path: string, like: string, out: string): Promise<void> {
  const levels = await levelsOf(path)
  const gains = evenGains(levels)
  const [wanted, made] = [speechLevel(await levelsOf(like)), speechLevel(levels.map((level, n) => level + (gains[n] ?? 0)))]
  const all = wanted === null || made === null ? 0 : wanted - made
  const limiter = filter('alimiter', [], { limit: fromDb(CEILING).toFixed(4), level: false, attack: 5, release: 80, latency: true })
  const input = ['-f', 'f32le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', 'pipe:0']
  const args = ['-hide_banner', '-loglevel', 'error', ...input, '-af', filtersText([limiter]), ...SAMPLES_OUT]
  await pipeline(Readable.from(outputOf('ffmpeg', args, { input: raised(path, gains, all) })), createWriteStream(out, { mode: 0o600 }))
}

/**
 * Makes a voice of another as a treatment wants it: as long as that, in time with it to the sample, and as loud. Can be repeated, and
 * writes the same bytes then.
 * @throws ProcessFailed when a program that does it dies or takes longer than it may
 */
export async function treatVoice({ voice, out, treatment, facts, apart }: TreatVoiceOrder): Promise<void> {
  const [filters, late] = filtersOf(treatment, facts.noise)
  const cleaned = filtered(createReadStream(voice) as Bytes, filters, late)
  // The network takes a processor for itself.
  const told = treatment.noise === 'learned' ? throughApart('denoise', cleaned, { ...apart, memory: MEMORY }) : cleaned
  const first = treatment.level ? `${out}.cleaned` : out
  try {
    await pipeline(Readable.from(told), createWriteStream(first, { mode: 0o600 }))
    if (treatment.level) await evened(first, voice, out)
  } finally {
    if (treatment.level) await rm(first, { force: true })
  }
}
