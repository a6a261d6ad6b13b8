import { describe, expect, it } from 'vitest'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { CardOverlay, LowerThirdOverlay, Overlay, Programme } from '@core/model'
import { EMPTY_CONTENT, FULL_CONTENT } from '@core/layout'
import { film, slide, stretch } from '@core/testing'
import { COMES, asSeen, indexFilm, overlayTurns, sceneAt, withCaptions } from '.'

const one = slide('one', 1, { framing: { ...PLAIN_FRAMING, rect: { x: 0.02, y: 0.6, w: 0.3, h: 0.38 } } })
const base = film([one], [stretch('s', 20_000, one.id)])
const visit = base.programme.pieces[0]?.visit ?? asId<'visit'>('v')
const card: CardOverlay = { kind: 'card', id: asId('card'), visit, offset: 4000, length: 4000, theme: 'dusk', heading: 'Tides', body: '' }
const lowerThird: LowerThirdOverlay = {
  kind: 'lower-third',
  id: asId('name'),
  visit,
  offset: 4000,
  length: 4000,
  theme: 'paper',
  at: null,
  name: 'Ilse Marrak',
  place: 'Harbour school',
}
const dressed = (...overlays: readonly Overlay[]) => indexFilm({ ...base, programme: { ...base.programme, overlays } as Programme })
const over = (index: ReturnType<typeof dressed>, at: number) => sceneAt(index, at)?.overlays ?? []

describe('what lies over a film', () => {
  it('comes and goes calmly, and is there in between', () => {
    const index = dressed(card)
    expect([3999, 4000 + COMES / 2, 6000, 8000 - COMES / 2, 8000].map((at) => over(index, at)[0]?.there ?? null)).toEqual([
      null,
      0.5,
      1,
      0.5,
      null,
    ])
    expect(overlayTurns(index.overlays, 0, 20_000)).toEqual([4000, 4400, 7600, 8000])
  })

  it('is there at once where the film begins with it, and to the last where it ends with it', () => {
    const whole = dressed({ ...card, offset: 0, length: 20_000 })
    expect([0, 19_999].map((at) => over(whole, at)[0]?.there)).toEqual([1, 1])
  })

  it('hides the face and all that moves where it is a card, and nothing of that is lost for what asks besides', () => {
    const scene = sceneAt(dressed(card), 6000)
    expect(scene?.inset).not.toBeNull()
    expect(scene === null ? null : asSeen(scene)).toMatchObject({ inset: null, ink: [], clips: [], spot: null })
    const coming = sceneAt(dressed(card), 4100)
    expect(coming === null ? null : asSeen(coming).inset).not.toBeNull()
  })

  it('never stands on the face unless somebody put it there', () => {
    const [placed] = over(dressed(lowerThird), 6000)
    const face = { x: 0.02, y: 0.6, w: 0.3, h: 0.38 }
    const meets = (box: typeof face): boolean =>
      box.x < face.x + face.w && face.x < box.x + box.w && box.y < face.y + face.h && face.y < box.y + box.h
    expect(placed !== undefined && meets(placed.box)).toBe(false)
    const [put] = over(dressed({ ...lowerThird, at: { x: 0.05, y: 0.8 } }), 6000)
    expect(put?.box).toMatchObject({ x: 0.05, y: 0.8 })
  })

  it('goes where the slide is empty', () => {
    const half = EMPTY_CONTENT.slice(0, EMPTY_CONTENT.length / 2) + FULL_CONTENT.slice(EMPTY_CONTENT.length / 2)
    const full = slide('one', 1, { framing: one.framing, steps: one.steps.map((step) => ({ ...step, content: half })) })
    const index = indexFilm({
      ...film([full], [stretch('s', 20_000, full.id, [], { camera: false })]),
      programme: { ...base.programme, pieces: base.programme.pieces, overlays: [lowerThird] },
    })
    expect(over(index, 6000)[0]?.box.y).toBeLessThan(0.5)
  })

  it('is not hidden by captions, nor hides them', () => {
    const index = withCaptions(dressed(lowerThird), [{ from: 0, until: 20_000, lines: ['Low water was at six.'] }])
    const scene = sceneAt(index, 6000)
    const [placed] = scene?.overlays ?? []
    if (scene?.caption == null || placed === undefined) throw new Error('both are there')
    const foot = scene.caption.foot
    expect(foot < placed.box.y || foot - 0.2 > placed.box.y + placed.box.h || placed.box.x > 0.5).toBe(true)
  })

  it('keeps a long name in any script on the frame', () => {
    for (const name of ['Ilse Marrak '.repeat(25), 'إلسه مرّاك '.repeat(25), '潮汐'.repeat(150), 'W'.repeat(300)]) {
      const [placed] = over(dressed({ ...lowerThird, name }), 6000)
      if (placed === undefined) throw new Error('it is there')
      const { x, y, w, h } = placed.box
      expect([x >= 0, y >= 0, x + w <= 1.0001, y + h <= 1.0001]).toEqual([true, true, true, true])
    }
    expect(over(dressed({ ...lowerThird, name: ' ', place: '' }), 6000)).toEqual([])
  })
})
