import { run } from '@render/process'

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
