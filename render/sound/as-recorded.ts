import { randomUUID } from 'node:crypto'
import { rename, rm } from 'node:fs/promises'
import type { Refusal } from '@core/model'
import { BOUNDED, ProcessFailed } from '@render/process'
import { SAMPLE_RATE } from './pcm'

/** How `ffmpeg` and `ffprobe` open media that somebody brought: as the kind that it is, and nothing that it names. */
export const broughtInput = (demuxer: string, path: string): readonly string[] => [
  ...BOUNDED,
  ...['-hide_banner', '-loglevel', 'error', '-protocol_whitelist', 'file', '-f', demuxer, '-i', path],
]

/** What comes out is as if it had been spoken here: Opus in WebM, one channel, and nothing that the file says of itself. */
export const AS_RECORDED: readonly string[] = [
  ...['-nostats', '-map', '0:a:0', '-sn', '-dn', '-map_metadata', '-1', '-map_chapters', '-1'],
  ...['-ac', '1', '-ar', String(SAMPLE_RATE), '-c:a', 'libopus', '-b:a', '128k', '-f', 'webm', '-y'],
]

/**
 * Makes a file that is there whole or not at all.
 * @param make makes it under another name, and measures or refuses it
 * @param unreadable is thrown when a program that makes it fails
 */
export async function madeWhole<Made>(out: string, unreadable: () => Refusal, make: (part: string) => Promise<Made>): Promise<Made> {
  const part = `${out}.${randomUUID()}.part`
  try {
    const made = await make(part)
    await rename(part, out)
    return made
  } catch (error) {
    await rm(part, { force: true })
    if (error instanceof ProcessFailed) throw unreadable()
    throw error
  }
}
