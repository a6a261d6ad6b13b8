import { readFile } from 'node:fs/promises'
import { REACH, alignmentOf, anchorOf } from '@core/voice'
import type { Alignment, SyncFingerprint } from '@core/voice'
import { RECORDING, run } from '@render/process'
import { filter, filtersText } from '@render/filters'
import { DECODE, SAMPLE_RATE } from './pcm'

/** A print of the microphone as it is kept. */
export interface FiledFingerprint {
  /** When its first sample was captured, in ms of the stretch. */
  readonly at: number
  readonly sampleRate: number
  /** Samples of 16 bits. */
  readonly path: string
}

const MS = 1000

async function readFingerprint({ at, sampleRate, path }: FiledFingerprint): Promise<SyncFingerprint> {
  const bytes = await readFile(path)
  const samples = new Int16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
  return { at, sampleRate, samples: Float32Array.from(samples, (sample) => sample / 32_768) }
}

/** A part of a recording's sound in the recording's own time: gaps kept as silence, the first time stamp obeyed. */
async function decodePart(raw: string, from: number, to: number): Promise<Float32Array> {
  const { stdout } = await run('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-nostats',
    ...RECORDING,
    '-i',
    raw,
    '-map',
    '0:a:0',
    '-af',
    filtersText([...DECODE, filter('atrim', [], { start: (from / MS).toFixed(4), end: (to / MS).toFixed(4) })]),
    '-ac',
    '1',
    '-ar',
    String(SAMPLE_RATE),
    '-f',
    'f32le',
    'pipe:1',
  ])
  return new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
}

/**
 * How a recording's sound lies to its stretch, by prints of the microphone that are found again in it.
 * @param raw the recording as it came
 * @returns null when none is found
 */
export async function alignSound(raw: string, prints: readonly FiledFingerprint[]): Promise<Alignment | null> {
  const anchors: { at: number; offset: number }[] = []
  for (const filed of prints) {
    const print = await readFingerprint(filed)
    const from = Math.max(0, print.at - REACH)
    const samples = await decodePart(raw, from, print.at + (print.samples.length / print.sampleRate) * MS + REACH)
    const offset = anchorOf(print, { from, sampleRate: SAMPLE_RATE, samples })
    if (offset !== null) anchors.push({ at: print.at, offset })
  }
  return alignmentOf(anchors)
}
