import type { AudioCodec, Container, FileFacts, VideoCodec } from '@core/rules'

interface Playable {
  readonly type: string
  readonly pictures: readonly VideoCodec[]
  readonly sounds: readonly AudioCodec[]
}
/** What every browser plays of each container that any does. */
const PLAYABLE: Partial<Readonly<Record<Container, Playable>>> = {
  mp4: { type: 'video/mp4', pictures: ['h264'], sounds: ['aac', 'mp3'] },
  webm: { type: 'video/webm', pictures: ['vp8', 'vp9'], sounds: ['opus', 'vorbis'] },
  m4a: { type: 'audio/mp4', pictures: [], sounds: ['aac'] },
  mp3: { type: 'audio/mpeg', pictures: [], sounds: ['mp3'] },
  wav: { type: 'audio/wav', pictures: [], sounds: ['pcm'] },
}

/**
 * The type under which every browser plays a file in place.
 * @returns null when some do not: it is saved and played elsewhere
 */
export function playsAs({ container, video, audio }: Pick<FileFacts, 'container' | 'video' | 'audio'>): string | null {
  const playable = container === null ? undefined : PLAYABLE[container]
  if (playable === undefined) return null
  const isSeen = video === null || playable.pictures.some((codec) => codec === video.codec)
  const isHeard = audio === null || playable.sounds.some((codec) => codec === audio.codec)
  return isSeen && isHeard ? playable.type : null
}
