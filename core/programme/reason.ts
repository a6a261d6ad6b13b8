import { unreachable } from '@core/model'
import type { OverlayKind, TakeId } from '@core/model'
import type { ProgrammeEdit } from './change'
import { isUntreated } from './dressing'
import type { InkChange } from './ink-edits'

/** What a change of a programme was, for its history. */
export type ChangeReason =
  | { readonly kind: 'cut'; readonly parts: number }
  | {
      readonly kind:
        | 'drop'
        | 'reopen'
        | 'move'
        | 'repeat'
        | 'tempo'
        | 'hold'
        | 'hush'
        | 'linger'
        | 'insert'
        | 'captions'
        | 'draw'
        | 'looked'
        | 'bare'
        | 'bed'
        | 'light'
        | 'backdrop'
    }
  | { readonly kind: 'framing'; readonly off: boolean }
  | { readonly kind: 'overlay'; readonly of: OverlayKind }
  | { readonly kind: 'voice'; readonly off: boolean }
  | { readonly kind: 'ink'; readonly change: InkChange['kind'] }
  /** Several edits at once, as when a talk is fitted to its limit. */
  | { readonly kind: 'all' }
  /** Another recording taken in the place of a visit's. */
  | { readonly kind: 'use' }
  /** A take that was put in, taken out, or brought back. */
  | { readonly kind: 'take' | 'discard' | 'bring-back'; readonly take: TakeId }
  /** Slides that were changed in the deck. */
  | { readonly kind: 'slides' }
  | { readonly kind: 'return' }
  /** Noted before reasons were told apart. */
  | { readonly kind: 'other' }

/** What several edits at once are: what they lay over the talk, where they do; what else they do makes room for it. */
function reasonOfAll(edits: readonly ProgrammeEdit[]): ChangeReason {
  const over = edits.find(({ kind }) => kind === 'overlay' || kind === 'bed' || kind === 'voice')
  const only = edits.length === 1 ? edits[0] : over
  return only === undefined ? { kind: 'all' } : reasonOf(only)
}

/** What an edit is, for the history. */
export function reasonOf(edit: ProgrammeEdit): ChangeReason {
  switch (edit.kind) {
    case 'cut':
      return { kind: 'cut', parts: edit.parts.length }
    case 'framing':
      return { kind: 'framing', off: edit.framing?.off === true }
    case 'overlay':
      return { kind: 'overlay', of: edit.overlay.kind }
    case 'voice':
      return { kind: 'voice', off: edit.treatment === null || isUntreated(edit.treatment) }
    case 'ink':
      return { kind: 'ink', change: edit.change.kind }
    case 'all':
      return reasonOfAll(edit.edits)
    case 'drop':
    case 'reopen':
    case 'move':
    case 'repeat':
    case 'tempo':
    case 'hold':
    case 'hush':
    case 'linger':
    case 'insert':
    case 'captions':
    case 'draw':
    case 'looked':
    case 'bare':
    case 'bed':
    case 'light':
    case 'backdrop':
      return { kind: edit.kind }
    default:
      return unreachable(edit)
  }
}
