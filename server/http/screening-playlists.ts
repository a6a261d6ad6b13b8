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
const FILM = /^film(-(?<lines>\d{1,5}))?\.(?<ending>mp4|m3u8)$/

/** What of a talk as a film is meant: a file or a playlist, of its pictures in so many lines; null: of all of it. */
export interface FilmPart {
  readonly lines: number | null
  readonly ending: 'mp4' | 'm3u8'
}

/** What of a talk as a film a name means; null when nothing of it. */
export function filmPartOf(name: string): FilmPart | null {
  const groups = FILM.exec(name)?.groups
  if (groups === undefined) return null
  const { lines, ending } = groups
  return { lines: lines === undefined ? null : Number(lines), ending: ending === 'mp4' ? 'mp4' : 'm3u8' }
}

/** Playlist of a talk as a film, of all of it or of its pictures in so many lines; null: there is none. */
export function filmPlaylist(lines: number | null, tracks: readonly StreamTrack[]): string | null {
  if (lines === null) {
    const pictures = tracks.map(({ bandwidth, width, height, frame_rate: frameRate, codec, ...track }) => ({
      playlist: filmName(track.lines, 'm3u8'),
      bandwidth,
      size: { width, height },
      frameRate,
      codec,
    }))
    return pictures.length === 0 ? null : mainPlaylist('sound.m3u8', pictures)
  }
  const track = tracks.find((one) => one.lines === lines)
  return track === undefined ? null : track.playlist.replaceAll(FILE_IN_PLAYLIST, filmName(lines, 'mp4'))
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
