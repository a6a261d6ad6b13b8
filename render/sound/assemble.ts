import { open } from 'node:fs/promises'
import type { VoicePart } from '@core/plan'
import { start } from '@render/process'
import { BYTES_A_SAMPLE, SAMPLE_RATE, samplesOf } from './pcm'

/** Length of the fade at each end of a part: long enough that no step is heard, too short to swallow a sound. */
const FADE_MS = 8

function fadeEnds(samples: Int16Array): void {
  const fade = Math.min(samplesOf(FADE_MS), Math.floor(samples.length / 2))
  for (let n = 0; n < fade; n += 1) {
    // Equal power: two parts that meet keep the room's level.
    const gain = Math.sin((Math.PI / 2) * (n / fade))
    const last = samples.length - 1 - n
    samples[n] = Math.round((samples[n] ?? 0) * gain)
    samples[last] = Math.round((samples[last] ?? 0) * gain)
  }
}

async function readSamples(path: string, from: number, count: number): Promise<Int16Array> {
  const samples = new Int16Array(count)
  const file = await open(path)
  try {
    await file.read(Buffer.from(samples.buffer), 0, count * BYTES_A_SAMPLE, from * BYTES_A_SAMPLE)
  } finally {
    await file.close()
  }
  return samples
}

/** Plays samples faster or slower without changing the pitch. */
async function changeTempo(samples: Int16Array, tempo: number): Promise<Int16Array> {
  const format = ['-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1']
  const { child, done } = start('ffmpeg', ['-hide_banner', '-loglevel', 'error', ...format, '-i', 'pipe:0', '-af', `atempo=${String(tempo)}`, ...format, 'pipe:1'])
  child.stdin?.end(Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength))
  const { stdout } = await done
  return new Int16Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
}

/** Longest run of samples held at a time. */
const BLOCK_MS = 20_000

/**
 * The film's voice from its parts, with silence between them.
 * @param voiceOf finds the voice of a stretch
 * @param samples length of the whole
 * @returns blocks of samples in order; together exactly `samples`
 */
export async function* assembleVoice(parts: readonly VoicePart[], voiceOf: (stretch: string) => string, samples: number): AsyncGenerator<Int16Array> {
  let written = 0
  const silence = function* (until: number): Generator<Int16Array> {
    while (written < until) {
      const block = new Int16Array(Math.min(until - written, samplesOf(BLOCK_MS)))
      written += block.length
      yield block
    }
  }
  for (const part of parts) {
    yield* silence(Math.min(samplesOf(part.at), samples))
    const tempo = part.rate.num / part.rate.den
    const end = Math.min(samplesOf(part.at + part.length), samples)
    if (tempo === 1) {
      for (let from = written; from < end; from = written) {
        const length = Math.min(end - from, samplesOf(BLOCK_MS))
        const block = await readSamples(voiceOf(part.stretch), samplesOf(part.from) + from - samplesOf(part.at), length)
        const first = from === samplesOf(part.at)
        const last = from + length === end
        const whole = new Int16Array(block)
        fadeEnds(whole)
        // Only the part's own ends fade, not those of the blocks it is read in.
        const half = Math.floor(block.length / 2)
        if (!first) whole.set(block.subarray(0, half), 0)
        if (!last) whole.set(block.subarray(half), half)
        written += length
        yield whole
      }
    } else {
      const source = await readSamples(voiceOf(part.stretch), samplesOf(part.from), samplesOf(part.to - part.from))
      const played = new Int16Array(Math.max(0, end - written))
      played.set((await changeTempo(source, tempo)).subarray(0, played.length))
      fadeEnds(played)
      written += played.length
      yield played
    }
  }
  yield* silence(samples)
}
