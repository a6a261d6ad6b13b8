import { run } from '@render/process'
import { SAMPLE_RATE } from './pcm'

/**
 * Packs a sound as speech in Opus, one channel, in WebM: what listens to every word needs little.
 * @param sound as it was made for a film
 * @param bitRate in bits a second
 */
export async function packSpeech(sound: string, bitRate: number, out: string, signal: AbortSignal): Promise<void> {
  await run(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-nostats', '-protocol_whitelist', 'file,pipe', '-i', sound],
      ...['-map', '0:a', '-map_metadata', '-1', '-ac', '1', '-c:a', 'libopus', '-b:a', String(bitRate)],
      ...['-application', 'voip', '-frame_duration', '60', '-f', 'webm', '-y', out],
    ],
    { signal },
  )
}

/** Bits a second of a voice that somebody compares with its recording. */
const COMPARED = 96_000

/** Packs the voice of a stretch for a browser, in Opus and WebM, in time with its recording. @param voice samples of 16 bits */
export async function packVoice(voice: string, out: string): Promise<void> {
  const input = ['-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', voice]
  const packed = ['-c:a', 'libopus', '-b:a', String(COMPARED), '-cues_to_front', '1', '-f', 'webm', '-y', out]
  await run('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-nostats', ...input, ...packed])
}
