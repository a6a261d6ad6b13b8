import { describe, expect, it } from 'vitest'
import { CONTENT_COLUMNS, CONTENT_ROWS, WHOLE, faceRect } from '@core/layout'
import { USUAL_CAPTIONS, asId } from '@core/model'
import type { Caption, CaptionStyle } from '@core/model'
import { renderPlan, runsOf } from '@core/plan'
import { film, slide, step, stretch } from '@core/testing'
import { indexFilm, sceneAt, withCaptions } from '.'

const CAPTIONS: readonly Caption[] = [
  { from: 500, until: 2000, lines: ['The tide turns'] },
  { from: 2000, until: 3700, lines: ['twice a day,', 'and the harbour is dry.'] },
  { from: 6000, until: 7000, lines: ['Nobody sails.'] },
]
const FULL = 'f'.repeat(CONTENT_COLUMNS * CONTENT_ROWS)
const made = (style: CaptionStyle = USUAL_CAPTIONS, camera = true) => {
  const base = film(
    [slide('empty'), slide('full', 1, { steps: [step(1, FULL)] })],
    [stretch('s', 9000, asId('empty'), [{ kind: 'show', at: 5000, slide: asId('full'), step: 0 }], { camera })],
  )
  return indexFilm({ ...base, programme: { ...base.programme, captions: style } })
}

describe('captions of a film', () => {
  it('are up from when they begin until they end, and nothing else of the picture changes', () => {
    const [plain, said] = [made(), withCaptions(made(), CAPTIONS)]
    const linesAt = (t: number) => sceneAt(said, t)?.caption?.lines ?? null
    expect([499, 500, 1999, 2000, 3699, 3700, 6500, 7000].map(linesAt)).toEqual([
      null,
      ['The tide turns'],
      ['The tide turns'],
      ['twice a day,', 'and the harbour is dry.'],
      ['twice a day,', 'and the harbour is dry.'],
      null,
      ['Nobody sails.'],
      null,
    ])
    expect({ ...sceneAt(said, 700), caption: null }).toEqual(sceneAt(plain, 700))
    expect(sceneAt(withCaptions(said, null), 700)).toEqual(sceneAt(plain, 700))
  })

  it('have a strip below the slide where it has no room, in which slide and face stay as they were to each other', () => {
    const [plain, said] = [sceneAt(made(), 6500), sceneAt(withCaptions(made(), CAPTIONS), 6500)]
    const stage = said?.stage ?? WHOLE
    expect(stage.h).toBeLessThan(0.9)
    expect((said?.caption?.foot ?? 0) > stage.h).toBe(true)
    const [before, after] = [plain?.inset, said?.inset].map((inset) => (inset ? faceRect(inset.framing) : WHOLE))
    expect(((after?.x ?? 0) - stage.x) / stage.w).toBeCloseTo(before?.x ?? -1)
    expect((after?.h ?? 0) / stage.h).toBeCloseTo(before?.h ?? -1)
    // It is as high while nothing is said, so that the slide does not move with every caption.
    expect(sceneAt(withCaptions(made(), CAPTIONS), 8500)?.stage).toEqual(stage)
    expect(sceneAt(withCaptions(made({ ...USUAL_CAPTIONS, place: 'foot' }, false), CAPTIONS), 6500)?.stage).toEqual(WHOLE)
  })

  it('part what stands still into pictures of their own, so that nothing is drawn in between', () => {
    const index = withCaptions(made(USUAL_CAPTIONS, false), CAPTIONS)
    const recipe = { format: 'mp4', lines: 480, size: null, rate: 30, quality: 'good', bits: { kind: 'free' }, loudness: -16 } as const
    const { segments } = renderPlan(index, recipe)
    expect(segments.every(({ kind }) => kind === 'still')).toBe(true)
    const told = segments.map((segment) => runsOf(index, segment, 30).map(({ scene }) => scene.caption?.lines.join(' ') ?? ''))
    expect(told).toEqual([[''], ['The tide turns'], ['twice a day, and the harbour is dry.'], [''], [''], ['Nobody sails.'], ['']])
    expect(segments.map(({ frames }) => frames)).toEqual([15, 45, 51, 39, 30, 30, 60])
  })
})
