import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Clip, Cue } from '@core/model'
import { clip, film, recorded, slide, still, stretch } from '@core/testing'
import { capturedInVisit, clipRuns, indexFilm, pictureOfClip, sceneAt } from '.'

const CLIP = clip('c', 2000)
const ROUND = clip('r', 3000, { from: 500, to: 1500, loop: true })
const start = (of: Clip, at: number, place = 0, playing = true): Cue => ({ kind: 'clip', at, clip: of.id, place, playing })

function filmWith(clips: readonly Clip[], cues: readonly Cue[]) {
  const [one, two] = [slide('one', 3, { clips }), slide('two')]
  return indexFilm(film([one, two], [stretch('s', 10_000, one.id, cues)]))
}

describe('clips on a slide', () => {
  it('stand at their beginning, play when they are started, halt, and keep their last picture', () => {
    const index = filmWith([CLIP], [start(CLIP, 1000), start(CLIP, 1800, 800, false), start(CLIP, 3000, 800)])
    const at = (time: number) => sceneAt(index, time)?.clips.map((one) => [one.at, one.playing])[0]
    expect([500, 1000, 1500, 2500, 3500, 4200, 9000].map(at)).toEqual([
      [0, false],
      [0, true],
      [500, true],
      [800, false],
      [1300, true],
      [2000, false],
      [2000, false],
    ])
  })

  it('begin again and again where they are to, within the part that is played', () => {
    const index = filmWith([ROUND], [start(ROUND, 0)])
    expect([0, 400, 1000, 2600].map((time) => sceneAt(index, time)?.clips[0]?.at)).toEqual([500, 900, 500, 1100])
  })

  it('come with their step and end with their slide', () => {
    const later = clip('l', 5000, { step: 1 })
    const cues: Cue[] = [
      { kind: 'show', at: 1000, slide: asId('one'), step: 1 },
      start(later, 1200),
      { kind: 'show', at: 2000, slide: asId('two'), step: 0 },
      { kind: 'show', at: 3000, slide: asId('one'), step: 1 },
    ]
    const index = filmWith([later], cues)
    expect(sceneAt(index, 500)?.clips).toEqual([])
    expect(sceneAt(index, 1500)?.clips[0]).toMatchObject({ at: 300, playing: true })
    expect(sceneAt(index, 3500)?.clips[0]).toMatchObject({ at: 0, playing: false })
  })

  it('that were recorded from a window are seen where a recording plays them, and nowhere else', () => {
    const window = clip('w', 3000, { captured: true })
    const cues: Cue[] = [
      start(window, 1000),
      { kind: 'show', at: 3000, slide: asId('two'), step: 0 },
      { kind: 'show', at: 5000, slide: asId('one'), step: 0 },
    ]
    const index = filmWith([window, clip('other', 3000, { captured: true })], cues)
    expect([500, 1500, 3500, 5500].map((at) => sceneAt(index, at)?.clips.map((one) => [one.clip.id, one.at]))).toEqual([
      [],
      [['w', 500]],
      [],
      [],
    ])
    const visits = index.film.programme.pieces.map(({ visit }) => visit)
    expect(visits.map((visit) => capturedInVisit(index.film, visit).map(({ id }) => id))[0]).toEqual(['w'])
  })

  it('play by themselves where a slide is held without a recording', () => {
    const base = film([slide('one', 1, { clips: [clip('own', 2000, { start: 'step' }), CLIP] })], [])
    const index = indexFilm({ ...base, programme: { ...base.programme, pieces: [still('v', asId('one'), 5000)] } })
    expect(sceneAt(index, 700)?.clips.map((one) => [one.at, one.playing])).toEqual([
      [700, true],
      [0, false],
    ])
  })

  it('are played in runs that are what is seen at every moment, at any rate and after any cut', () => {
    const anyCues = fc.array(fc.tuple(fc.nat(9000), fc.nat(2500), fc.boolean(), fc.boolean()), { maxLength: 8 })
    fc.assert(
      fc.property(anyCues, fc.nat(9000), fc.integer({ min: 300, max: 6000 }), fc.constantFrom(1, 2), (events, from, length, num) => {
        const cues = events
          .map(([at, place, playing, round]) => start(round ? ROUND : CLIP, at, place, playing))
          .sort((a, b) => a.at - b.at)
        const one = slide('one', 1, { clips: [CLIP, ROUND] })
        const base = film([one], [stretch('s', 10_000, one.id, cues)])
        const piece = recorded('v', one.id, from, Math.min(10_000, from + length), { num, den: 1 })
        const index = indexFilm({ ...base, programme: { ...base.programme, pieces: [piece] } })
        const runs = clipRuns(index, 0)
        for (let time = 0.5; time < index.length; time += 37) {
          const seen = sceneAt(index, time)?.clips.filter((shown) => shown.playing) ?? []
          const heard = runs.filter((run) => run.from <= time && time < run.to)
          expect(heard.map((run) => run.clip.id).sort()).toEqual(seen.map((shown) => shown.clip.id).sort())
          for (const run of heard)
            expect(seen.find((shown) => shown.clip.id === run.clip.id)?.at).toBeCloseTo(run.at + (time - run.from) * num, 2)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('have their pictures at whole frames, the last of the part that is played to stay', () => {
    expect([0, 39, 40, 80.0001, 1999, 2000, 9000].map((at) => pictureOfClip(CLIP, at))).toEqual([0, 0, 1, 2, 49, 49, 49])
    expect(pictureOfClip({ ...CLIP, to: 1000 }, 1000)).toBe(24)
    expect(pictureOfClip({ ...CLIP, from: 1990, to: 2000 }, 0)).toBe(0)
  })
})
