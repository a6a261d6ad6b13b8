import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { run } from '@render/process'

/** Sentences said by a synthesiser, as a browser's recorder keeps them. @param sentences each after the other, with pauses between */
export async function saidRecording(
  sentences: readonly string[],
  voice = 'en-us',
): Promise<{ readonly media: Buffer; readonly length: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-said-'))
  try {
    const file = join(folder, 'said.wav')
    await run('espeak-ng', ['-v', voice, '-s', '150', '-w', file, sentences.join('\n\n')])
    const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-ar', '48000', '-c:a', 'libopus', '-f', 'webm', 'pipe:1'])
    const { stdout: seconds } = await run('ffprobe', ['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', file])
    return { media: stdout, length: Math.floor(Number(seconds.toString()) * 1000) - 20 }
  } finally {
    await rm(folder, { recursive: true })
  }
}

/** A recording of a sound that is no speech, as a browser's recorder keeps it. @param source as ffmpeg's `lavfi` makes it */
export async function soundRecording(source: string): Promise<Buffer> {
  const args = ['-f', 'lavfi', '-i', source, '-ar', '48000', '-c:a', 'libopus', '-f', 'webm', 'pipe:1']
  return (await run('ffmpeg', ['-v', 'error', ...args])).stdout
}
