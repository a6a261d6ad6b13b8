import { open, readFile } from 'node:fs/promises'
import { REACH, alignmentOf, anchorOf } from '@core/voice'
import type { Alignment, SyncFingerprint } from '@core/voice'
import { BYTES_A_SAMPLE, SAMPLE_RATE, samplesOf } from './pcm'

/** A print of the microphone as it is kept. */
export interface FiledFingerprint {
  /** When its first sample was captured, in ms of the stretch. */
  readonly at: number
  readonly sampleRate: number
  /** Samples of 16 bits. */
  readonly path: string
}

const MS = 1000

/** Samples of 16 bits as numbers from -1 to 1. */
const floating = (samples: Int16Array): Float32Array => Float32Array.from(samples, (sample) => sample / 32_768)

async function readFingerprint({ at, sampleRate, path }: FiledFingerprint): Promise<SyncFingerprint> {
  const bytes = await readFile(path)
  const samples = new Int16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
  return { at, sampleRate, samples: floating(samples) }
}

/** A part of a recording's sound in the recording's own time, as much of it as there is. */
async function partOf(decoded: string, from: number, to: number): Promise<Float32Array> {
  const file = await open(decoded)
  try {
    const samples = new Int16Array(samplesOf(to - from))
    const { bytesRead } = await file.read(new Uint8Array(samples.buffer), 0, samples.byteLength, samplesOf(from) * BYTES_A_SAMPLE)
    return floating(samples.subarray(0, Math.floor(bytesRead / BYTES_A_SAMPLE)))
  } finally {
    await file.close()
  }
}

/**
 * How a recording's sound lies to its stretch, by prints of the microphone that are found again in it.
 * @param decoded its sound in its own time; see `decodeRecording`
 * @returns null when none is found
 */
export async function alignSound(decoded: string, prints: readonly FiledFingerprint[]): Promise<Alignment | null> {
  const anchors: { at: number; offset: number }[] = []
  for (const filed of prints) {
    const print = await readFingerprint(filed)
    const from = Math.max(0, print.at - REACH)
    const samples = await partOf(decoded, from, print.at + (print.samples.length / print.sampleRate) * MS + REACH)
    const offset = anchorOf(print, { from, sampleRate: SAMPLE_RATE, samples })
    if (offset !== null) anchors.push({ at: print.at, offset })
  }
  return alignmentOf(anchors)
}
