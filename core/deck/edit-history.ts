import type { Ms } from '@core/model'
import type { DeckEdit } from './edit'
import { joinedEdits } from './edit-queue'

/** What can be set of a talk itself. */
export interface TalkFields {
  readonly name?: string
  readonly limit?: Ms | null
  readonly language?: string
}

/** A change that was made here, and what takes it back. */
export type DoneEdit =
  | { readonly kind: 'deck'; readonly edit: DeckEdit; readonly inverse: DeckEdit }
  | { readonly kind: 'talk'; readonly fields: TalkFields; readonly before: TalkFields }

/** What can be taken back here and what can be done again, the next last. */
export interface EditHistory {
  readonly undo: readonly DoneEdit[]
  readonly redo: readonly DoneEdit[]
}

export const NOTHING_DONE: EditHistory = { undo: [], redo: [] }

/** One change more; nothing can be done again then. One of the same fields as the last is taken back with it. */
export function noted({ undo }: EditHistory, done: DoneEdit): EditHistory {
  const last = undo.at(-1)
  const joined = done.kind === 'deck' && last?.kind === 'deck' ? joinedEdits(last.edit, done.edit) : null
  if (joined === null || last?.kind !== 'deck') return { undo: [...undo, done], redo: [] }
  return { undo: [...undo.slice(0, -1), { kind: 'deck', edit: joined, inverse: last.inverse }], redo: [] }
}

/** The last change is taken back; null when there is none. */
export function takenBack({ undo, redo }: EditHistory): { readonly done: DoneEdit; readonly history: EditHistory } | null {
  const done = undo.at(-1)
  return done === undefined ? null : { done, history: { undo: undo.slice(0, -1), redo: [...redo, done] } }
}

/** What was taken back last is done again; null when there is nothing. */
export function doneAgain({ undo, redo }: EditHistory): { readonly done: DoneEdit; readonly history: EditHistory } | null {
  const done = redo.at(-1)
  return done === undefined ? null : { done, history: { undo: [...undo, done], redo: redo.slice(0, -1) } }
}
