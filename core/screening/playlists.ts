import type { Ms, Size } from '@core/model'

/*
 * Playlists of HTTP Live Streaming (RFC 8216): which parts there are, how long each is, and in which file it lies.
 */

/** A part as a playlist names it. */
export interface ListedPart {
  readonly file: string
  readonly length: Ms
}

const seconds = (ms: Ms): string => (ms / 1000).toFixed(6)

/** One track whose parts are all there, from its beginning to its end. @param header file that stands before every part */
export function trackPlaylist(header: string, parts: readonly ListedPart[]): string {
  const longest = Math.max(1000, ...parts.map(({ length }) => length))
  return [
    '#EXTM3U',
    '#EXT-X-VERSION:7',
    `#EXT-X-TARGETDURATION:${String(Math.ceil(longest / 1000))}`,
    '#EXT-X-PLAYLIST-TYPE:VOD',
    '#EXT-X-INDEPENDENT-SEGMENTS',
    `#EXT-X-MAP:URI="${header}"`,
    ...parts.flatMap(({ file, length }) => [`#EXTINF:${seconds(length)},`, file]),
    '#EXT-X-ENDLIST',
    '',
  ].join('\n')
}

/** A picture that can be chosen: how many bits a second it takes with its sound, and how it is coded (RFC 6381). */
export interface ListedPicture {
  readonly playlist: string
  readonly bandwidth: number
  readonly size: Size
  readonly frameRate: number
  readonly codec: string
}

/** A film's own playlist, which names its file so until that has a name. */
export const FILE_IN_PLAYLIST = '{file}'

/** AAC-LC, in the words of RFC 6381. */
const AAC = 'mp4a.40.2'
/** What the sound alone takes, in bits a second, with what its parts are wrapped in. */
const SOUND_BANDWIDTH = 112_000

/** What can be played: a sound, and pictures to choose from that go with it, if there are any. */
export function mainPlaylist(sound: string, pictures: readonly ListedPicture[]): string {
  const head = ['#EXTM3U', '#EXT-X-VERSION:7', '#EXT-X-INDEPENDENT-SEGMENTS']
  if (pictures.length === 0)
    return [...head, `#EXT-X-STREAM-INF:BANDWIDTH=${String(SOUND_BANDWIDTH)},CODECS="${AAC}"`, sound, ''].join('\n')
  return [
    ...head,
    `#EXT-X-MEDIA:TYPE=AUDIO,GROUP-ID="voice",NAME="Voice",DEFAULT=YES,AUTOSELECT=YES,URI="${sound}"`,
    ...pictures.flatMap(({ playlist, bandwidth, size, frameRate, codec }) => [
      `#EXT-X-STREAM-INF:BANDWIDTH=${String(Math.round(bandwidth + SOUND_BANDWIDTH))},CODECS="${codec},${AAC}",` +
        `RESOLUTION=${String(size.width)}x${String(size.height)},FRAME-RATE=${frameRate.toFixed(3)},AUDIO="voice"`,
      playlist,
    ]),
    '',
  ].join('\n')
}
