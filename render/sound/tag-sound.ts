import { run } from '@render/process'
import type { Format } from '@core/model'
import { SOUND_CODECS } from './sound-codec'

export interface TagOrder {
  readonly format: Extract<Format, 'm4a' | 'mp3' | 'wav'>
  /** The sound as it was made. */
  readonly sound: string
  /** What the file says of itself, in ffmpeg's own metadata format. */
  readonly notes: string
  /** A JPEG to be shown for it; null: none. */
  readonly cover: string | null
  readonly out: string
  readonly signal?: AbortSignal
}

/** Makes a file of sound alone: what was made, with its title, its chapters and a picture as far as the format has places for them. */
export async function tagSound({ format, sound, notes, cover, out, signal }: TagOrder): Promise<void> {
  const { container } = SOUND_CODECS[format]
  const pictured = cover !== null && format !== 'wav'
  const only = ['-protocol_whitelist', 'file,pipe']
  await run(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...only,
      '-i',
      sound,
      ...only,
      '-f',
      'ffmetadata',
      '-i',
      notes,
      ...(pictured ? [...only, '-f', 'mjpeg', '-i', cover] : []),
      '-map',
      '0:a',
      ...(pictured ? ['-map', '2:v', '-disposition:v', 'attached_pic'] : []),
      '-map_metadata',
      '1',
      '-map_chapters',
      format === 'wav' ? '-1' : '1',
      '-c',
      'copy',
      ...(format === 'mp3' ? ['-id3v2_version', '3'] : []),
      ...(format === 'm4a' ? ['-movflags', '+faststart'] : []),
      '-f',
      container,
      '-y',
      out,
    ],
    { signal },
  )
}
