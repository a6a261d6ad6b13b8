import { readFile } from 'node:fs/promises'
import { FACE_PART, FACE_PART_MS, FILE_IN_PLAYLIST, SOUND_PART, SOUND_PART_MS, mainPlaylist, trackPlaylist } from '@core/screening'
import { codecOf } from '@render/video'
import type { NamedMedia, Screening, StreamTrack } from '@server/domain'
import { nameOfMedia, screeningFile } from '@server/media'
import type { ScreeningMedia } from '@server/media'

/** What the face takes at most, in bits a second. */
const FACE_BANDWIDTH = 500_000

const lengthOf = (media: ScreeningMedia): number => {
  if (media.kind === 'sound') return (media.part.packets / SOUND_PART.packets) * SOUND_PART_MS
  return media.kind === 'face' ? (media.part.frames / FACE_PART.frames) * FACE_PART_MS : 0
}
const listed = (parts: readonly NamedMedia[]) => parts.map(({ name, media }) => ({ file: name, length: lengthOf(media) }))

/** Name of the file, or of the playlist, that holds a talk as a film of so many lines. */
const filmName = (lines: number, ending: 'mp4' | 'm3u8'): string => `film-${String(lines)}.${ending}`
const FILM = /^film-(\d+)\.(mp4|m3u8)$/

/** Which track of a film a name means; null when it means none. */
function filmTrack(name: string, tracks: readonly StreamTrack[]): StreamTrack | null {
  const lines = Number(FILM.exec(name)?.[1])
  return tracks.find((track) => track.lines === lines) ?? null
}

/** Playlists of a talk as a film, by their names; null: there is none of that name. */
export function filmPlaylist(name: string, tracks: readonly StreamTrack[]): string | null {
  if (name === 'film.m3u8' && tracks.length > 0) {
    const pictures = tracks.map(({ lines, bandwidth, width, height, frame_rate: frameRate, codec }) => ({
      playlist: filmName(lines, 'm3u8'),
      bandwidth,
      size: { width, height },
      frameRate,
      codec,
    }))
    return mainPlaylist('sound.m3u8', pictures)
  }
  const track = name.endsWith('.m3u8') ? filmTrack(name, tracks) : null
  return track === null ? null : track.playlist.replaceAll(FILE_IN_PLAYLIST, filmName(track.lines, 'mp4'))
}

/** Playlists of a screening, by their names; null: there is none of that name. */
export async function screeningPlaylist(name: string, { sound, face, faceSize }: Screening): Promise<string | null> {
  switch (name) {
    case 'main.m3u8': {
      if (faceSize === null) return mainPlaylist('sound.m3u8', [])
      const codec = codecOf(await readFile(await screeningFile({ kind: 'face-header', size: faceSize })))
      const picture = { playlist: 'face.m3u8', bandwidth: FACE_BANDWIDTH, size: faceSize, frameRate: FACE_PART.frameRate, codec }
      return mainPlaylist('sound.m3u8', [picture])
    }
    case 'sound.m3u8':
      return trackPlaylist(nameOfMedia({ kind: 'sound-header' }), listed(sound))
    case 'face.m3u8':
      return faceSize === null ? null : trackPlaylist(nameOfMedia({ kind: 'face-header', size: faceSize }), listed(face))
    default:
      return null
  }
}
