import { unreachable } from '@core/model'

/** What happens to what is handed in after the last day, and to what does not keep the rules. */
export const LATE_WAYS = ['refused', 'marked'] as const
export type LateWay = (typeof LATE_WAYS)[number]

/**
 * How far an entry came: its file is being made, a file that was brought is being measured, it was taken, or it was not.
 */
export const ENTRY_STATES = ['making', 'checking', 'taken', 'refused'] as const
export type EntryState = (typeof ENTRY_STATES)[number]

/** What whoever called says of an entry. */
export const REVIEWS = ['unseen', 'seen', 'sent-back', 'accepted'] as const
export type Review = (typeof REVIEWS)[number]

/** As far as it matters for what comes after it. */
export interface EarlierEntry {
  readonly state: EntryState
  readonly review: Review
}

/** When a call takes entries. */
export interface CallTerms {
  /** Its last moment, in ms since 1970. */
  readonly until: number
  readonly late: LateWay
  /** It was taken back by whoever called. */
  readonly withdrawn: boolean
}

/** Whether something that is handed in now is taken. */
export type Taking = { readonly kind: 'taken'; readonly late: boolean } | { readonly kind: 'refused'; readonly sentence: string }

const refused = (sentence: string): Taking => ({ kind: 'refused', sentence })

/** Whether an entry is on its way to being taken or refused. */
export function isPending(state: EntryState): boolean {
  switch (state) {
    case 'making':
    case 'checking':
      return true
    case 'taken':
    case 'refused':
      return false
    default:
      return unreachable(state)
  }
}

/** What counts of a talk's entries: the newest that was taken; null: none was. @param entries the newest first */
export const countedEntry = <Entry extends EarlierEntry>(entries: readonly Entry[]): Entry | null =>
  entries.find(({ state }) => state === 'taken') ?? null

/**
 * Whether a talk can be handed in at a moment. What was begun in time is in time: the moment is the one at which somebody
 * said so, not the one at which their file was there.
 * @param entries of this talk, the newest first
 * @param now in ms since 1970
 */
export function takingAt({ until, late, withdrawn }: CallTerms, entries: readonly EarlierEntry[], now: number): Taking {
  if (withdrawn) return refused('This call was taken back, so nothing is handed in any more. Your talk stays yours.')
  if (entries.some(({ state }) => isPending(state))) return refused('What you handed in just now is on its way. Wait for it.')
  const counted = countedEntry(entries)
  if (counted?.review === 'accepted') return refused('What you handed in was accepted. Nothing more is needed.')
  if (now <= until) return { kind: 'taken', late: false }
  // Whoever sends something back asks for it again, whatever the day.
  if (counted?.review === 'sent-back') return { kind: 'taken', late: true }
  if (counted !== null) return refused('The last day is over. What you handed in before stands.')
  if (late === 'marked') return { kind: 'taken', late: true }
  return refused('The last day is over, and nothing is taken any more. Write to whoever asked for it.')
}
