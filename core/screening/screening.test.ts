import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AS_RECORDED, PLAIN_FRAMING, asId } from '@core/model'
import type { Clip, Cue, Film, Framing, Piece, Programme } from '@core/model'
import { changeAtRandom, checkAgainstReference, clip, film, filmOf, randomTalk, slide, stretch, stroke } from '@core/testing'
import { indexFilm, sceneAt } from '@core/scene'
import type { DrawnStroke, FilmIndex, SlideView } from '@core/scene'
import { faceParts, filmForViewers } from '.'

const inkOf = (ink: readonly DrawnStroke[]) =>
  ink.map(({ stroke: { id, points, colour }, elapsed }) => ({
    id,
    colour,
    // A moment before it is whole it is drawn like one that is.
    elapsed: elapsed === null || Math.round(elapsed * 1000) === (points.at(-1)?.dt ?? 0) * 1000 ? null : Math.round(elapsed * 1000),
    points: points.filter((point) => elapsed === null || point.dt <= elapsed),
  }))
/** How a number is told: as it is, or as one that is the same to six digits. Rounded, two that differ by nothing may fall apart. */
type Told = (value: number) => unknown
const exact: Told = (value) => value
const near: Told = (value) => expect.closeTo(value, 6) as unknown

const viewOf = ({ shown, clips, ink, spot, stage, revealProgress }: SlideView, told: Told) => ({
  picture: shown?.picture ?? null,
  clips: clips.map(({ clip, at, playing }) => ({ clip: clip.id, at: told(at), playing })),
  ink: inkOf(ink),
  spot: spot === null ? null : [told(spot.x), told(spot.y)],
  stage,
  reveal: told(revealProgress),
})

/** All that is to be seen at a time. */
function seenAt(index: FilmIndex, at: number, told: Told) {
  const scene = sceneAt(index, at)
  if (scene === null) return null
  const { transition } = scene
  return {
    slide: scene.slide,
    ...viewOf(scene, told),
    face: scene.inset?.framing ?? null,
    transition: transition === null ? null : { ...transition, progress: told(transition.progress), from: viewOf(transition.from, told) },
  }
}
const expectSame = (whole: FilmIndex, at: number): void => {
  expect(seenAt(indexFilm(filmForViewers(whole)), at, exact)).toEqual(seenAt(whole, at, near))
}

/** A film of some parts of one recording. */
function filmOfParts(cues: readonly Cue[], parts: readonly (readonly [from: number, to: number])[], more: Partial<Film> = {}): Film {
  const [one, two] = [slide('one', 3, { notes: 'nobody else is to read this' }), slide('two', 3, { transition: 'fade' })]
  const base = film([one, two], [stretch('a', 20_000, one.id, cues)])
  const pieces = parts.map(([from, to], n): Piece => {
    const span = { stretch: asId<'stretch'>('a'), from, to, rate: AS_RECORDED }
    const shown = cues.filter((cue) => cue.kind === 'show' && cue.at <= from).at(-1)
    const on = shown?.kind === 'show' ? shown.slide : one.id
    return { kind: 'recorded', visit: asId(`v${String(n)}`), slide: on, show: span, voice: span, camera: span }
  })
  return { ...base, ...more, programme: { ...base.programme, pieces } }
}
const at = (cue: Cue): Cue => cue

describe('a film as viewers get it', () => {
  it('shows at every time what the film shows, however that was edited', () => {
    fc.assert(
      fc.property(fc.integer(), fc.double({ min: 0, max: 1, noNaN: true }), (seed, share) => {
        const talk = randomTalk(seed, { least: 12, most: 90 })
        for (let n = 0; n < 12; n += 1) if (changeAtRandom(talk) !== null) checkAgainstReference(talk)
        const whole = indexFilm(filmOf(talk))
        const viewers = indexFilm(filmForViewers(whole))
        expect(viewers.length).toBeCloseTo(whole.length, 6)
        for (const moment of [share, share / 2, 1 - share]) {
          const time = moment * whole.length
          expect(seenAt(viewers, time, exact)).toEqual(seenAt(whole, time, near))
        }
      }),
      { numRuns: 120 },
    )
  })

  it('comes in, is blank and shows the face as it does, also where a part begins in the middle of that', () => {
    const [one, two] = [asId<'slide'>('one'), asId<'slide'>('two')]
    const composition = { layout: 'points', theme: 'paper', heading: '', body: '', second: '', pictures: [], reveal: 'fade' } as const
    const cues = [
      at({ kind: 'show', at: 1000, slide: one, step: 1 }),
      at({ kind: 'inset', at: 3000, on: false }),
      at({ kind: 'inset', at: 4000, on: true }),
      at({ kind: 'blank', at: 5000, on: true }),
      at({ kind: 'blank', at: 6000, on: false }),
      at({ kind: 'point', at: 6500, path: [0, 500, 1000].map((dt) => ({ dt, x: dt / 1000, y: 0.5 })) }),
      at({ kind: 'show', at: 8000, slide: two, step: 0 }),
    ]
    const base = filmOfParts(cues, [
      [1100, 3500],
      [3600, 5500],
      [5700, 6800],
      [8000, 9000],
    ])
    const whole = indexFilm({ ...base, slides: new Map([...base.slides].map(([id, made]) => [id, { ...made, composition }])) })
    for (let time = 0; time < whole.length; time += 37) expectSame(whole, time)
    expect(faceParts(whole).map(({ from, to }) => [from, to])).toEqual([
      [1100, 3000],
      [4000, 5000],
      [6000, 6800],
      [8000, 9000],
    ])
  })

  it('points where it does, also where a part begins while a spot would go on that another took the place of', () => {
    const spot = (from: number, length: number, x: number): Cue =>
      at({ kind: 'point', at: from, path: [0, length].map((dt) => ({ dt, x, y: 0.5 })) })
    const whole = indexFilm(filmOfParts([spot(1000, 5000, 0.2), spot(2000, 1000, 0.8)], [[4000, 8000]]))
    expect(sceneAt(indexFilm(filmForViewers(whole)), 500)?.spot).toBeNull()
    for (const time of [0, 500, 1999, 2000, 3000]) expectSame(whole, time)
  })

  it('holds of windows that were recorded those that are seen whole, and no other', () => {
    const [seen, cut, gone] = ['seen', 'cut', 'gone'].map((name) => clip(name, 3000, { captured: true })) as [Clip, Clip, Clip]
    const starts = (window: Clip, at: number): Cue => ({ kind: 'clip', at, clip: window.id, place: 0, playing: true })
    const show = (at: number): Cue => ({ kind: 'show', at, slide: asId('two'), step: 0 })
    const cues = [
      starts(seen, 1000),
      show(4000),
      { ...show(6000), slide: asId<'slide'>('one') },
      starts(cut, 7000),
      show(9000),
      starts(gone, 15_000),
    ]
    const windows = (parts: Parameters<typeof filmOfParts>[1]) => {
      const base = filmOfParts(cues, parts)
      const slides = new Map([...base.slides.values()].map((one) => [one.id, { ...one, clips: one.id === 'one' ? [seen, cut, gone] : [] }]))
      const sent = filmForViewers(indexFilm({ ...base, slides }))
      return [...sent.slides.values()].flatMap((one) => one.clips ?? []).map(({ id }) => id)
    }
    expect(
      windows([
        [0, 4000],
        [6000, 8000],
        [8500, 9000],
      ]),
    ).toEqual(['seen'])
    expect(
      windows([
        [0, 2000],
        [2000, 4000],
        [6000, 9000],
      ]),
    ).toEqual(['seen', 'cut'])
  })

  it('holds nothing of what was cut, nor what is private', () => {
    const [one, two] = [asId<'slide'>('one'), asId<'slide'>('two')]
    const typed = (text: string, time: number): Cue => ({
      kind: 'ink',
      at: time,
      stroke: { ...stroke(text, one), tool: 'label', text },
    })
    const long = stroke('long', one, 4000)
    const drawn = { ...long, points: Array.from({ length: 41 }, (_, n) => ({ dt: n * 100, x: n / 50, y: 0.5, p: 0.5 })) }
    const cues = [
      typed('kept', 500),
      typed('cut away', 2500),
      at({ kind: 'erase', at: 2900, stroke: asId('cut away') }),
      at({ kind: 'ink', at: 3500, stroke: drawn }),
      at({ kind: 'show', at: 9000, slide: two, step: 0 }),
      typed('never played', 12_000),
    ]
    const base = filmOfParts(cues, [
      [0, 2000],
      [3000, 5000],
    ])
    const sent = filmForViewers(indexFilm(base))
    const text = JSON.stringify([sent.programme, [...sent.slides.values()], [...sent.stretches.values()]])
    expect(text).toContain('kept')
    for (const secret of ['cut away', 'never played', 'nobody else']) expect(text).not.toContain(secret)
    // As much of a stroke as was drawn, and the point it was on its way to.
    const [last] = [...sent.stretches.values()].slice(-1)
    const ink = last?.cues.find((cue) => cue.kind === 'ink' && cue.stroke.id === 'long')
    expect(ink?.kind === 'ink' ? ink.stroke.points.at(-1)?.dt : null).toBe(1500)
    // Steps that are never seen are not there, nor is the slide.
    expect([...sent.slides.keys()]).toEqual([one])
    expect(new Set(sent.slides.get(one)?.steps.map((shown) => JSON.stringify(shown.picture))).size).toBe(1)
  })

  it('plays clips as the film does, from wherever a part begins, and sends none that is never seen', () => {
    const one = slide('one', 3, { clips: [clip('early', 4000), clip('late', 4000, { step: 2 })] })
    const cues: Cue[] = [
      { kind: 'clip', at: 1000, clip: asId('early'), place: 0, playing: true },
      { kind: 'clip', at: 6000, clip: asId('early'), place: 3000, playing: false },
      { kind: 'show', at: 9000, slide: one.id, step: 2 },
    ]
    const base = filmOfParts(cues, [
      [0, 2000],
      [3500, 7000],
    ])
    const whole = indexFilm({ ...base, slides: new Map([...base.slides, [one.id, one]]) })
    for (let time = 100; time < 5500; time += 300) expectSame(whole, time)
    expect(filmForViewers(whole).slides.get(one.id)?.clips).toMatchObject([{ id: 'early', name: '' }])
  })

  it('keeps the face away where a visit has none', () => {
    const base = filmOfParts(
      [],
      [
        [0, 1000],
        [1000, 2000],
      ],
    )
    const off: Framing = { ...PLAIN_FRAMING, rect: { x: 0.7, y: 0.7, w: 0.2, h: 0.2 }, off: true }
    const framings: Programme['framings'] = { [asId<'visit'>('v1')]: off }
    const whole = indexFilm({ ...base, programme: { ...base.programme, framings } })
    expect(faceParts(whole)).toEqual([{ at: 0, length: 1000, stretch: asId('a'), from: 0, to: 1000 }])
    expectSame(whole, 1500)
  })
})
