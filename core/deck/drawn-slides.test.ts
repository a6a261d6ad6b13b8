import { describe, expect, it } from 'vitest'
import { NOTHING_DRAWN, asId, newSlide } from '@core/model'
import type { Deck, Drawing, ObjectMotion, Slide, Step } from '@core/model'
import { newObject, ownSteps } from '@core/objects'
import { composedSlide, emptyComposition } from '@core/compose'
import { applyDeckEdit } from './edit'
import type { DeckEdit } from './edit'
import { invertDeckEdit } from './invert'

const SHAPE = { width: 16, height: 9 }
const page: Step = {
  picture: {
    kind: 'page',
    source: asId('source'),
    page: 1,
    size: { width: 960, height: 540 },
    screen: asId('screen'),
    thumb: asId('thumb'),
  },
  content: '',
  text: 'Tide',
  reveal: 'fade',
}
const ferry = newObject(asId('ferry'), 'box', { x: 0.5, y: 0.5 })
const moves = (step: number, object = 'ferry'): ObjectMotion => ({
  id: asId(`m${String(step)}${object}`),
  object: asId(object),
  step,
  start: 'step',
  delay: 0,
  duration: 500,
  ease: 'calm',
  does: { kind: 'fades', to: 0.5 },
})
const drawing = (...motions: readonly ObjectMotion[]): Drawing => ({ ...NOTHING_DRAWN, objects: [ferry], motions })
const deckOf = (...slides: readonly Slide[]): Deck => ({ shape: SHAPE, slides })
const filed = newSlide(asId('a'), { steps: [page] })
const draw = (what: Drawing, slide = 'a'): DeckEdit => ({ kind: 'set', slides: [asId(slide)], fields: { drawing: what } })
const first = (deck: Deck): Slide => deck.slides[0] as Slide

describe('a slide that something is drawn on', () => {
  it('has as many steps as that moves in, those that are added showing what its last one does', () => {
    const { steps, version } = first(applyDeckEdit(deckOf(filed), draw(drawing(moves(1), moves(3)))))
    expect(steps.map(({ added }) => added === true)).toEqual([false, true, true, true])
    expect(steps[3]).toEqual({ picture: page.picture, content: '', text: 'Tide', added: true })
    expect(version).toBe(2)
  })

  it('loses them with the motions, and is as before when that is taken back', () => {
    const deck = deckOf(filed)
    const drawn = applyDeckEdit(deck, draw(drawing(moves(2))))
    const still = applyDeckEdit(drawn, draw(drawing()))
    expect(first(still).steps).toEqual([page])
    const back = applyDeckEdit(drawn, invertDeckEdit(deck, draw(drawing(moves(2)))))
    expect(first(back).drawing).toBeUndefined()
    expect(first(back).steps).toEqual([page])
  })

  it('keeps no motion of what is not there', () => {
    const { drawing: kept, steps } = first(applyDeckEdit(deckOf(filed), draw(drawing(moves(1, 'gone')))))
    expect(kept?.motions).toEqual([])
    expect(steps).toHaveLength(1)
  })

  it('that was made here has its points first, and then what is added', () => {
    const points = { ...emptyComposition('points', 'paper'), heading: 'Tide', body: '- low\n- high', reveal: 'appear' as const }
    const deck = applyDeckEdit(deckOf(), { kind: 'insert', at: 0, slides: [composedSlide(asId('c'), points)] })
    const drawn = applyDeckEdit(deck, draw(drawing(moves(4)), 'c'))
    expect(first(drawn).steps.map(({ added }) => added === true)).toEqual([false, false, false, true, true])
    const shorter = applyDeckEdit(drawn, { kind: 'set', slides: [asId('c')], fields: { composition: { ...points, body: '- low' } } })
    expect(ownSteps(first(shorter))).toHaveLength(2)
    expect(first(shorter).steps).toHaveLength(5)
    expect(applyDeckEdit(drawn, { kind: 'shape', shape: { width: 4, height: 3 } }).slides[0]?.steps).toHaveLength(5)
  })

  it('is not merged and not split', () => {
    const deck = applyDeckEdit(deckOf(filed, newSlide(asId('b'), { steps: [page] })), draw(drawing(moves(1))))
    expect(() => applyDeckEdit(deck, { kind: 'merge', slides: [asId('a'), asId('b')] })).toThrow('something is drawn on')
    expect(() => applyDeckEdit(deck, { kind: 'split', slide: asId('a'), keep: 1, as: asId('z') })).toThrow('cannot be split')
  })
})
