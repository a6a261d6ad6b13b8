import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inkMl, openTimeline } from '@core/formats'
import { AS_RECORDED, asId } from '@core/model'
import type { Piece, Stroke } from '@core/model'
import { programmeLength } from '@core/programme'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { editListOf, filmOfTake, missingFrom, renamed, startsOf } from '.'
import type { StemsOfTake, TalkArchive } from '.'

const [one, two] = [slide('one'), slide('two')]
const [a, b] = [stretch('a', 4000, one.id, [{ kind: 'show', at: 2500, slide: two.id, step: 0 }]), stretch('b', 3000, two.id)]

/** Stems of a take of both stretches. */
const take = (): StemsOfTake => {
  const { starts, length } = startsOf([a, b])
  const media = (file: string) => ({ file, length })
  return { slides: media('take-1-slides.mp4'), face: media('take-1-face.mp4'), voice: media('take-1-voice.wav'), starts }
}

interface Track {
  readonly children: readonly {
    readonly OTIO_SCHEMA: string
    readonly source_range: {
      readonly start_time: { readonly value: number }
      readonly duration: { readonly value: number; readonly rate: number }
    }
    readonly effects: readonly { readonly OTIO_SCHEMA: string; readonly time_scalar: number }[]
  }[]
}
const tracksOf = (pieces: readonly Piece[]): readonly Track[] => {
  const made = film([one, two], [a, b])
  const index = indexFilm({ ...made, programme: { ...made.programme, pieces } })
  const list = editListOf(index, 'Knots', 30, { takes: [take()], still: () => ({ file: 'held-1.jpg', length: 60_000 }) })
  return (JSON.parse(openTimeline(list)) as { readonly tracks: { readonly children: readonly Track[] } }).tracks.children
}

describe('an edit list', () => {
  it('names parts of each take where they are in its files, in order, with gaps where nothing is seen or heard', () => {
    const span = (of: typeof a, from: number, to: number) => ({ stretch: of.id, from, to, rate: AS_RECORDED })
    const inVisit = { visit: asId<'visit'>('v'), slide: one.id } as const
    const pieces: readonly Piece[] = [
      { kind: 'recorded', ...inVisit, show: span(a, 1000, 2000), voice: span(a, 1000, 2000), camera: null },
      { kind: 'recorded', ...inVisit, show: span(a, 2000, 2400), voice: null, camera: null, out: asId('cut') },
      { kind: 'still', ...inVisit, still: asId('s'), from: 0, to: 500, step: 0 },
      {
        kind: 'recorded',
        ...inVisit,
        slide: two.id,
        show: span(b, 0, 900),
        voice: { ...span(b, 0, 900), rate: { num: 9, den: 8 } },
        camera: span(b, 0, 900),
      },
    ]
    const [slides, face, voice] = tracksOf(pieces)
    expect(slides?.children.map(({ source_range: { start_time, duration } }) => [start_time.value, duration.value])).toEqual([
      [30, 30],
      [0, 15],
      [120, 27],
    ])
    expect(face?.children.map(({ OTIO_SCHEMA }) => OTIO_SCHEMA)).toEqual(['Gap.1', 'Gap.1', 'Clip.2'])
    expect(voice?.children.map(({ source_range: { start_time, duration } }) => [start_time.value, duration.value])).toEqual([
      [48_000, 48_000],
      [0, 24_000],
      [192_000, 43_200],
    ])
    expect(voice?.children[2]?.effects).toMatchObject([{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 1.125 }])
  })

  it('is as long in every track as the talk, to half a frame, however many pieces it has', () => {
    const part = fc.tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 1, max: 900 }), fc.integer({ min: 20, max: 40 }))
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 60 }), (parts) => {
        const pieces = parts.map(([from, length, num], n): Piece => {
          const span = { stretch: b.id, from, to: from + length, rate: { num, den: 30 } }
          return { kind: 'recorded', visit: asId(`v${String(n)}`), slide: two.id, show: span, voice: span, camera: span }
        })
        const made = film([one, two], [a, b])
        const seconds = programmeLength({ ...made.programme, pieces }) / 1000
        for (const { children } of tracksOf(pieces)) {
          const all = children.reduce((sum, { source_range: { duration } }) => sum + duration.value / duration.rate, 0)
          expect(Math.abs(all - seconds)).toBeLessThanOrEqual(0.5 / 30 + 1e-9)
        }
      }),
    )
  })
})

describe('a take as a film of one thing', () => {
  it('has all of its stretches one after the other, its face always seen', () => {
    const hidden = { ...b, camera: true, cues: [{ kind: 'inset' as const, at: 100, on: false }] }
    const slides = new Map([one, two].map((each) => [each.id, each]))
    const made = film([one, two], [a, hidden])
    const face = filmOfTake(asId('t'), [{ ...a, kept: 1000 }, hidden], 'face', slides, made)
    expect(programmeLength(face.programme)).toBe(7000)
    expect(face.stretches.get(b.id)?.cues).toEqual([])
    expect(face.programme.pieces.every((piece) => piece.kind === 'recorded' && piece.voice === null)).toBe(true)
    const bare = filmOfTake(asId('t'), [a, hidden], 'slides', slides, made)
    expect(bare.programme.pieces.every((piece) => piece.kind === 'recorded' && piece.camera === null)).toBe(true)
  })
})

describe('ink as InkML', () => {
  it('has a trace for each stroke with place, pressure and time of every point, and when it was begun', () => {
    const stroke: Stroke = {
      id: asId('7b3'),
      slide: one.id,
      tool: 'marker',
      colour: 'moss',
      width: 'fine',
      pressure: true,
      points: [
        { dt: 0, x: 0.5, y: 0.25, p: 0.4567 },
        { dt: 16, x: 1, y: 1, p: 1 },
      ],
    }
    const label: Stroke = { ...stroke, id: asId('8c4'), tool: 'label', text: 'rope & <post>', points: [{ dt: 0, x: 0, y: 0, p: 1 }] }
    const text = inkMl(
      [
        { stroke, at: 1234 },
        { stroke: label, at: null },
      ],
      { width: 16, height: 9 },
    )
    expect(text).toContain('brushRef="#marker-fine-moss" timeOffset="1234">8889 2500 0.457 0, 17778 10000 1 16</trace>')
    expect(text).toContain('<annotation type="text">rope &amp; &lt;post&gt;</annotation>')
    for (const name of text.matchAll(/(?:brushRef|contextRef|traceFormatRef|timestampRef)="#([^"]+)"/g))
      expect(text).toContain(`xml:id="${name[1] ?? ''}"`)
  })
})

describe('names in an archive', () => {
  it('are exchanged wherever they stand, as values and as names of fields, and nowhere else', () => {
    const names = new Map([['one', 'eins']])
    expect(renamed({ one: ['one', { at: 'one.5' }], text: 'one more', n: 1, none: null }, names)).toEqual({
      eins: ['eins', { at: 'one.5' }],
      text: 'one more',
      n: 1,
      none: null,
    })
  })
})

describe('what an archive lacks', () => {
  const { programme } = film([one, two], [a, b])
  const version = ({ id, version: number, steps, framing, composition, transition }: typeof one) =>
    ({ slide: id, version: number, steps, framing, composition, transition, proposedInset: null, clips: null }) as const
  const digests = [
    ...new Set(
      [one, two].flatMap(({ steps }) =>
        steps.flatMap(({ picture }) => ('screen' in picture ? [picture.source, picture.screen, picture.thumb] : [])),
      ),
    ),
  ]
  const archive = {
    slides: [one, two],
    versions: [version(one), version(two)],
    assets: digests.map((digest) => ({ digest, mime: '', bytes: 1, file: '' })),
    takes: [{ stretches: [a, b].map((each) => ({ ...each, windowOf: null })) }],
    programme,
    named: [],
    words: [{ stretch: a.id }],
    files: [],
  } as unknown as TalkArchive

  it('is nothing where all is there, and named where something is not', () => {
    expect(missingFrom(archive)).toBeNull()
    expect(missingFrom({ ...archive, versions: archive.versions.slice(1) })).toBe('what a slide shows')
    expect(missingFrom({ ...archive, assets: [] })).toBe('a picture or file')
    expect(missingFrom({ ...archive, takes: [] })).toBe('a recording')
    expect(missingFrom({ ...archive, takes: [], words: [] })).toBe('a recording that it plays')
    expect(missingFrom({ ...archive, programme: { ...programme, slides: {} } })).toBe('a slide that it shows')
    const long = programme.pieces.map((piece) => (piece.kind === 'recorded' ? { ...piece, show: { ...piece.show, to: 999_999 } } : piece))
    expect(missingFrom({ ...archive, programme: { ...programme, pieces: long } })).toBe('a part of a recording that it plays')
  })
})
