import { readFile } from 'node:fs/promises'
import { FACE_PART, FACE_PART_MS, SOUND_PART, SOUND_PART_MS, mainPlaylist, trackPlaylist } from '@core/screening'
import { codecOf } from '@render/screening'
import type { Screening } from '@server/domain'
import { nameOfMedia, screeningFile } from '@server/media'
import type { ScreeningMedia } from '@server/media'

/** What the face takes at most, in bits a second. */
const FACE_BANDWIDTH = 500_000

const lengthOf = (media: ScreeningMedia): number => {
  if (media.kind === 'sound') return (media.part.packets / SOUND_PART.packets) * SOUND_PART_MS
  return media.kind === 'face' ? (media.part.frames / FACE_PART.frames) * FACE_PART_MS : 0
}
const listed = (parts: readonly ScreeningMedia[]) => parts.map((media) => ({ file: nameOfMedia(media), length: lengthOf(media) }))

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
