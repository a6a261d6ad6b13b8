import { readFile, writeFile } from 'node:fs/promises'
import type { Chapter } from '@core/plan'
import { feed, start } from '@render/process'
import { firstFrames, frameOffsets } from './access-units'

/** Ticks a second of the film's time stamps: a whole number for each frame at all usual rates. */
const TIMESCALE = 90_000

/** A made segment and how many of the film's frames come from it. */
export interface JoinPart {
  readonly file: string
  /** The file holds one group of a still picture, which is repeated as often as needed. */
  readonly still: boolean
  readonly frames: number
}

export interface JoinOrder {
  readonly parts: readonly JoinPart[]
  /** AAC in MP4, or null for a film without sound. */
  readonly sound: string | null
  readonly chapters: readonly Chapter[]
  readonly title: string
  readonly rate: number
  readonly out: string
  readonly signal?: AbortSignal
}

/** Cuts how often a group is repeated so that no repetition is a single frame: two in a row that can be begun at would look like one. */
export function repetitions(frames: number, group: number): readonly number[] {
  const full = Math.floor(frames / group)
  const rest = frames % group
  const counts = Array.from({ length: full }, () => group)
  if (rest === 1 && full > 0 && group > 2) return [...counts.slice(1), group - 1, 2]
  return rest === 0 ? counts : [...counts, rest]
}

const escaped = (text: string): string => text.replace(/[=;#\\\n]/g, (sign) => `\\${sign}`)

/** Chapters in ffmpeg's own metadata format (ffmpeg-formats, section Metadata). */
function metadata(title: string, chapters: readonly Chapter[]): string {
  const entries = chapters.map((chapter) =>
    `[CHAPTER]\nTIMEBASE=1/1000\nSTART=${String(chapter.start)}\nEND=${String(chapter.end)}\ntitle=${escaped(chapter.title)}\n`)
  return `;FFMETADATA1\ntitle=${escaped(title)}\n${entries.join('')}`
}

/**
 * Joins made segments and sound into one MP4 without encoding again.
 * @throws ProcessFailed, or RangeError when a segment has fewer frames than are asked of it
 */
export async function joinFilm(order: JoinOrder): Promise<void> {
  const notes = `${order.out}.chapters`
  await writeFile(notes, metadata(order.title, order.chapters))
  const sound = order.sound === null ? [] : ['-protocol_whitelist', 'file,pipe', '-f', 'mov,mp4,m4a,3gp,3g2,mj2', '-i', order.sound]
  const { child, done } = start('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-nostats',
    '-f', 'h264', '-framerate', String(order.rate), '-i', 'pipe:0',
    '-protocol_whitelist', 'file,pipe', '-f', 'ffmetadata', '-i', notes, ...sound,
    '-map', '0:v', ...(order.sound === null ? [] : ['-map', '2:a']), '-map_metadata', '1', '-map_chapters', '1',
    '-c', 'copy', '-bsf:v', `setts=ts=N*${String(TIMESCALE / order.rate)}`, '-video_track_timescale', String(TIMESCALE),
    '-movflags', '+faststart', '-f', 'mp4', '-y', order.out,
  ], { signal: order.signal })
  try {
    for (const part of order.parts) {
      const stream = await readFile(part.file)
      const offsets = frameOffsets(stream)
      const counts = part.still ? repetitions(part.frames, offsets.length) : [part.frames]
      for (const count of counts) {
        if (!await feed(child, firstFrames(stream, offsets, count))) break
      }
    }
  } finally {
    child.stdin?.end()
  }
  await done
}
