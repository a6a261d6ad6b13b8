import { availableParallelism } from 'node:os'
import { run } from '@render/process'

/** A recording as a browser makes one, of a moving test picture and a tone in noise. */
export async function recordingOf(seconds: number): Promise<Buffer> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `testsrc2=s=320x180:r=15:d=${String(seconds)}`,
    '-f',
    'lavfi',
    '-i',
    `anoisesrc=d=${String(seconds)}:a=0.1:c=pink`,
    '-c:v',
    'libvpx',
    '-deadline',
    'realtime',
    '-cpu-used',
    '8',
    '-b:v',
    '500k',
    '-threads',
    String(availableParallelism()),
    '-c:a',
    'libopus',
    '-b:a',
    '96k',
    '-f',
    'webm',
    'pipe:1',
  ])
  return stdout
}
