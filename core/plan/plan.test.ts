import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PLAIN_FRAMING, USUAL_RECIPE, asId } from '@core/model'
import type { Film, Framing } from '@core/model'
import { programmeLength, replaceFrom } from '@core/programme'
import { indexFilm } from '@core/scene'
import { SLIDES, anyStretches, film, slide, stretch, stroke } from '@core/testing'
import {
  GOP_FRAMES,
  bitsOfSegment,
  contentOfSegment,
  costOfSegment,
  estimate,
  frameAt,
  probeOf,
  probeSamples,
  probeSetting,
  renderPlan,
  runsOf,
  segmentsOf,
  voiceParts,
} from '.'

const RATE = 30
const one = asId<'slide'>('one')
const two = asId<'slide'>('two')

const keys = (of: Film): readonly string[] => {
  const index = indexFilm(of)
  return segmentsOf(index, RATE).map((segment) => contentOfSegment(segment, runsOf(index, segment, RATE), 'setting'))
}

describe('the frame grid', () => {
  it('never drifts: segments hold every frame of the film once, whatever their lengths', () => {
    fc.assert(
      fc.property(anyStretches, fc.constantFrom(24, 25, 30, 50, 60), (stretches, fps) => {
        const index = indexFilm(film(SLIDES, stretches))
        const segments = segmentsOf(index, fps)
        let next = 0
        for (const segment of segments) {
          expect(segment.firstFrame).toBe(next)
          next += segment.frames
          // The film takes all frames that are drawn, or all but one.
          expect(segment.drawn - segment.frames === 0 || segment.drawn - segment.frames === 1).toBe(true)
        }
        expect(next).toBe(frameAt(index.length, fps))
      }),
    )
  })

  it('draws as many frames for a segment as its runs say', () => {
    fc.assert(
      fc.property(anyStretches, (stretches) => {
        const index = indexFilm(film(SLIDES, stretches))
        for (const segment of segmentsOf(index, RATE)) {
          expect(runsOf(index, segment, RATE).reduce((sum, run) => sum + run.frames, 0)).toBe(segment.drawn)
        }
      }),
    )
  })
})

describe('what a part costs', () => {
  const planOf = (
    cues: Parameters<typeof stretch>[3],
    camera: boolean,
    more: Partial<typeof USUAL_RECIPE> = {},
    framing: Framing | null = null,
  ) =>
    renderPlan(
      indexFilm(
        film(
          SLIDES.map((each) => ({ ...each, framing })),
          [stretch('s', 8000, one, cues, { camera })],
        ),
      ),
      { ...USUAL_RECIPE, ...more },
    )
  const cost = (...of: Parameters<typeof planOf>): number => {
    const plan = planOf(...of)
    return plan.segments.reduce((sum, segment) => sum + costOfSegment(segment, plan), 0)
  }
  const tall = (h: number): Framing => ({ ...PLAIN_FRAMING, rect: { x: 0.1, y: 0.1, w: 0.2, h } })
  const low = tall(0.2)

  it('is far less where nothing moves, and grows with ink, with a taller face and with finer pictures', () => {
    const [bare, faced] = [cost([], false), cost([], true, {}, low)]
    expect(bare).toBeLessThan(faced / 3)
    expect(cost([{ kind: 'ink', at: 1000, stroke: stroke('k', one, 3000) }], true, {}, low)).toBeGreaterThan(faced * 1.3)
    expect(cost([], true, {}, tall(0.8))).toBeGreaterThan(faced * 1.5)
    expect(cost([], true, { lines: 2160 }, low)).toBeGreaterThan(faced * 2)
  })

  it('is that of all rows where those that move cannot be encoded apart from the others', () => {
    const faced = cost([], true, {}, low)
    for (const more of [
      { format: 'webm' as const },
      { bits: { kind: 'rate' as const, most: 3000 } },
      { size: { width: 1440, height: 1080, fit: 'bars' as const } },
    ]) {
      expect(cost([], true, more, low)).toBeGreaterThan(faced * 1.2)
    }
  })
})

describe('segments', () => {
  it('are two groups long when they move for longer, and a short rest is not cut off', () => {
    const index = indexFilm(film(SLIDES, [stretch('s', 25_000, one)]))
    for (const fps of [24, 25, 30, 50, 60]) {
      const segments = segmentsOf(index, fps)
      expect(segments.slice(0, -1).every(({ drawn }) => drawn === 2 * GOP_FRAMES)).toBe(true)
      expect(segments.at(-1)?.drawn ?? 0).toBeGreaterThan(1.4 * fps)
      expect(segments.reduce((sum, { drawn }) => sum + drawn, 0)).toBe(25 * fps)
    }
    expect(segmentsOf(index, 30).map(({ frames }) => frames)).toEqual([240, 240, 270])
  })

  it('hold still where nothing moves: without a camera only growing ink is drawn', () => {
    const bare = stretch('s', 60_000, one, [{ kind: 'ink', at: 20_000, stroke: stroke('k', one, 3000) }], { camera: false })
    const segments = segmentsOf(indexFilm(film(SLIDES, [bare])), RATE)
    expect(segments.map((segment) => [segment.kind, segment.frames])).toEqual([
      ['still', 600],
      ['moving', 90],
      ['still', 1110],
    ])
  })

  it('of a still picture really show one picture', () => {
    fc.assert(
      fc.property(anyStretches, (stretches) => {
        const index = indexFilm(
          film(
            SLIDES,
            stretches.map((part) => ({ ...part, camera: false })),
          ),
        )
        for (const segment of segmentsOf(index, RATE)) {
          if (segment.kind !== 'still') continue
          expect(runsOf(index, segment, RATE)).toHaveLength(1)
        }
      }),
    )
  })

  it('keep their keys when something before them becomes longer by an odd number of milliseconds', () => {
    const later = stretch('later', 50_000, two, [{ kind: 'ink', at: 4000, stroke: stroke('k', two, 700) }])
    const before = keys(film(SLIDES, [stretch('first', 10_000, one), later]))
    const after = keys(film(SLIDES, [stretch('again', 10_437, one), later]))
    const kept = after.filter((key) => before.includes(key)).length
    // The first is two parts long.
    expect(kept).toBe(before.length - 2)
  })

  it('change their keys when a stroke is removed, and when the camera is another', () => {
    const drawn = (name: string, ink: boolean) =>
      film(SLIDES, [stretch(name, 5000, one, ink ? [{ kind: 'ink', at: 1000, stroke: stroke('k', one, 700) }] : [])])
    expect(keys(drawn('s', true))).not.toEqual(keys(drawn('s', false)))
    expect(keys(drawn('s', true))).not.toEqual(keys(drawn('other', true)))
    expect(keys(drawn('s', true))).toEqual(keys(drawn('s', true)))
  })
})

describe('where the face moves', () => {
  const moving = film(
    [
      slide('one', 1, { framing: { ...PLAIN_FRAMING, rect: { x: 0, y: 0.5, w: 0.2, h: 0.3 } } }),
      slide('two', 1, { framing: { ...PLAIN_FRAMING, rect: { x: 0.7, y: 0.5, w: 0.2, h: 0.3 } } }),
    ],
    [stretch('s', 10_000, one, [{ kind: 'show', at: 4000, slide: two, step: 0 }])],
  )

  it('frames are drawn whole only while it does', () => {
    expect(segmentsOf(indexFilm(moving), RATE).map((segment) => [segment.kind, segment.frames])).toEqual([
      ['moving', 120],
      ['drawn', 12],
      ['moving', 168],
    ])
  })

  it('every frame shows it somewhere else', () => {
    const index = indexFilm(moving)
    const drawn = segmentsOf(index, RATE)[1]
    expect(drawn && runsOf(index, drawn, RATE).map((run) => run.frames)).toEqual(Array.from({ length: 12 }, () => 1))
  })
})

describe('the voice', () => {
  it('is one part where pieces continue each other, so that nothing is joined there', () => {
    const spoken = film(SLIDES, [stretch('a', 9000, one, [{ kind: 'show', at: 4000, slide: two, step: 0 }]), stretch('b', 3000, two)])
    expect(voiceParts(spoken.programme).map(({ stretch: of, from, to, at }) => [of, from, to, at])).toEqual([
      ['a', 0, 9000, 0],
      ['b', 0, 3000, 9000],
    ])
  })

  it('covers the programme without gap or overlap', () => {
    fc.assert(
      fc.property(anyStretches, (stretches) => {
        const { programme } = film(SLIDES, stretches)
        const parts = voiceParts(programme)
        let at = 0
        for (const part of parts) {
          expect(part.at).toBe(at)
          at += part.length
        }
        expect(at).toBe(programmeLength(programme))
      }),
    )
  })
})

describe('the plan', () => {
  it('names chapters after slides, one a visit', () => {
    const index = indexFilm(
      film(SLIDES, [
        stretch('a', 9000, one, [
          { kind: 'show', at: 4000, slide: two, step: 0 },
          { kind: 'show', at: 5000, slide: two, step: 1 },
          { kind: 'show', at: 7000, slide: one, step: 0 },
        ]),
      ]),
    )
    expect(renderPlan(index, { ...USUAL_RECIPE, lines: 720 }).chapters).toEqual([
      { title: 'one', start: 0, end: 4000 },
      { title: 'two', start: 4000, end: 7000 },
      { title: 'one', start: 7000, end: 9000 },
    ])
  })

  it("keeps the deck's shape in even pixels and expects more of larger and finer files", () => {
    const index = indexFilm({ ...film([slide('one')], [stretch('s', 20_000, one)]), shape: { width: 4, height: 3 } })
    const at = (lines: 480 | 1080, quality: 'small' | 'fine') => estimate(renderPlan(index, { ...USUAL_RECIPE, lines, quality }))
    expect(renderPlan(index, { ...USUAL_RECIPE, lines: 480 }).size).toEqual({ width: 640, height: 480 })
    expect(at(1080, 'fine').bytes).toBeGreaterThan(at(1080, 'small').bytes)
    expect(at(1080, 'small').time).toBeGreaterThan(at(480, 'small').time)
    // Where there is one picture to draw, it is the voice that takes its time.
    const sound = estimate(renderPlan(index, { ...USUAL_RECIPE, format: 'm4a' }))
    expect(at(480, 'small').time).toBeGreaterThanOrEqual(sound.time)
  })

  it('says what a file takes by what some of its pictures took, and how long by what this machine is known for', () => {
    const index = indexFilm(film(SLIDES, [stretch('a', 60_000, one, [{ kind: 'show', at: 20_000, slide: two, step: 0 }])]))
    const plan = renderPlan(index, { ...USUAL_RECIPE, lines: 720 })
    const samples = probeSamples(plan)
    expect(samples.length).toBeGreaterThan(0)
    for (const sample of samples) expect(sample.kind === 'still' || sample.drawn <= GOP_FRAMES).toBe(true)
    // Twice the bits that were reckoned, in three times the time.
    const made = samples.map((segment) => ({ bytes: bitsOfSegment(segment, plan) / 4, took: costOfSegment(segment, plan) * 3 * 2 * 1.2 }))
    const probe = probeOf(plan, samples, made, 2)
    for (const ratio of Object.values(probe.bits)) expect(ratio).toBeCloseTo(2)
    expect(probe.time).toBeCloseTo(3)
    const plain = estimate(plan)
    expect(estimate(plan, { slowness: null }, probe).bytes).toBeGreaterThan(plain.bytes * 1.3)
    expect(estimate(plan, { slowness: null }, probe).time / plain.time).toBeCloseTo(3, 2)
    // What its last files took counts for more.
    expect(estimate(plan, { slowness: 0.5 }, probe).time / plain.time).toBeCloseTo(0.5, 2)
    expect(
      probeOf(
        plan,
        samples,
        made.map(({ bytes }) => ({ bytes, took: 0 })),
        2,
      ).time,
    ).toBeNull()
  })

  it("is known by the same name however a recipe's parts are ordered, and by others for other pictures", () => {
    const plan = renderPlan(indexFilm(film(SLIDES, [stretch('s', 8000, one)])), USUAL_RECIPE)
    const name = (without: typeof USUAL_RECIPE.without, more: Partial<typeof plan> = {}): string =>
      probeSetting({ ...plan, ...more }, { without, timing: 'recorded' })
    expect(name({ voice: false, ink: false, face: true })).toBe(name({ face: true, ink: false, voice: false }))
    expect(name({ face: true, ink: false, voice: true })).toBe(name({ face: true, ink: false, voice: false }))
    const names = [
      name(USUAL_RECIPE.without),
      name({ ...USUAL_RECIPE.without, ink: true }),
      name(USUAL_RECIPE.without, { quality: 'fine' }),
      name(USUAL_RECIPE.without, { bits: { kind: 'rate', most: 900 } }),
    ]
    expect(new Set(names).size).toBe(names.length)
  })

  it('takes few samples, from all over the film, however long it is', () => {
    const index = indexFilm(
      film(SLIDES, [
        stretch(
          'a',
          600_000,
          one,
          Array.from({ length: 100 }, (_, n) => ({ kind: 'show' as const, at: 5000 + n * 5000, slide: n % 2 === 0 ? two : one, step: 0 })),
        ),
      ]),
    )
    const plan = renderPlan(index, { ...USUAL_RECIPE, lines: 720 })
    const samples = probeSamples(plan)
    expect(samples.length).toBeLessThanOrEqual(9)
    expect((samples.at(-1)?.firstFrame ?? 0) - (samples[0]?.firstFrame ?? 0)).toBeGreaterThan(plan.frames / 2)
  })

  it('of a talk recorded again from a time on keeps what came before', () => {
    const first = film(SLIDES, [stretch('a', 9000, one)])
    const programme = replaceFrom(first.programme, 4000, film(SLIDES, [stretch('b', 2000, two)]).programme.pieces, {})
    expect(programmeLength(programme)).toBe(6000)
  })
})
