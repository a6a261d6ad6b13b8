import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EMPTY_PROGRAMME, PLAIN_FRAMING, asId } from '@core/model'
import type { AddedInk, Film, Framing, Programme, StrokeId } from '@core/model'
import { indexFilm, inkOfVisit, revisited, sceneAt } from '@core/scene'
import type { Scene } from '@core/scene'
import { SLIDES, anyStretches, film, recorded, slide, still, stretch, stroke } from '@core/testing'
import {
  applyProgrammeEdit,
  merged,
  piecesOfTake,
  placeTake,
  programmeLength,
  recordingsOf,
  retakeRange,
  retakeVisit,
  seamsOf,
  useRecording,
  visitsOf,
} from '.'

const [one, two] = [asId<'slide'>('one'), asId<'slide'>('two')]
const FACE: Framing = { ...PLAIN_FRAMING, rect: { x: 0.7, y: 0.1, w: 0.2, h: 0.3 } }
const at = (film: Film, programme: Programme, t: number): Scene | null => sceneAt(indexFilm({ ...film, programme }), t)
const inkSeen = (scene: Scene | null): readonly string[] => (scene?.ink ?? []).map((drawn) => drawn.stroke.id)

/** Two slides, a stroke drawn on the first at one second and one on the second at six. */
function inked() {
  const drawn = [stroke('first', one, 800), stroke('second', two, 400)] as const
  const made = film(SLIDES, [
    stretch('s', 9000, one, [
      { kind: 'ink', at: 1000, stroke: drawn[0] },
      { kind: 'show', at: 4000, slide: two, step: 0 },
      { kind: 'ink', at: 6000, stroke: drawn[1] },
      { kind: 'wipe', at: 8000, slide: two },
    ]),
  ])
  const [a, b] = visitsOf(made.programme)
  if (a === undefined || b === undefined) throw new Error('two visits')
  return { made, a, b, drawn }
}

describe('ink afterwards', () => {
  it('that is deleted is never seen again, and everything else is as it was', () => {
    fc.assert(
      fc.property(
        anyStretches.map((stretches) => film(SLIDES, stretches)),
        fc.nat(),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (made, which, share) => {
          const cues = [...made.stretches.values()].flatMap((each) =>
            each.cues.flatMap((cue) => (cue.kind === 'ink' ? [cue.stroke.id] : [])),
          )
          const gone = cues[which % Math.max(1, cues.length)]
          const [visit] = visitsOf(made.programme)
          if (gone === undefined || visit === undefined) return
          const after = applyProgrammeEdit(made.programme, { kind: 'ink', visit: visit.id, strokes: [gone], change: { kind: 'delete' } })
          const t = share * programmeLength(after)
          const [before, now] = [at(made, made.programme, t), at(made, after, t)]
          const without = <View extends { readonly ink: Scene['ink'] }>(view: View): View => ({
            ...view,
            ink: view.ink.filter((drawn) => drawn.stroke.id !== gone),
          })
          expect(now).toEqual(
            before && {
              ...without(before),
              transition: before.transition && { ...before.transition, from: without(before.transition.from) },
            },
          )
          // Taken back it is the same value as before.
          expect({ ...merged(after, made.programme, after), revision: 0 }).toEqual({ ...made.programme, revision: 0 })
        },
      ),
    )
  })

  it('takes another colour, and is drawn earlier or later', () => {
    const { made, a } = inked()
    const id = asId<'stroke'>('first')
    const red = applyProgrammeEdit(made.programme, { kind: 'ink', visit: a.id, strokes: [id], change: { kind: 'colour', colour: 'moss' } })
    expect(at(made, red, 2000)?.ink[0]?.stroke.colour).toBe('moss')
    const later = applyProgrammeEdit(
      applyProgrammeEdit(red, { kind: 'ink', visit: a.id, strokes: [id], change: { kind: 'shift', by: 1000 } }),
      { kind: 'ink', visit: a.id, strokes: [id], change: { kind: 'shift', by: 300 } },
    )
    expect(inkSeen(at(made, later, 2200))).toEqual([])
    expect(at(made, later, 2400)?.ink).toMatchObject([{ elapsed: 100, stroke: { colour: 'moss' } }])
    expect(inkOfVisit(indexFilm({ ...made, programme: later }), a)).toMatchObject([{ at: 2300, stroke: { id } }])
  })

  it('that is drawn more grows as it was drawn, stays until it is wiped, and goes where its visit goes', () => {
    const { made, a, b } = inked()
    const more = stroke('more', two, 1000)
    const drawn = applyProgrammeEdit(made.programme, {
      kind: 'draw',
      ink: { visit: b.id, over: { kind: 'stretch', id: asId('s') }, at: 5000, stroke: more },
    })
    expect(inkSeen(at(made, drawn, 4999))).toEqual([])
    expect(at(made, drawn, 5250)?.ink).toMatchObject([{ elapsed: 250, stroke: { id: 'more' } }])
    expect(inkSeen(at(made, drawn, 7000))).toEqual(['more', 'second'])
    expect(inkSeen(at(made, drawn, 8500))).toEqual([])
    const moved = applyProgrammeEdit(drawn, { kind: 'move', visit: b.id, before: a.id })
    expect(at(made, moved, 1250)?.ink).toMatchObject([{ elapsed: 250, stroke: { id: 'more' } }])
    const cut = applyProgrammeEdit(drawn, { kind: 'cut', parts: [{ from: 4200, to: 4800 }] })
    expect(at(made, cut, 4650)?.ink).toMatchObject([{ elapsed: 250 }])
    // What was added is deleted itself.
    const gone = applyProgrammeEdit(drawn, { kind: 'ink', visit: b.id, strokes: [asId('more')], change: { kind: 'delete' } })
    expect({ ...gone, inkEdits: [], revision: 0 }).toEqual({ ...made.programme, revision: 0 })
  })

  it('lies there over a pause in its visit', () => {
    const made = film(SLIDES, [stretch('s', 3000, one), stretch('t', 3000, one)])
    const [visit] = visitsOf(made.programme)
    const ink: AddedInk = { visit: visit!.id, over: { kind: 'stretch', id: asId('s') }, at: 1000, stroke: stroke('more', one, 200) }
    const drawn = applyProgrammeEdit(made.programme, { kind: 'draw', ink })
    expect(inkSeen(at(made, drawn, 2900))).toEqual(['more'])
    expect(at(made, drawn, 3500)?.ink).toMatchObject([{ elapsed: null, stroke: { id: 'more' } }])
  })

  it('can be drawn on a slide that is held without a recording', () => {
    const made = film(SLIDES, [stretch('s', 3000, one)])
    const held = applyProgrammeEdit(made.programme, { kind: 'insert', slide: two, version: 1, length: 4000, before: null, name: 'held' })
    const drawn = applyProgrammeEdit(held, {
      kind: 'draw',
      ink: { visit: asId('held'), over: { kind: 'still', id: asId('held=') }, at: 1000, stroke: stroke('more', two, 500) },
    })
    expect(inkSeen(at(made, drawn, 3900))).toEqual([])
    expect(at(made, drawn, 4200)?.ink).toMatchObject([{ elapsed: 200 }])
    // Divided, it goes on where it was.
    const cut = applyProgrammeEdit(drawn, { kind: 'cut', parts: [{ from: 3200, to: 3500 }] })
    expect(inkSeen(at(made, cut, 6500))).toEqual(['more'])
  })
})

describe('framing in the talk', () => {
  it('is that of its visit alone, and stays when the visit is said again or shown once more', () => {
    const { made, a, b } = inked()
    const off = applyProgrammeEdit(made.programme, { kind: 'framing', visits: [a.id], framing: { ...FACE, off: true } })
    expect(at(made, off, 1000)?.inset).toBeNull()
    expect(at(made, off, 5000)?.inset).toEqual(at(made, made.programme, 5000)?.inset)
    const again = retakeVisit(off, a.id, [recorded('again', one, 0, 2000)], {})
    expect(again.framings[asId<'visit'>('again')]).toMatchObject({ off: true })
    const twice = applyProgrammeEdit(off, { kind: 'repeat', visit: a.id, before: null, name: 'x' })
    expect(twice.framings[asId<'visit'>(`${a.id}^x`)]).toMatchObject({ off: true })
    expect(applyProgrammeEdit(off, { kind: 'framing', visits: [a.id], framing: null }).framings).toEqual({})
    // From two pages, in different visits, both are kept; in one visit neither overwrites the other.
    const mine = applyProgrammeEdit(made.programme, { kind: 'framing', visits: [b.id], framing: FACE })
    expect(Object.keys(merged(made.programme, mine, off).framings).sort()).toEqual([a.id, b.id].sort())
    const theirs = applyProgrammeEdit(made.programme, { kind: 'framing', visits: [b.id], framing: { ...FACE, off: true } })
    expect(() => merged(made.programme, mine, theirs)).toThrow('changed elsewhere')
  })
})

describe('saying a part again', () => {
  const again = (length: number, name = 'again') =>
    piecesOfTake({ id: asId('take'), kind: 'retake', stretches: [stretch(name, length, one)] })

  it('puts it in place of that part; what is before and after it shows and sounds as it did', () => {
    fc.assert(
      fc.property(
        anyStretches.map((stretches) => film(SLIDES, stretches)),
        fc.nat(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 20_000 }),
        (made, which, x, y, length) => {
          const visits = visitsOf(made.programme)
          const visit = visits[which % Math.max(1, visits.length)]
          if (visit === undefined) return
          const [from, to] = [Math.round(Math.min(x, y) * visit.length), Math.round(Math.max(x, y) * visit.length)]
          const pieces = piecesOfTake({ id: asId('take'), kind: 'retake', stretches: [stretch('again', length, visit.slide)] })
          const after = retakeRange(made.programme, visit.id, from, to, pieces, {})
          expect(programmeLength(after)).toBe(programmeLength(made.programme) - (to - from) + length)
          expect(visitsOf(after).map(({ id }) => id)).toEqual(visits.map(({ id }) => id))
          const whole: Film = {
            ...made,
            stretches: new Map([...made.stretches, [asId<'stretch'>('again'), stretch('again', length, visit.slide)]]),
          }
          const heard = (programme: Programme, t: number) => at(whole, programme, t)?.voice
          for (const t of [visit.start, visit.start + Math.max(0, from - 1)].filter((time) => time < visit.start + from))
            expect(heard(after, t)).toEqual(heard(made.programme, t))
          for (const t of [visit.start + to, programmeLength(made.programme) - 1].filter(
            (time) => time >= visit.start + to && time < programmeLength(made.programme),
          )) {
            expect(heard(after, t - (to - from) + length)).toEqual(heard(made.programme, t))
          }
          expect(heard(after, visit.start + from)).toEqual({ stretch: 'again', at: 0 })
        },
      ),
    )
  })

  it('that goes on to another slide leaves the rest as a showing of its own', () => {
    const made = film(SLIDES, [stretch('s', 6000, one)])
    const [visit] = visitsOf(made.programme)
    const pieces = piecesOfTake({
      id: asId('take'),
      kind: 'retake',
      stretches: [stretch('again', 2000, one, [{ kind: 'show', at: 1000, slide: two, step: 0 }])],
    })
    const after = visitsOf(retakeRange(made.programme, visit!.id, 1000, 3000, pieces, {}))
    expect(after.map(({ slide: on, length }) => [on, length])).toEqual([
      [one, 2000],
      [two, 1000],
      [one, 3000],
    ])
    expect(new Set(after.map(({ id }) => id)).size).toBe(3)
  })

  it('loses what is silent before its first word and after its last into seams', () => {
    const made = film(SLIDES, [stretch('s', 6000, one)])
    const [visit] = visitsOf(made.programme)
    const silent = [
      { from: 0, to: 850 },
      { from: 2150, to: 3000 },
    ]
    const take = { id: asId<'take'>('t'), kind: 'retake' as const, stretches: [stretch('again', 3000, one)] }
    const after = placeTake(made.programme, { kind: 'range', visit: visit!.id, from: 1000, to: 2000 }, take, SLIDES, () => silent)
    expect(programmeLength(after)).toBe(6000 - 1000 + 3000 - 700 - 600)
    expect(seamsOf(after).map(({ at: place }) => place)).toEqual([1000, 2700])
    expect(after.revision).toBe(made.programme.revision)
  })

  it('is kept at the end when its visit is gone', () => {
    const made = film(SLIDES, [stretch('s', 6000, one)])
    expect(programmeLength(retakeRange(made.programme, asId('gone'), 0, 100, again(900), {}))).toBe(6900)
  })
})

describe('recordings of a slide', () => {
  it("are all of its showings in every take, and any can take a visit's place and give it back", () => {
    const first = {
      id: asId<'take'>('first'),
      kind: 'full' as const,
      stretches: [
        stretch('s', 6000, one, [
          { kind: 'show', at: 2000, slide: two, step: 0 },
          { kind: 'show', at: 5000, slide: one, step: 0 },
        ]),
      ],
    }
    const second = { id: asId<'take'>('second'), kind: 'retake' as const, stretches: [stretch('t', 1500, one)] }
    const dubbed = { id: asId<'take'>('dubbed'), kind: 'dub' as const, stretches: [stretch('d', 1500, one)] }
    const all = recordingsOf(one, [first, second, dubbed])
    expect(
      all.map(({ take, pieces }) => [take, pieces.map((piece) => (piece.kind === 'recorded' ? [piece.show.from, piece.show.to] : []))]),
    ).toEqual([
      ['first', [[0, 2000]]],
      ['first', [[5000, 6000]]],
      ['second', [[0, 1500]]],
    ])
    const made = film(SLIDES, first.stretches)
    const [visit] = visitsOf(made.programme)
    const other = useRecording(made.programme, visit!.id, all[2]!.pieces, 'n')
    expect(programmeLength(other)).toBe(5500)
    const back = useRecording(other, visitsOf(other)[0]!.id, all[0]!.pieces, 'n')
    expect(back.pieces).toEqual(made.programme.pieces)
    // One that is in the talk already is shown under another name.
    const twice = useRecording(made.programme, visitsOf(made.programme)[1]!.id, all[0]!.pieces, 'n')
    expect(new Set(visitsOf(twice).map(({ id }) => id)).size).toBe(3)
    expect(() => useRecording(made.programme, visit!.id, [], 'n')).toThrow('not there any more')
  })
})

describe('a visit with another voice', () => {
  it('shows the steps and ink that it showed, at their times', () => {
    const made = film(
      [slide('one', 3)],
      [
        stretch('s', 9000, one, [
          { kind: 'show', at: 2000, slide: one, step: 1 },
          { kind: 'mute', at: 2500, on: true },
          { kind: 'ink', at: 3000, stroke: stroke('k', one, 400) },
          { kind: 'show', at: 7000, slide: one, step: 2 },
        ]),
      ],
    )
    const cut = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from: 4000, to: 5000 }] })
    const shown = revisited({ ...made, programme: cut }, visitsOf(cut)[0]!, 5000)
    expect(shown?.opening).toMatchObject({ slide: one, step: 0 })
    expect(shown?.cues.map(({ kind, at: time }) => [kind, time])).toEqual([
      ['show', 2000],
      ['ink', 3000],
      ['show', 5000],
    ])
    const held: Programme = { ...EMPTY_PROGRAMME, pieces: [still('h', two, 800)] }
    expect(revisited({ ...made, slides: new Map(SLIDES.map((one) => [one.id, one])), programme: held }, visitsOf(held)[0]!, 700)).toEqual({
      opening: { slide: two, step: 0, blank: false, inset: true, ink: [] },
      cues: [],
    })
  })
})

describe('a slide without a voice', () => {
  it('is put in, held, and kept for longer with its ink on it', () => {
    const { made, b } = inked()
    const held = applyProgrammeEdit(made.programme, {
      kind: 'insert',
      slide: asId('three'),
      version: 2,
      length: 3000,
      before: b.id,
      name: 'held',
    })
    expect(programmeLength(held)).toBe(12_000)
    expect(held.slides[asId<'slide'>('three')]).toBe(2)
    expect(at(made, held, 4500)).toMatchObject({ slide: 'three', voice: null, inset: null })
    const longer = applyProgrammeEdit(held, {
      kind: 'linger',
      visit: visitsOf(held)[0]!.id,
      length: 1500,
      step: 0,
      of: { stretch: asId('s'), at: 3999 },
    })
    expect(programmeLength(longer)).toBe(13_500)
    expect(at(made, longer, 5000)).toMatchObject({ slide: one, voice: null })
    expect(inkSeen(at(made, longer, 5000))).toEqual(['first' as StrokeId])
    expect(visitsOf(longer)[0]?.length).toBe(5500)
    expect(() => applyProgrammeEdit(held, { kind: 'insert', slide: two, version: 1, length: 10, before: null, name: 'x' })).toThrow(
      '0.2 seconds',
    )
  })
})
