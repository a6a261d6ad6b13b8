import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { paintSpeaker } from '@core/practice'
import type { PaintContext } from '@core/paint'
import { feed, run, start } from '@render/process'
import { SAMPLE_RATE, samplesOf } from '@render/sound'
import type { DemoCue, DemoStretch } from '../talk-file'
import { handPoints } from './handwriting'
import type { SlidePlan } from './take-plan'

const SIZE = { width: 960, height: 540 }
const RATE = 30
/** Silence before a slide's first word and after its last, in ms. */
const BREATH = { before: 400, after: 1100 }
/** How much slower than its own pace the synthesiser speaks; what is drawn keeps step with it. */
const PACE = 1.18

/** Says a text with the synthesiser. @returns 48 kHz samples */
export async function say(text: string, folder: string): Promise<Int16Array> {
  const file = join(folder, 'said.wav')
  await run('flite', ['-voice', 'slt', '--setf', `duration_stretch=${String(PACE)}`, '-t', text, '-o', file])
  const { stdout } = await run('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-i',
    file,
    '-af',
    'volume=-4dB',
    '-ar',
    String(SAMPLE_RATE),
    '-ac',
    '1',
    '-f',
    's16le',
    'pipe:1',
  ])
  return new Int16Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
}

export const quiet = (ms: number): Int16Array => {
  // Room tone, so that silence is a room's and not a machine's.
  let seed = 7
  return Int16Array.from({ length: samplesOf(ms) }, () => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return Math.round((seed / 2_147_483_648 - 0.5) * 24)
  })
}

function joined(blocks: readonly Int16Array[]): Int16Array {
  const all = new Int16Array(blocks.reduce((sum, block) => sum + block.length, 0))
  let at = 0
  for (const block of blocks) {
    all.set(block, at)
    at += block.length
  }
  return all
}

/** Draws the speaker to the voice and encodes both as a browser's recorder would. */
async function film(voice: Int16Array, out: string, folder: string): Promise<void> {
  const raw = join(folder, 'voice.raw')
  writeFileSync(raw, Buffer.from(voice.buffer, voice.byteOffset, voice.byteLength))
  const canvas = createCanvas(SIZE.width, SIZE.height)
  const ctx: PaintContext<Canvas> = canvas.getContext('2d')
  const { child, done } = start('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    '-s',
    `${String(SIZE.width)}x${String(SIZE.height)}`,
    '-r',
    String(RATE),
    '-i',
    'pipe:0',
    '-f',
    's16le',
    '-ar',
    String(SAMPLE_RATE),
    '-ac',
    '1',
    '-i',
    raw,
    '-map',
    '0:v',
    '-map',
    '1:a',
    '-c:v',
    'libvpx',
    '-b:v',
    '260k',
    '-crf',
    '16',
    '-g',
    '100',
    '-deadline',
    'good',
    '-cpu-used',
    '3',
    '-pix_fmt',
    'yuv420p',
    '-c:a',
    'libopus',
    '-b:a',
    '40k',
    '-f',
    'webm',
    '-y',
    out,
  ])
  const frames = Math.ceil((voice.length / SAMPLE_RATE) * RATE)
  for (let frame = 0; frame < frames; frame += 1) {
    const from = Math.floor((frame * SAMPLE_RATE) / RATE)
    const loud = voice.subarray(from, from + SAMPLE_RATE / RATE).reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
    paintSpeaker(ctx, SIZE, (frame * 1000) / RATE, Math.min(1, loud / 16_000))
    const { data } = canvas.getContext('2d').getImageData(0, 0, SIZE.width, SIZE.height)
    await feed(child, Buffer.from(data.buffer, data.byteOffset, data.byteLength))
  }
  child.stdin?.end()
  await done
}

/** Makes one stretch of the demo take: its file, and the cues that go with it. */
export async function makeStretch(
  plans: readonly SlidePlan[],
  notes: readonly string[],
  name: string,
  folder: string,
  scratch: string,
): Promise<DemoStretch> {
  const blocks: Int16Array[] = []
  const cues: DemoCue[] = []
  let at = 0
  for (const [n, plan] of plans.entries()) {
    const spoken = await say(notes[plan.slide] ?? '', scratch)
    if (n > 0) cues.push({ kind: 'show', at, slide: plan.slide, step: 0 })
    cues.push(
      ...plan.steps.map((time, step): DemoCue => ({ kind: 'show', at: at + Math.round(time * PACE), slide: plan.slide, step: step + 1 })),
    )
    cues.push(
      ...plan.strokes.map((stroke): DemoCue => ({
        kind: 'ink',
        at: at + Math.round(stroke.at * PACE),
        slide: plan.slide,
        colour: stroke.colour,
        width: stroke.width,
        points: handPoints(stroke),
      })),
    )
    blocks.push(quiet(BREATH.before), spoken, quiet(BREATH.after))
    at += BREATH.before + Math.round((spoken.length / SAMPLE_RATE) * 1000) + BREATH.after
  }
  const voice = joined(blocks)
  await film(voice, join(folder, name), scratch)
  return {
    file: name,
    length: Math.floor((voice.length / SAMPLE_RATE) * 1000),
    opening: plans[0]?.slide ?? 0,
    cues: cues.sort((a, b) => a.at - b.at),
  }
}
