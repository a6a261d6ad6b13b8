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
  /** What is said, as WebVTT, and its language as ISO 639-3 says it; null: none. */
  readonly captions: { readonly file: string; readonly language: string } | null
  readonly fps: number
  readonly out: string
  readonly signal?: AbortSignal
}

/** Cuts how often a group is repeated so that no repetition is a single frame: two in a row that can be begun at would look like one. */
function repetitions(frames: number, group: number): readonly number[] {
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

const DIRECT = ['-protocol_whitelist', 'file,pipe'] as const

/** The picture shown for a file; null where its format has no place for one, or there is none. */
const coverOf = ({ format, notes }: Pick<JoinOrder, 'format' | 'notes'>): string | null => (CODECS[format].cover ? notes.cover : null)

/** What is read: the pictures from a pipe, notes, and sound and a cover where there are any. */
function joinInputs({ format, sound, notes, captions, fps }: JoinOrder, notesFile: string): readonly string[] {
  const codec = CODECS[format]
  const pictures = ['-f', codec.stream, ...codec.input(fps), '-i', 'pipe:0']
  const said = [...DIRECT, '-f', 'ffmetadata', '-i', notesFile]
  const heard = sound === null ? [] : [...DIRECT, '-f', codec.sound, '-i', sound]
  const cover = coverOf({ format, notes })
  const shown = cover === null ? [] : [...DIRECT, '-f', 'mjpeg', '-i', cover]
  const read = captions === null ? [] : [...DIRECT, '-f', 'webvtt', '-i', captions.file]
  return [...pictures, ...said, ...heard, ...shown, ...read]
}

/** Which streams of those go into the file. */
function joinedStreams({ format, sound, notes, captions }: JoinOrder): readonly string[] {
  const covered = coverOf({ format, notes }) !== null
  const read = 2 + (sound === null ? 0 : 1) + (covered ? 1 : 0)
  return [
    '-map',
    '0:v',
    ...(sound === null ? [] : ['-map', '2:a']),
    ...(covered ? ['-map', sound === null ? '2:v' : '3:v', '-disposition:v:1', 'attached_pic'] : []),
    ...(captions === null ? [] : ['-map', `${String(read)}:s`, '-metadata:s:s:0', `language=${captions.language}`]),
    '-map_metadata',
    '1',
    '-map_chapters',
    '1',
  ]
}

/** All pictures in order, as a stream. */
async function* joinedPictures({ format, parts, fps }: JoinOrder): AsyncGenerator<Buffer> {
  const codec = CODECS[format]
  let before = 0
  for (const { file, still, frames } of parts) {
    const stream = await readFile(file)
    const offsets = codec.offsets(stream)
    if (before === 0) yield codec.head(stream, fps)
    for (const count of still ? repetitions(frames, offsets.length) : [frames]) {
      yield codec.first(stream, offsets, count, before)
      before += count
    }
  }
}

/**
 * Joins made segments and sound into one file without encoding again.
 * @throws ProcessFailed, or RangeError when a segment has fewer frames than are asked of it
 */
export async function joinFilm(order: JoinOrder): Promise<void> {
  const codec = CODECS[order.format]
  const notes = `${order.out}.chapters`
  await writeFile(notes, metadata(order.notes))
  const { child, done } = start(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...joinInputs(order, notes),
      ...joinedStreams(order),
      '-c',
      'copy',
      ...(order.captions === null ? [] : ['-c:s', codec.captions]),
      ...codec.output(order.fps),
      '-f',
      codec.container,
      '-y',
      order.out,
    ],
    { signal: order.signal },
  )
  try {
    for await (const part of joinedPictures(order)) if (!(await feed(child, part))) break
  } finally {
    child.stdin?.end()
  }
  await done
}
