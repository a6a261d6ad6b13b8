import { fadedAt } from '@core/plan'
import type { ClipPart } from '@core/plan'
import { PEAKS_A_SECOND, duckingOf, fromDb, musicDuckingOf } from '@core/voice'
import { clipSamples } from './clip-samples'
import { SAMPLE_RATE, samplesOf } from './pcm'
import { SampleReader } from './sample-reader'

/** Samples of the voice that decide one step of ducking. */
const STEP = SAMPLE_RATE / PEAKS_A_SECOND
/** A clip comes in and goes out over so many samples: no step is heard. */
const FADE = samplesOf(12)

/** The sound of a film or of a part of it. */
export interface MixOrder {
  readonly clips: readonly ClipPart[]
  /** Finds a clip's file by its digest. */
  readonly clipOf: (digest: string) => string | Promise<string>
  /** When in the film its first sample is, in ms: what is softer under speech is so by steps of the film's time, wherever a part begins. */
  readonly begins: number
}

/** The outline of the voice by steps of the film's time, and where the first whole step begins among its samples. */
class VoiceOutline {
  readonly peaks: number[] = []
  /** How far into its step the next sample is. */
  #into: number
  #most = 0
  /** How far into its step the first sample is. */
  readonly offset: number

  constructor(begins: number) {
    const first = samplesOf(begins) % STEP
    this.offset = first < 0 ? first + STEP : first
    this.#into = this.offset
  }

  take(block: Int16Array): void {
    for (const sample of block) {
      this.#most = Math.max(this.#most, Math.abs(sample))
      this.#into += 1
      if (this.#into < STEP) continue
      this.#end()
    }
  }

  end(): void {
    if (this.#into > 0) this.#end()
  }

  #end(): void {
    this.peaks.push(Math.min(255, Math.round(this.#most / 128)))
    this.#most = 0
    this.#into = 0
  }
}

/** How much softer something is at each sample. */
type Factor = (sample: number) => number

const LOUD: Factor = () => 1

/** How much softer clips and music are. */
interface Ducking {
  readonly clips: Factor
  readonly music: Factor
}

/** @param offset how far into the first of the steps the first sample is */
const factorOf = (decibels: Float32Array, offset: number): Factor => {
  const factors = decibels.map(fromDb)
  return (sample) => {
    // From the middle of one step to that of the next.
    const place = (sample + offset) / STEP - 0.5
    const step = Math.floor(place)
    const [before, after] = [factors[Math.max(0, step)] ?? 1, factors[Math.min(factors.length - 1, step + 1)] ?? 1]
    return before + (after - before) * (place - step)
  }
}

async function duckingUnder(voice: AsyncIterable<Int16Array>, begins: number, loudness: number | null): Promise<Ducking> {
  if (loudness === null) return { clips: LOUD, music: LOUD }
  const outline = new VoiceOutline(begins)
  for await (const block of voice) outline.take(block)
  outline.end()
  return {
    clips: factorOf(duckingOf(outline.peaks, loudness), outline.offset),
    music: factorOf(musicDuckingOf(outline.peaks, loudness), outline.offset),
  }
}

/** Samples between two for which it is reckoned how far music has come or gone. */
const FADE_STEP = 48

/** How far music has come or gone at a sample. */
const fadeOf = ({ music }: ClipPart): Factor => {
  if (music === undefined) return LOUD
  let [known, factor] = [-1, 1]
  return (sample) => {
    const step = Math.floor(sample / FADE_STEP)
    if (step !== known) [known, factor] = [step, fadedAt(music.fades, (step * FADE_STEP * 1000) / SAMPLE_RATE)]
    return factor
  }
}

const clamped = (sample: number): number => Math.max(-32_768, Math.min(32_767, Math.round(sample)))

/** A part of a clip while it is mixed in. */
class PlayedPart {
  readonly #part: ClipPart
  readonly #path: string
  readonly #factor: number
  readonly #fade: Factor
  /** Its samples in the film: where it begins, which may be before the first, and where it ends. */
  readonly #begin: number
  readonly #end: number
  #reader: SampleReader | null = null

  constructor(part: ClipPart, path: string) {
    this.#part = part
    this.#path = path
    this.#factor = fromDb(part.gain)
    this.#fade = fadeOf(part)
    this.#begin = samplesOf(part.at)
    this.#end = samplesOf(part.at + part.length)
  }

  /** Adds what of it lies in a block. @param first the block's first sample */
  async addTo(block: Int16Array, first: number, ducking: Ducking): Promise<void> {
    const [from, to] = [Math.max(first, this.#begin), Math.min(first + block.length, this.#end)]
    if (from >= to) return
    this.#reader ??= new SampleReader(clipSamples(this.#path, this.#part, ((from - this.#begin) * 1000) / SAMPLE_RATE))
    const samples = await this.#reader.read(to - from)
    const { music } = this.#part
    const besideMusic = music === undefined ? ducking.clips : ducking.music
    const ducked = music?.instead === true ? LOUD : besideMusic
    for (const [n, sample] of samples.entries()) {
      const at = from + n
      const edge = Math.min(1, (at - this.#begin) / FADE, (this.#end - at) / FADE)
      block[at - first] = clamped((block[at - first] ?? 0) + sample * this.#factor * edge * this.#fade(at) * ducked(at))
    }
    if (to === this.#end) await this.close()
  }

  /** Takes the voice out of a block where music is heard in its place, as far as that has come. */
  hush(block: Int16Array, first: number): void {
    if (this.#part.music?.instead !== true) return
    const [from, to] = [Math.max(first, this.#begin), Math.min(first + block.length, this.#end)]
    for (let at = from; at < to; at += 1) {
      const edge = Math.min(1, (at - this.#begin) / FADE, (this.#end - at) / FADE)
      block[at - first] = Math.round((block[at - first] ?? 0) * (1 - edge))
    }
  }

  async close(): Promise<void> {
    await this.#reader?.end()
  }
}

/**
 * Lays clips and music under a film's voice, softer while somebody speaks.
 * @param voice gives its samples from the first on each time it is asked
 * @returns blocks as the voice has them
 */
export async function* mixClips(voice: () => AsyncIterable<Int16Array>, { clips, clipOf, begins }: MixOrder): AsyncGenerator<Int16Array> {
  if (clips.length === 0) {
    yield* voice()
    return
  }
  const ducking = await duckingUnder(voice(), begins, clips[0]?.voice ?? null)
  const parts = await Promise.all(clips.map(async (part) => new PlayedPart(part, await clipOf(part.file))))
  let first = 0
  try {
    for await (const block of voice()) {
      for (const part of parts) part.hush(block, first)
      for (const part of parts) await part.addTo(block, first, ducking)
      first += block.length
      yield block
    }
  } finally {
    for (const part of parts) await part.close()
  }
}
