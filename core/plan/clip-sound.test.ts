import { describe, expect, it } from 'vitest'
import { AS_RECORDED, asId } from '@core/model'
import type { Piece } from '@core/model'
import { indexFilm } from '@core/scene'
import { clip, film, slide, stretch } from '@core/testing'
import { clipParts, segmentsOf } from '.'

const CLIP = clip('c', 3000, { from: 1000, gain: -4 })
const one = slide('one', 1, { clips: [CLIP] })
const base = film(
  [one],
  [stretch('s', 10_000, one.id, [{ kind: 'clip', at: 4000, clip: CLIP.id, place: 0, playing: true }], { camera: false, loudness: -26 })],
)

describe('the sound of clips', () => {
  it('lies where they are played, as loud as the voices and what was said besides', () => {
    expect(clipParts(indexFilm(base))).toEqual([
      { at: 4000, length: 2000, file: CLIP.media.file, from: 1000, to: 3000, playbackRate: AS_RECORDED, gain: -10, voice: -26 },
    ])
  })

  it('goes with what is shown: cut, faster, and not where it has none', () => {
    const span = { stretch: asId<'stretch'>('s'), from: 4500, to: 8000, rate: { num: 2, den: 1 } }
    const pieces: Piece[] = [{ kind: 'recorded', visit: asId<'visit'>('v'), slide: one.id, show: span, voice: null, camera: null }]
    const faster = indexFilm({ ...base, programme: { ...base.programme, pieces } })
    expect(clipParts(faster)).toMatchObject([{ at: 0, length: 750, from: 1500, to: 3000, playbackRate: span.rate }])
    const mute = { ...CLIP, media: { ...CLIP.media, sound: false } }
    expect(clipParts(indexFilm({ ...base, slides: new Map([[one.id, { ...one, clips: [mute] }]]) }))).toEqual([])
  })
})

describe('a film with a clip', () => {
  it('moves only while that plays: what stands still costs no more than before', () => {
    const kinds = segmentsOf(indexFilm(base), 30).map(({ kind, from, to }) => [kind, from, to])
    expect(kinds).toEqual([
      ['still', 0, 4000],
      ['moving', 4000, 6000],
      ['still', 6000, 10_000],
    ])
  })
})
