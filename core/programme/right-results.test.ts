import { describe, expect, it } from 'vitest'
import { AS_RECORDED, EMPTY_PROGRAMME, PLAIN_FRAMING, USUAL_RECIPE, asId } from '@core/model'
import type { Cue, Film, Programme, Stretch, VisitId } from '@core/model'
import { indexFilm, revisited, roomToShift, sceneAt } from '@core/scene'
import { pausesOf } from '@core/pace'
import { partOf, renderPlan, voiceParts } from '@core/plan'
import { SLIDES, film, slide, stretch, stroke } from '@core/testing'
import {
  applyProgrammeEdit,
  dub,
  piecesOfTake,
  placeTake,
  programmeLength,
  reopen,
  retakeRange,
  retakeVisit,
  seamsOf,
  useRecording,
  visitsOf,
  withoutStretches,
} from '.'
import type { ProgrammeEdit } from '.'

const [one, two, three] = [asId<'slide'>('one'), asId<'slide'>('two'), asId<'slide'>('three')]
const edited = (programme: Programme, ...edits: readonly ProgrammeEdit[]): Programme => edits.reduce(applyProgrammeEdit, programme)
const inkAt = (made: Film, programme: Programme, t: number): readonly string[] =>
  (sceneAt(indexFilm({ ...made, programme }), t)?.ink ?? []).map((drawn) => String(drawn.stroke.id))
const takeOf = (kind: 'full' | 'retake' | 'dub', ...stretches: readonly Stretch[]) => ({ id: asId<'take'>('take'), kind, stretches })
const withStretches = (made: Film, ...more: readonly Stretch[]): Film => ({
  ...made,
  stretches: new Map([...made.stretches, ...more.map((each) => [each.id, each] as const)]),
})
const [SLOWER, FASTER] = [
  { num: 19, den: 20 },
  { num: 21, den: 20 },
]
const show = (at: number, on: typeof one, step = 0): Cue => ({ kind: 'show', at, slide: on, step })
const idOf = (programme: Programme, n: number): VisitId => visitsOf(programme)[n]?.id ?? asId('none')

describe('a voice spoken over a talk with a tempo', () => {
  it('is heard as it was spoken, once, from its beginning to its end', () => {
    const made = film(SLIDES, [stretch('s', 180_000, one, [show(60_000, two), show(120_000, three)])])
    const fast = edited(made.programme, { kind: 'tempo', visits: [], rate: FASTER })
    const length = programmeLength(fast)
    const spoken = dub(fast, 0, [{ id: asId('d'), length: Math.ceil(length), camera: false }])
    expect(programmeLength(spoken)).toBe(length)
    expect(voiceParts(spoken)).toMatchObject([{ stretch: 'd', from: 0, at: 0, playbackRate: AS_RECORDED }])
    expect(voiceParts(spoken)[0]?.length).toBeCloseTo(180_000 / 1.05, 0)
    expect(voiceParts(spoken)[0]?.to).toBe(Math.round(180_000 / 1.05))
  })
})

describe('a take of which nothing counts', () => {
  it('changes nothing, whatever it was meant for', () => {
    const { programme } = film(SLIDES, [stretch('s', 9000, one, [show(4000, two)])])
    const nothing = takeOf('full', stretch('gone', 5000, one, [], { kept: 0 }))
    const visit = idOf(programme, 0)
    for (const intent of [
      { kind: 'replaceAll' },
      { kind: 'append' },
      { kind: 'replaceFrom', at: 100 },
      { kind: 'retake', visit },
      { kind: 'range', visit, from: 0, to: 900 },
      { kind: 'dub', at: 0 },
    ] as const) {
      expect(placeTake(programme, intent, nothing, SLIDES)).toBe(programme)
    }
  })
})

describe('many cuts', () => {
  it('of one recording, front to back, keep short names, open again, and make a small programme', () => {
    const { programme } = film(SLIDES, [stretch('5f0c9a5e-0f0a-4c46-9b59-0a43ad40d2d1', 3_600_000, one)])
    let now = programme
    for (let n = 0; n < 500; n += 1) now = edited(now, { kind: 'cut', parts: [{ from: 1000 + n * 1000, to: 1400 + n * 1000 }] })
    const seams = seamsOf(now)
    expect(seams).toHaveLength(500)
    for (const { id } of seams) expect(id.length).toBeLessThan(80)
    expect(JSON.stringify(now).length).toBeLessThan(600_000)
    for (const { id } of seams) now = reopen(now, id)
    expect(now.pieces).toEqual(programme.pieces)
  })

  it('of five thousand pauses are one edit', () => {
    const { programme } = film(SLIDES, [stretch('s', 10_800_000, one)])
    const parts = Array.from({ length: 5000 }, (_, n) => ({ from: 500 + n * 2000, to: 900 + n * 2000 }))
    const began = performance.now()
    const cut = edited(programme, { kind: 'cut', parts })
    expect(performance.now() - began).toBeLessThan(2000)
    expect(programmeLength(cut)).toBe(10_800_000 - 5000 * 400)
  })
})

describe('at a slower tempo', () => {
  const made = film(SLIDES, [stretch('s', 60_000, one, [show(20_000, two), show(40_000, three)])])
  const slow = edited(made.programme, { kind: 'tempo', visits: [], rate: { num: 1, den: 2 } })

  it('a cut takes what was chosen, to a millisecond of the recording, and nothing beside it', () => {
    for (let from = 1; from < 60_000; from += 4999) {
      const cut = edited(slow, { kind: 'cut', parts: [{ from, to: from + 5001 }] })
      expect(Math.abs(programmeLength(slow) - programmeLength(cut) - 5001)).toBeLessThanOrEqual(2)
    }
  })

  it('a part of the talk is as long as was asked, and none is refused', () => {
    for (let n = 0; n < 2000; n += 1) {
      const [from, to] = [(n * 37) % 90_000, ((n * 37) % 90_000) + 1 + ((n * 613) % 30_000)]
      const part = partOf(slow, { kind: 'range', from, to: to + 3 })
      expect(Math.abs(programmeLength(part) - (Math.min(to + 3, 120_000) - from))).toBeLessThanOrEqual(2)
    }
  })

  it('a chapter begins where its slide does', () => {
    const odd = edited(made.programme, { kind: 'tempo', visits: [], rate: SLOWER })
    expect(renderPlan(indexFilm({ ...made, programme: odd }), USUAL_RECIPE).chapters.map(({ start }) => start)).toEqual(
      [0, 20_000 / 0.95, 40_000 / 0.95].map((time) => expect.closeTo(time, 6)),
    )
  })
})

describe('saying a part again', () => {
  it('looks for silence in what counts alone', () => {
    const { programme } = film(SLIDES, [stretch('s', 9000, one)])
    const stretches = [stretch('first', 4000, one, [], { kept: 0 }), stretch('second', 3000, one)]
    const free = (id: string) => (id === 'first' ? [{ from: 0, to: 3500 }] : [])
    const placed = placeTake(
      programme,
      { kind: 'range', visit: idOf(programme, 0), from: 2000, to: 4000 },
      takeOf('retake', ...stretches),
      SLIDES,
      free,
    )
    expect(programmeLength(placed)).toBe(9000 - 2000 + 3000)
    expect(seamsOf(placed)).toEqual([])
  })

  it("keeps the framing of the visit's rest where it turned to another slide", () => {
    const { programme } = film(SLIDES, [stretch('s', 9000, one)])
    const off = { ...PLAIN_FRAMING, rect: { x: 0, y: 0, w: 0.2, h: 0.3 }, off: true }
    const framed = edited(programme, { kind: 'framing', visits: [idOf(programme, 0)], framing: off })
    const again = piecesOfTake(takeOf('retake', stretch('r', 2000, one, [show(1000, two)])))
    const placed = retakeRange(framed, idOf(framed, 0), 3000, 5000, again, {})
    expect(visitsOf(placed).map(({ id }) => placed.framings[id]?.off ?? false)).toEqual([true, false, true])
  })
})

describe('one visit', () => {
  it('stands in one place, whatever was cut, moved and opened', () => {
    const { programme } = film(SLIDES, [stretch('s', 9000, one, [show(3000, two), show(6000, three)])])
    const headCut = edited(programme, { kind: 'cut', parts: [{ from: 3000, to: 4000 }] })
    const moved = edited(headCut, { kind: 'move', visit: idOf(headCut, 1), before: null })
    const [seam] = seamsOf(moved)
    expect(seam?.visit).toBe(idOf(moved, 2))
    const opened = reopen(moved, seam!.id)
    expect(visitsOf(opened).map(({ slide: on, length }) => [on, length])).toEqual([
      [one, 3000],
      [three, 3000],
      [two, 3000],
    ])
  })

  it('that is said again leaves a cut slide beside it where it waits', () => {
    const { programme } = film(SLIDES, [stretch('s', 9000, one, [show(3000, two), show(6000, three)])])
    const dropped = edited(programme, { kind: 'drop', visits: [idOf(programme, 1)] })
    const again = retakeVisit(dropped, idOf(dropped, 0), piecesOfTake(takeOf('retake', stretch('r', 500, one))), {})
    const [seam] = seamsOf(again)
    expect(visitsOf(reopen(again, seam!.id)).map(({ slide: on }) => on)).toEqual([one, two, three])
  })

  it('whose recording waits in a cut gets another name when that is taken up', () => {
    const take = takeOf('full', stretch('s', 9000, one, [show(3000, two), show(6000, one)]))
    const { programme } = film(SLIDES, take.stretches)
    const dropped = edited(programme, { kind: 'drop', visits: [idOf(programme, 0)] })
    const used = useRecording(dropped, idOf(dropped, 1), piecesOfTake(take).slice(0, 1), 'n')
    const opened = reopen(used, seamsOf(used)[0]!.id)
    expect(new Set(visitsOf(opened).map(({ id }) => id)).size).toBe(visitsOf(opened).length)
    expect(visitsOf(opened).map(({ length }) => length)).toEqual([3000, 3000, 3000])
  })
})

describe('a discarded take', () => {
  it('is gone from cuts inside cuts too', () => {
    const made = film(SLIDES, [stretch('s', 4000, one), stretch('t', 4000, two), stretch('u', 4000, three)])
    const inner = edited(made.programme, { kind: 'cut', parts: [{ from: 5000, to: 6000 }] })
    const outer = edited(inner, { kind: 'cut', parts: [{ from: 3000, to: 8000 }] })
    const gone = withoutStretches(outer, new Set(['t']))
    let opened = gone
    for (let [seam] = seamsOf(opened); seam !== undefined; [seam] = seamsOf(opened)) opened = reopen(opened, seam.id)
    expect(visitsOf(opened).map(({ slide: on, length }) => [on, length])).toEqual([
      [one, 4000],
      [three, 4000],
    ])
  })
})

describe('a voice from a file', () => {
  it('goes with all that its visit showed: what was cut has happened, and what was drawn in Review is there', () => {
    const steps = slide('one', 4)
    const made = film(
      [steps],
      [
        stretch('s', 10_000, one, [
          show(2000, one, 1),
          { kind: 'ink', at: 3000, stroke: stroke('cut ink', one, 200) },
          { kind: 'blank', at: 3500, on: true },
          show(4500, one, 2),
          show(8000, one, 3),
        ]),
      ],
    )
    const visit = idOf(made.programme, 0)
    const drawn = edited(made.programme, {
      kind: 'draw',
      ink: { visit, over: { kind: 'stretch', id: asId('s') }, at: 6500, stroke: stroke('added', one, 300) },
    })
    const cut = edited(drawn, { kind: 'cut', parts: [{ from: 2500, to: 5000 }] })
    const shown = revisited({ ...made, programme: cut }, visitsOf(cut)[0]!, 7500)
    expect(
      shown?.cues.map((cue) => {
        if (cue.kind === 'show') return [cue.kind, cue.at, cue.step]
        if (cue.kind === 'ink') return [cue.kind, cue.at, cue.stroke.id]
        return [cue.kind, cue.at, cue.kind === 'blank' ? cue.on : null]
      }),
    ).toEqual([
      ['show', 2000, 1],
      ['show', 2500, 2],
      ['blank', 2500, true],
      ['ink', 2500, 'cut ink'],
      ['ink', 4000, 'added'],
      ['show', 5500, 3],
    ])
  })
})

describe('ink that was added in Review', () => {
  const over = (of: string, at: number, name: string) => ({
    kind: 'draw' as const,
    ink: { visit: asId<'visit'>('s.0'), over: { kind: 'stretch' as const, id: asId<'stretch'>(of) }, at, stroke: stroke(name, one) },
  })

  it('is not seen in a part that was said again before it was drawn, and only once in one that opened with it', () => {
    const again = stretch('r', 5000, one, [], { opening: { slide: one, step: 0, blank: false, inset: true, ink: [stroke('early', one)] } })
    const made = withStretches(film(SLIDES, [stretch('s', 60_000, one)]), again)
    const drawn = edited(made.programme, over('s', 2000, 'early'), over('s', 50_000, 'late'))
    const placed = retakeRange(drawn, asId('s.0'), 10_000, 20_000, piecesOfTake(takeOf('retake', again)), {})
    expect(inkAt(made, placed, 12_000)).toEqual(['early'])
    expect(inkAt(made, placed, 40_000)).toEqual(['early'])
    expect(inkAt(made, placed, 46_000)).toEqual(['early', 'late'])
  })

  it('goes on over a pause until it is wiped there', () => {
    const made = film(SLIDES, [stretch('s', 4000, one), stretch('t', 4000, one, [{ kind: 'wipe', at: 2000, slide: one }])])
    const drawn = edited(made.programme, over('s', 1000, 'k'))
    expect([3000, 5000, 6500].map((t) => inkAt(made, drawn, t).length)).toEqual([1, 1, 0])
  })

  it('that is deleted is deleted too where another recording opened with it', () => {
    const again = stretch('r', 5000, one, [], { opening: { slide: one, step: 0, blank: false, inset: true, ink: [stroke('k', one)] } })
    const made = withStretches(film(SLIDES, [stretch('s', 20_000, one)]), again)
    const placed = retakeRange(
      edited(made.programme, over('s', 1000, 'k')),
      asId('s.0'),
      10_000,
      12_000,
      piecesOfTake(takeOf('retake', again)),
      {},
    )
    const gone = edited(placed, { kind: 'ink', visit: asId('s.0'), strokes: [asId('k')], change: { kind: 'delete' } })
    expect([inkAt(made, placed, 11_000), inkAt(made, gone, 11_000), inkAt(made, gone, 5000)]).toEqual([['k'], [], []])
  })

  it('on a held slide stays where it was drawn after a cut, at another tempo elsewhere, in a part of the talk and shown once more', () => {
    const made = film(SLIDES, [stretch('s', 4000, one)])
    const held = edited(made.programme, { kind: 'insert', slide: two, version: 1, length: 8000, before: null, name: 'held' })
    const [still] = held.pieces.flatMap((piece) => (piece.kind === 'still' ? [piece.still] : []))
    const drawn = edited(held, {
      kind: 'draw',
      ink: { visit: asId('held'), over: { kind: 'still', id: still! }, at: 3000, stroke: stroke('k', two) },
    })
    expect([6900, 7100].map((t) => inkAt(made, drawn, t).length)).toEqual([0, 1])
    const cut = edited(drawn, { kind: 'cut', parts: [{ from: 4500, to: 5500 }] })
    expect([5900, 6100].map((t) => inkAt(made, cut, t).length)).toEqual([0, 1])
    const fast = edited(cut, { kind: 'tempo', visits: [], rate: { num: 2, den: 1 } })
    expect([3900, 4100].map((t) => inkAt(made, fast, t).length)).toEqual([0, 1])
    const part = partOf(drawn, { kind: 'range', from: 8000, to: 10_000 })
    expect(inkAt(made, part, 500)).toEqual(['k'])
    const twice = edited(cut, { kind: 'repeat', visit: asId('held'), before: null, name: 'x' })
    expect([12_900, 13_100].map((t) => inkAt(made, twice, t).length)).toEqual([0, 1])
    // It was cut, and can be held for as long as is wanted all the same.
    expect(programmeLength(edited(cut, { kind: 'hold', visit: asId('held'), length: 9000 }))).toBe(13_000)
  })

  it('is no pause, and Fit does not cut it away', () => {
    const made = film(SLIDES, [stretch('s', 10_000, one)])
    const peaks = { s: Array.from({ length: 200 }, (_, n) => (n < 20 || n >= 180 ? 120 : 0)) }
    const drawn = edited(made.programme, {
      kind: 'draw',
      ink: { visit: asId('s.0'), over: { kind: 'stretch', id: asId('s') }, at: 4000, stroke: stroke('k', one, 1000) },
    })
    expect(pausesOf(made, peaks)).toHaveLength(1)
    expect(pausesOf({ ...made, programme: drawn }, peaks).map(({ from, to }) => [from, to])).toEqual([
      [1150, 3800],
      [5200, 8850],
    ])
  })

  it("drawn later stops before it is wiped, and drawn earlier at its recording's beginning, however often it is asked", () => {
    const made = film(SLIDES, [
      stretch('s', 10_000, one, [
        { kind: 'ink', at: 3000, stroke: stroke('k', one, 500) },
        { kind: 'wipe', at: 6000, slide: one },
      ]),
    ])
    const most = roomToShift(made.stretches.values(), new Set([asId<'stroke'>('k')]))
    expect(most).toEqual({ earlier: 3000, later: 2500 })
    const shift = (by: number): ProgrammeEdit => ({
      kind: 'ink',
      visit: asId('s.0'),
      strokes: [asId('k')],
      change: { kind: 'shift', by, most },
    })
    const late = edited(made.programme, shift(9000), shift(9000))
    expect([5400, 5900, 6100].map((t) => inkAt(made, late, t).length)).toEqual([0, 1, 0])
    const early = edited(made.programme, shift(-9000), shift(-9000), shift(1000))
    expect([900, 1100].map((t) => inkAt(made, early, t).length)).toEqual([0, 1])
    // Kept from before there were bounds, it goes all the same.
    const unbounded: Programme = {
      ...EMPTY_PROGRAMME,
      ...made.programme,
      inkEdits: [{ stroke: asId('k'), visit: asId('s.0'), hidden: false, colour: null, shift: 99_000 }],
    }
    expect(inkAt(made, unbounded, 6100)).toEqual([])
  })
})
