import { describe, expect, it } from 'vitest'
import { framesInWebm } from '@core/formats'
import { run } from '@render/process'

const film = async (args: readonly string[]): Promise<Uint8Array> =>
  (await run('ffmpeg', ['-v', 'error', ...args, '-f', 'webm', 'pipe:1'])).stdout

describe('pictures in a WebM file', () => {
  it('are counted, those of the sound left out, and also when it was broken off', async () => {
    const whole = await film([
      '-f',
      'lavfi',
      '-i',
      'testsrc=s=160x90:r=25:d=3',
      '-f',
      'lavfi',
      '-i',
      'sine=d=3',
      '-c:v',
      'libvpx',
      '-c:a',
      'libopus',
    ])
    expect(framesInWebm(whole)).toBe(75)
    const broken = framesInWebm(whole.subarray(0, Math.floor(whole.length / 2)))
    expect(broken).toBeGreaterThan(5)
    expect(broken).toBeLessThan(75)
  })

  it('are none in sound alone, in nothing, and in what is no such file', async () => {
    expect(framesInWebm(await film(['-f', 'lavfi', '-i', 'sine=d=1', '-c:a', 'libopus']))).toBe(0)
    expect(framesInWebm(new Uint8Array())).toBe(0)
    expect(framesInWebm(new TextEncoder().encode('no recording'))).toBe(0)
  })
})
