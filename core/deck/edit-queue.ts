import { dequal } from 'dequal'
import type { Deck } from '@core/model'
import { applyDeckEdit } from './edit'
import type { DeckEdit } from './edit'

/** Edits of a deck that were made here and that the server does not have yet, in order. */
export interface EditQueue {
  readonly waiting: readonly DeckEdit[]
  /** Whether the first of them is on its way: it stays as it was sent. */
  readonly sending: boolean
}

export const NOTHING_WAITS: EditQueue = { waiting: [], sending: false }

/** Two changes of the same fields of the same slides, one right after the other, are one to save and one to undo; else null. */
export function joinedEdits(last: DeckEdit | undefined, edit: DeckEdit): DeckEdit | null {
  if (last?.kind !== 'set' || edit.kind !== 'set') return null
  const same = dequal([last.slides, Object.keys(last.fields)], [edit.slides, Object.keys(edit.fields)])
  return same ? edit : null
}

/** Another edit behind those that wait, or in the place of the last of them. */
export function enqueued(queue: EditQueue, edit: DeckEdit): EditQueue {
  const joined = queue.sending && queue.waiting.length <= 1 ? null : joinedEdits(queue.waiting.at(-1), edit)
  return { ...queue, waiting: joined === null ? [...queue.waiting, edit] : [...queue.waiting.slice(0, -1), joined] }
}

/** The first edit is on its way. */
export const sendingFirst = (queue: EditQueue): EditQueue => ({ ...queue, sending: true })

/** The server has taken the first edit, or refused it for good. */
export const firstSettled = ({ waiting }: EditQueue): EditQueue => ({ waiting: waiting.slice(1), sending: false })

/** The first edit could not be sent: it waits to be sent again. */
export const firstHeldUp = (queue: EditQueue): EditQueue => ({ ...queue, sending: false })

/** A deck as the server has it, with what waits laid over it. What cannot be done with it any more is left out. */
export const withWaiting = (deck: Deck, { waiting }: EditQueue): Deck =>
  waiting.reduce<Deck>((now, edit) => {
    try {
      return applyDeckEdit(now, edit)
    } catch {
      return now
    }
  }, deck)
