import { open, readFile, rm } from 'node:fs/promises'
import { basename } from 'node:path'
import { FILE_IN_PLAYLIST } from '@core/screening'
import { run } from '@render/process'
import { codecOf } from './codec-of'

/** How long parts are at least, in s: as long as what can be begun at lies apart. */
const PART = 4

/** A track of pictures as a stream: one file, and where each part lies in it. */
export interface StreamTrackMade {
  /** Names the file by its last name, as it was to be written. */
  readonly playlist: string
  /** Most bits a second that a part takes. */
  readonly bandwidth: number
  /** In the words of RFC 6381. */
  readonly codec: string
}

/** Most bits a second of any part. @param playlist with the length and the bytes of each */
export function mostBandwidth(playlist: string): number {
  const lengths = [...playlist.matchAll(/#EXTINF:([\d.]+),/g)].map(([, length]) => Number(length))
  const bytes = [...playlist.matchAll(/#EXT-X-BYTERANGE:(\d+)@\d+/g)].map(([, count]) => Number(count))
  return Math.ceil(Math.max(1, ...lengths.map((length, n) => ((bytes[n] ?? 0) * 8) / Math.max(0.1, length))))
}

/** Bytes that a file begins with, in which its header is. */
const HEAD = 4096

/**
 * Makes a stream of a file of pictures without encoding again: fragmented MP4 (CMAF) in one file that is read part by part.
 * @param pictures an MP4 of H.264 alone
 * @param out where the stream's file is written
 */
export async function makeStreamTrack(pictures: string, out: string): Promise<StreamTrackMade> {
  const list = `${out}.m3u8`
  try {
    await run('ffmpeg', [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      '-protocol_whitelist',
      'file,pipe',
      '-i',
      pictures,
      '-map',
      '0:v:0',
      '-c',
      'copy',
      '-f',
      'hls',
      '-hls_time',
      String(PART),
      '-hls_playlist_type',
      'vod',
      '-hls_segment_type',
      'fmp4',
      '-hls_flags',
      'single_file+independent_segments',
      '-hls_segment_filename',
      out,
      '-y',
      list,
    ])
    const playlist = (await readFile(list, 'utf8')).replaceAll(basename(out), FILE_IN_PLAYLIST)
    const file = await open(out)
    try {
      const { buffer } = await file.read(Buffer.alloc(HEAD), 0, HEAD, 0)
      return { playlist, bandwidth: mostBandwidth(playlist), codec: codecOf(buffer) }
    } finally {
      await file.close()
    }
  } finally {
    await rm(list, { force: true })
  }
}
