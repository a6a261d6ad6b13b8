import { expect, it } from 'vitest'
import { AS_RECORDED, asId } from '@core/model'
import { FACE_PART, SOUND_PART, SOUND_PART_MS, faceMediaParts, mainPlaylist, soundParts, trackPlaylist } from '.'

it('lists parts with their lengths, and pictures with what they take beside the sound', () => {
  const track = trackPlaylist('head.mp4', [
    { file: 'a.m4s', length: 6144 },
    { file: 'b.m4s', length: 1237.333 },
  ])
  expect(track.split('\n')).toEqual([
    '#EXTM3U',
    '#EXT-X-VERSION:7',
    '#EXT-X-TARGETDURATION:7',
    '#EXT-X-PLAYLIST-TYPE:VOD',
    '#EXT-X-INDEPENDENT-SEGMENTS',
    '#EXT-X-MAP:URI="head.mp4"',
    '#EXTINF:6.144000,',
    'a.m4s',
    '#EXTINF:1.237333,',
    'b.m4s',
    '#EXT-X-ENDLIST',
    '',
  ])
  expect(mainPlaylist('sound.m3u8', [])).toContain('#EXT-X-STREAM-INF:BANDWIDTH=112000,CODECS="mp4a.40.2"\nsound.m3u8\n')
  const picture = { playlist: 'p.m3u8', bandwidth: 400_000, size: { width: 854, height: 480 }, frameRate: 30, codec: 'avc1.64001f' }
  expect(mainPlaylist('sound.m3u8', [picture])).toContain(
    '#EXT-X-STREAM-INF:BANDWIDTH=512000,CODECS="avc1.64001f,mp4a.40.2",RESOLUTION=854x480,FRAME-RATE=30.000,AUDIO="voice"\np.m3u8\n',
  )
})

it('divides a film so that its parts are as long as it, whatever that is', () => {
  const voice = { at: 0, length: 100_000, stretch: asId<'stretch'>('a'), from: 0, to: 100_000, playbackRate: AS_RECORDED, gain: 0 }
  const face = { at: 500, length: 99_000, stretch: asId<'stretch'>('a'), from: 0, to: 99_000 }
  for (const length of [1, 20, 6143.9, 6144, 6144.1, 18_000, 100_000]) {
    const packets = soundParts({ voice: [voice], clips: [] }, length).reduce((sum, part) => sum + part.packets, 0)
    expect((packets * SOUND_PART.packet * 1000) / SOUND_PART.sampleRate - length).toBeGreaterThanOrEqual(0)
    expect((packets * SOUND_PART.packet * 1000) / SOUND_PART.sampleRate - length).toBeLessThan(22)
    const frames = faceMediaParts([face], length).reduce((sum, part) => sum + part.frames, 0)
    expect(Math.abs((frames * 1000) / FACE_PART.frameRate - length)).toBeLessThan(34)
  }
  expect(faceMediaParts([], 5000)).toEqual([])
  expect(SOUND_PART_MS).toBe(6144)
})
