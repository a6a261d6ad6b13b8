import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { GROUP } from '@core/plan'
import { run, start } from '@render/process'
import { codingOf, encoderArgs, frameOffsets } from '.'
import type { Coding } from './encoder'
import { withFrameNumber } from './frame-number'
import { headersOf } from './stream-headers'
import { SETTLED, lengthened, unchangedFrame } from './still-group'

const FRAME = { width: 426, height: 240 }
const RATE = 30
const CODINGS: Readonly<Record<string, Coding>> = { good: codingOf('mp4', 'good', { kind: 'free' }), bounded: codingOf('mp4', 'good', { kind: 'rate', most: 800 }), coarse: { format: 'mp4', crf: 36, most: null } }

/** A picture with much in it, that stays. */
async function still(coding: Coding): Promise<Buffer> {
  const { stdout } = await run('ffmpeg', [
    '-v', 'error', '-f', 'lavfi', '-i', `testsrc2=s=${String(FRAME.width)}x${String(FRAME.height)}:r=1:d=1,noise=alls=40,loop=loop=-1:size=1,setpts=N/30/TB`, '-frames:v', String(SETTLED), ...encoderArgs(coding, RATE, 1), '-f', 'h264', 'pipe:1',
  ])
  return stdout
}
/** What each frame of a stream looks like, as names that are equal for equal pictures; and what the decoder complained of. */
async function looks(stream: Buffer): Promise<{ readonly frames: readonly string[], readonly complaints: string }> {
  const { child, done } = start('ffmpeg', ['-v', 'warning', '-xerror', '-f', 'h264', '-i', 'pipe:0', '-fps_mode', 'passthrough', '-f', 'framemd5', 'pipe:1'])
  child.stdin?.end(stream)
  const { stdout, stderr } = await done
  return { frames: stdout.toString().split('\n').filter((line) => line !== '' && !line.startsWith('#')).map((line) => line.split(',').at(-1)?.trim() ?? ''), complaints: stderr }
}

let stream: Buffer
let unchanged: Buffer
const coding = codingOf('mp4', 'good', { kind: 'free' })
beforeAll(async () => {
  stream = await still(coding)
  unchanged = await unchangedFrame(FRAME, RATE, coding)
})

describe('a still group', () => {
  it.each(Object.entries(CODINGS))('stays exactly as its last frame is, however long it is made (%s)', async (_, coding) => {
    const made = await still(coding)
    const long = lengthened(made, await unchangedFrame(FRAME, RATE, coding), GROUP)
    const [short, seen] = [await looks(made), await looks(long)]
    expect(seen.complaints).toBe('')
    expect(seen.frames.length).toBe(GROUP)
    expect(seen.frames.slice(0, SETTLED)).toEqual(short.frames)
    expect(new Set(seen.frames.slice(SETTLED - 1)).size).toBe(1)
    // What is added takes next to nothing.
    expect((long.length - made.length) / (GROUP - SETTLED)).toBeLessThan(80)
  })

  it('can be followed by another, of which nothing is lost', async () => {
    const long = lengthened(stream, unchanged, 40)
    const { frames, complaints } = await looks(Buffer.concat([long, long, stream]))
    expect([frames.length, complaints]).toEqual([80 + SETTLED, ''])
    expect(frames.slice(40, 80)).toEqual(frames.slice(0, 40))
  })

  it('is as it was when it is long enough', () => {
    expect(lengthened(stream, unchanged, SETTLED).equals(stream)).toBe(true)
  })
})

describe('the number of a frame', () => {
  it('can be changed, and changed back, whatever it is', () => {
    const { numberBits: width } = headersOf(stream)
    fc.assert(fc.property(fc.nat({ max: 2 ** width - 1 }), (number) => {
      expect(withFrameNumber(withFrameNumber(unchanged, width, number), width, 1).equals(unchanged)).toBe(true)
    }))
  })

  it('is not looked for where there is none', () => {
    const [first = 0, second] = frameOffsets(stream)
    expect(() => withFrameNumber(stream.subarray(first, second), 4, 1)).toThrow(/needs another frame/)
    expect(() => headersOf(unchanged)).toThrow(/no headers/)
  })
})
