import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PLAIN_FRAMING } from '@core/model'
import { emptyComposition } from '@core/compose'
import type { Deck, Slide, SlideId } from '@core/model'
import { slide } from '@core/testing'
import { applyDeckEdit, groupPagesByLabel, invertDeckEdit } from '.'
import type { DeckEdit } from '.'

const deck: Deck = {
  shape: { width: 16, height: 9 },
  slides: ['a', 'b', 'c', 'd', 'e'].map((name, n) => slide(name, name === 'e' ? 3 : 1, { notes: n === 1 ? '' : `notes of ${name}` })),
}
const ids = deck.slides.map((one) => one.id)
const order = (of: Deck): string => of.slides.map((one) => one.id).join('')

const someSlides = fc.subarray([...ids], { minLength: 1 })
const anyEdit: fc.Arbitrary<DeckEdit> = fc.oneof(
  fc
    .tuple(someSlides, fc.option(fc.constantFrom(...ids)))
    .filter(([slides, before]) => before === null || !slides.includes(before))
    .map(([slides, before]): DeckEdit => ({ kind: 'move', slides, before })),
  fc
    .tuple(someSlides, fc.string(), fc.option(fc.nat(99_000)), fc.boolean())
    .map(([slides, notes, planned, skip]): DeckEdit => ({ kind: 'set', slides, fields: { notes, planned, skip } })),
  someSlides.map((slides): DeckEdit => ({ kind: 'remove', slides })),
  fc.nat(5).map((at): DeckEdit => ({ kind: 'insert', at, slides: [slide('new'), slide('newer')] })),
  fc
    .tuple(fc.nat(3), fc.integer({ min: 2, max: 5 }))
    .map(([from, count]): DeckEdit => ({ kind: 'merge', slides: ids.slice(from, Math.min(5, from + count)) })),
  fc.integer({ min: 1, max: 2 }).map((keep): DeckEdit => ({ kind: 'split', slide: ids[4] as SlideId, keep, as: slide('split off').id })),
  fc.constant<DeckEdit>({ kind: 'shape', shape: { width: 4, height: 3 } }),
)
/** What can be seen of a deck; versions only grow. */
const seen = (of: Deck) => ({ ...of, slides: of.slides.map(({ version: _, ...rest }) => rest) })

describe('edits of a deck', () => {
  it('are taken back whole by their inverse', () => {
    fc.assert(
      fc.property(anyEdit, fc.boolean(), (edit, twice) => {
        // Slides that were moved apart cannot be merged any more.
        const change: DeckEdit =
          twice && edit.kind !== 'merge'
            ? { kind: 'all', edits: [{ kind: 'move', slides: [ids[4] as SlideId], before: ids[0] as SlideId }, edit] }
            : edit
        expect(seen(applyDeckEdit(applyDeckEdit(deck, change), invertDeckEdit(deck, change)))).toEqual(seen(deck))
      }),
    )
  })

  it('take a first heading back with the title that it gave, and of slides put in only those that were not there', () => {
    const made = applyDeckEdit(deck, {
      kind: 'insert',
      at: 0,
      slides: [{ ...slide('made'), title: 'Untitled', composition: emptyComposition('points', 'paper') }],
    })
    const write: DeckEdit = {
      kind: 'set',
      slides: [slide('made').id],
      fields: { composition: { ...emptyComposition('points', 'paper'), heading: 'Low water' } },
    }
    const written = applyDeckEdit(made, write)
    expect(written.slides[0]?.title).toBe('Low water')
    expect(applyDeckEdit(written, invertDeckEdit(made, write)).slides[0]?.title).toBe('Untitled')
    const again: DeckEdit = { kind: 'insert', at: 2, slides: [deck.slides[1] as Slide, slide('new')] }
    expect(order(applyDeckEdit(applyDeckEdit(deck, again), invertDeckEdit(deck, again)))).toBe('abcde')
  })

  it('move slides together, in deck order, before the one that is named', () => {
    expect(order(applyDeckEdit(deck, { kind: 'move', slides: [ids[3] as SlideId, ids[0] as SlideId], before: ids[2] as SlideId }))).toBe(
      'badce',
    )
    expect(order(applyDeckEdit(deck, { kind: 'move', slides: [ids[0] as SlideId], before: null }))).toBe('bcdea')
  })

  it('make a new version only when what viewers see changes', () => {
    const framing = { ...PLAIN_FRAMING, rect: { x: 0, y: 0, w: 0.2, h: 0.3 }, outline: 'round' } as const
    const set = (fields: Extract<DeckEdit, { kind: 'set' }>['fields']) =>
      applyDeckEdit(deck, { kind: 'set', slides: [ids[1] as SlideId], fields }).slides[1]?.version
    expect([set({ notes: 'new words', planned: 5000 }), set({ framing })]).toEqual([1, 2])
  })

  it('leave slides that are not concerned the same objects', () => {
    const after = applyDeckEdit(deck, { kind: 'set', slides: [ids[1] as SlideId], fields: { skip: true } })
    expect(after.slides[0]).toBe(deck.slides[0])
    expect(after.slides[1]).not.toBe(deck.slides[1])
  })

  it('refuse slides that are not there', () => {
    expect(() => applyDeckEdit(deck, { kind: 'remove', slides: [slide('stranger').id] })).toThrow(/no longer in the deck/)
  })
})

describe('page labels', () => {
  it('make pages next to each other with one label the steps of one slide', () => {
    expect(groupPagesByLabel(['1', '2', '2', '2', '3', '2'], 6)).toEqual([[1], [2, 3, 4], [5], [6]])
    expect(groupPagesByLabel(null, 3)).toEqual([[1], [2], [3]])
    expect(groupPagesByLabel(['', ''], 2)).toEqual([[1], [2]])
  })
})
