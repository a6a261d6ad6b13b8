import { rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { cpus } from 'node:os'
import { run } from '@render/process'
import { codingOf, encoderArgs } from '@render/video'
import { deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import { medianPair } from './pairs'
import type { Figure } from './figure'

/** How much of the finished film is laid out as ready-made frames for the bare encoder, in seconds: 3 MB a frame. */
const PART = 30
/**
 * How often each is done, in turn: the machine's speed changes meanwhile, so each export is held against the encoder's run that follows
 * it.
 */
const ROUNDS = 3
const MOST = 0.75

/** How long the bare encoder takes for a film's frames, with all processors, in ms. */
async function encodedBare(file: string, length: number): Promise<number> {
  const raw = join(process.env['AISLE_DATA'] ?? '', 'ready.yuv')
  let bare = 0
  for (let from = 0; from < length / 1000; from += PART) {
    await run('ffmpeg', [
      '-v',
      'error',
      '-ss',
      String(from),
      '-i',
      file,
      '-t',
      String(PART),
      '-an',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-y',
      raw,
    ])
    const began = performance.now()
    await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-s',
      '1920x1080',
      '-framerate',
      '30',
      '-i',
      raw,
      ...encoderArgs(codingOf('mp4', 'good', { kind: 'free' }), 30, cpus().length),
      '-f',
      'h264',
      '-y',
      '/dev/null',
    ])
    bare += performance.now() - began
  }
  rmSync(raw)
  return bare
}

/** The whole export of a talk with camera at 1080 lines against the bare encoder on ready-made frames of the same film. */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    const [exports, bares]: [number[], number[]] = [[], []]
    let [filmMs, bytes] = [0, 0]
    for (let round = 0; round < ROUNDS; round += 1) {
      await forgetParts()
      const {
        took,
        file,
        facts: { length },
      } = await deliverNow(talk, {})
      exports.push(Math.round(took))
      bares.push(Math.round(await encodedBare(file, length)))
      filmMs = length
      bytes = statSync(file).size
    }
    const { value, ratios, noise } = medianPair(exports, bares)
    return {
      value,
      unit: 'x',
      target: `${String(MOST)} or less, the median of ${String(ROUNDS)} pairs in turn`,
      ok: value <= MOST,
      detail: { ratios, noise, exportMs: exports, bareMs: bares, filmMs, bytes, threads: cpus().length },
    }
  } finally {
    end()
  }
}
