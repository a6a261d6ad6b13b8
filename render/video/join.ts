import { readFile, writeFile } from 'node:fs/promises'
import type { Chapter } from '@core/plan'
import { feed, start } from '@render/process'
import type { VideoFormat } from '@core/model'
import { CODECS } from './codec'

/** A made segment and how many of the film's frames come from it. */
export interface JoinPart {
  readonly file: string
  /** The file holds one group of a still picture, which is repeated as often as needed. */
  readonly still: boolean
  readonly frames: number
}

/** What a file says of itself. */
export interface FileNotes {
  readonly title: string
  /** Who speaks; empty when that was not said. */
  readonly artist: string
  readonly chapters: readonly Chapter[]
  /** A JPEG to be shown for it; null: none. */
  readonly cover: string | null
}

export interface JoinOrder {
  readonly format: VideoFormat
  readonly parts: readonly JoinPart[]
  /** A file of sound in the format's own codec, or null for a film without sound. */
  readonly sound: string | null
  readonly notes: FileNotes
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
export function metadata({ title, artist, chapters }: FileNotes): string {
  const entries = chapters.map(
    (chapter) =>
      `[CHAPTER]\nTIMEBASE=1/1000\nSTART=${String(Math.round(chapter.start))}\nEND=${String(Math.round(chapter.end))}` +
      `\ntitle=${escaped(chapter.title)}\n`,
  )
  return `;FFMETADATA1\ntitle=${escaped(title)}\n${artist === '' ? '' : `artist=${escaped(artist)}\n`}${entries.join('')}`
}

/**
 * Joins made segments and sound into one file without encoding again.
 * @throws ProcessFailed, or RangeError when a segment has fewer frames than are asked of it
 */
export async function joinFilm(order: JoinOrder): Promise<void> {
  const codec = CODECS[order.format]
  const notes = `${order.out}.chapters`
  await writeFile(notes, metadata(order.notes))
  const sound = order.sound === null ? [] : ['-protocol_whitelist', 'file,pipe', '-f', codec.sound, '-i', order.sound]
  const cover = codec.cover ? order.notes.cover : null
  const { child, done } = start(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      '-f',
      codec.stream,
      ...codec.input(order.rate),
      '-i',
      'pipe:0',
      '-protocol_whitelist',
      'file,pipe',
      '-f',
      'ffmetadata',
      '-i',
      notes,
      ...sound,
      ...(cover === null ? [] : ['-protocol_whitelist', 'file,pipe', '-f', 'mjpeg', '-i', cover]),
      '-map',
      '0:v',
      ...(order.sound === null ? [] : ['-map', '2:a']),
      ...(cover === null ? [] : ['-map', order.sound === null ? '2:v' : '3:v', '-disposition:v:1', 'attached_pic']),
      '-map_metadata',
      '1',
      '-map_chapters',
      '1',
      '-c',
      'copy',
      ...codec.output(order.rate),
      '-f',
      codec.container,
      '-y',
      order.out,
    ],
    { signal: order.signal },
  )
  let before = 0
  try {
    for (const part of order.parts) {
      const stream = await readFile(part.file)
      const offsets = codec.offsets(stream)
      if (before === 0 && !(await feed(child, codec.head(stream, order.rate)))) break
      const counts = part.still ? repetitions(part.frames, offsets.length) : [part.frames]
      for (const count of counts) {
        if (!(await feed(child, codec.first(stream, offsets, count, before)))) break
        before += count
      }
    }
  } finally {
    child.stdin?.end()
  }
  await done
}
