import fc from 'fast-check'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { ClipId, Cue, Slide, SlideId, Stretch } from '@core/model'
import { clip, slide, stretch, stroke } from './make'

/** Decks, takes and cues of every kind, for properties. */
export const SLIDES: readonly Slide[] = [
  slide('one', 1),
  slide('two', 3, { transition: 'push', clips: [clip('c', 4000), clip('round', 900, { step: 1, loop: true, from: 200 })] }),
  slide('three', 2, { transition: 'fade', framing: { ...PLAIN_FRAMING, rect: { x: 0.1, y: 0.1, w: 0.2, h: 0.3 }, placing: 'beside' } }),
]

const someSlide = fc.constantFrom<SlideId>(...SLIDES.map((one) => one.id))

const cueAt = (at: number, n: number): fc.Arbitrary<Cue> =>
  fc.oneof(
    fc.record({ kind: fc.constant('show' as const), at: fc.constant(at), slide: someSlide, step: fc.nat(2) }),
    someSlide.chain((on) => fc.nat(900).map((length): Cue => ({ kind: 'ink', at, stroke: stroke(`k${String(n)}`, on, length) }))),
    fc.nat(Math.max(0, n)).map((which): Cue => ({ kind: 'erase', at, stroke: asId(`k${String(which)}`) })),
    someSlide.map((on): Cue => ({ kind: 'wipe', at, slide: on })),
    fc.boolean().map((on): Cue => ({ kind: 'blank', at, on })),
    fc.boolean().map((on): Cue => ({ kind: 'inset', at, on })),
    fc.nat(800).map((length): Cue => ({
      kind: 'point',
      at,
      path: [
        { dt: 0, x: 0.1, y: 0.1 },
        { dt: length, x: 0.9, y: 0.4 },
      ],
    })),
    fc.record({
      kind: fc.constant('clip' as const),
      at: fc.constant(at),
      clip: fc.constantFrom<ClipId>(asId('c'), asId('round')),
      place: fc.nat(5000),
      playing: fc.boolean(),
    }),
    fc.boolean().map((on): Cue => ({ kind: 'mute', at, on })),
    fc.constant<Cue>({ kind: 'stumble', at }),
  )

/** A stretch with up to 25 cues in order. */
export const anyStretch = (name: string): fc.Arbitrary<Stretch> =>
  fc
    .record({ length: fc.integer({ min: 1, max: 60_000 }), opening: someSlide, times: fc.array(fc.nat(60_000), { maxLength: 25 }) })
    .chain(({ length, opening, times }) => {
      const inside = times.filter((at) => at < length).sort((a, b) => a - b)
      return fc.tuple(...inside.map((at, n) => cueAt(at, n))).map((cues) => stretch(name, length, opening, cues))
    })

/** Up to four stretches of one take. */
export const anyStretches: fc.Arbitrary<readonly Stretch[]> = fc
  .integer({ min: 1, max: 4 })
  .chain((count) => fc.tuple(...Array.from({ length: count }, (_, n) => anyStretch(`s${String(n)}`))))
