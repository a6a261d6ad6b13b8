import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Deck } from '@core/model'
import { slide } from '@core/testing'
import {
  NOTHING_DONE,
  NOTHING_WAITS,
  applyDeckEdit,
  doneAgain,
  enqueued,
  firstHeldUp,
  firstSettled,
  invertDeckEdit,
  noted,
  sendingFirst,
  takenBack,
  withWaiting,
} from '.'
import type { DeckEdit } from '.'

const [one, two, three] = [slide('one'), slide('two'), slide('three')]
const DECK: Deck = { shape: { width: 16, height: 9 }, slides: [one, two, three] }
const titled = (title: string): DeckEdit => ({ kind: 'set', slides: [one.id], fields: { title } })

const anyEdit: fc.Arbitrary<DeckEdit> = fc.oneof(
  fc.string({ maxLength: 5 }).map(titled),
  fc.string({ maxLength: 5 }).map((notes): DeckEdit => ({ kind: 'set', slides: [two.id], fields: { notes } })),
  fc.constantFrom(one.id, two.id, three.id).map((id): DeckEdit => ({ kind: 'move', slides: [id], before: null })),
)

describe('edits that wait to be saved', () => {
  it('come to the same deck whether they wait or were answered, however often sending them failed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(anyEdit, fc.constantFrom('send' as const, 'answer' as const, 'fail' as const)), { maxLength: 40 }),
        (steps) => {
          let [queue, server, all] = [NOTHING_WAITS, DECK, DECK]
          for (const step of steps) {
            const [first] = queue.waiting
            if (typeof step === 'object') {
              queue = enqueued(queue, step)
              all = applyDeckEdit(all, step)
            } else if (step === 'send' && first !== undefined) queue = sendingFirst(queue)
            else if (step === 'answer' && first !== undefined && queue.sending) {
              server = applyDeckEdit(server, first)
              queue = firstSettled(queue)
            } else if (step === 'fail' && queue.sending) queue = firstHeldUp(queue)
            const { slides } = withWaiting(server, queue)
            expect(slides.map(({ id, title, notes }) => [id, title, notes])).toEqual(
              all.slides.map(({ id, title, notes }) => [id, title, notes]),
            )
          }
        },
      ),
    )
  })

  it('are joined while somebody types, but never with one that is on its way', () => {
    const typed = enqueued(enqueued(NOTHING_WAITS, titled('L')), titled('Lo'))
    expect(typed.waiting).toEqual([titled('Lo')])
    const onItsWay = enqueued(sendingFirst(typed), titled('Low'))
    expect(onItsWay.waiting).toEqual([titled('Lo'), titled('Low')])
    expect(enqueued(onItsWay, titled('Low water')).waiting).toEqual([titled('Lo'), titled('Low water')])
  })

  it('are left out where the server has made them impossible', () => {
    const queue = enqueued(NOTHING_WAITS, titled('Low water'))
    expect(withWaiting({ ...DECK, slides: [two] }, queue).slides).toEqual([two])
  })
})

describe('what was done here', () => {
  const done = (edit: DeckEdit) => ({ kind: 'deck' as const, edit, inverse: invertDeckEdit(DECK, edit) })

  it('is taken back one change at a time and done again, until something else is done', () => {
    const history = noted(noted(NOTHING_DONE, done(titled('Low'))), { kind: 'talk', fields: { name: 'b' }, before: { name: 'a' } })
    const first = takenBack(history)
    expect(first?.done).toMatchObject({ kind: 'talk', before: { name: 'a' } })
    const second = takenBack(first?.history ?? NOTHING_DONE)
    expect(second?.done).toMatchObject({ inverse: invertDeckEdit(DECK, titled('Low')) })
    expect(takenBack(second?.history ?? NOTHING_DONE)).toBeNull()
    expect(doneAgain(second?.history ?? NOTHING_DONE)?.done).toEqual(done(titled('Low')))
    expect(doneAgain(noted(second?.history ?? NOTHING_DONE, done(titled('Tide'))))).toBeNull()
  })

  it('takes what was typed in one go back in one go', () => {
    const history = noted(noted(NOTHING_DONE, done(titled('L'))), done(titled('Low')))
    expect(history.undo).toEqual([{ kind: 'deck', edit: titled('Low'), inverse: invertDeckEdit(DECK, titled('L')) }])
  })
})
