import type { Review } from '@core/calls'
import type { CallView, RegisterRow } from '@contracts'

/** What is said of an entry in the register. */
export const REVIEW_WORDS: Readonly<Record<Review, string>> = {
  unseen: 'new',
  seen: 'seen',
  'sent-back': 'sent back',
  accepted: 'accepted',
}

const count = (n: number, one: string, many: string): string => `${String(n)} ${n === 1 ? one : many}`

/** How far a call's people came, as a line. */
export function countsInWords({ counts: { begun, handedIn, unseen, missing }, audience }: CallView): string {
  const parts = [
    `${count(handedIn, 'talk', 'talks')} handed in`,
    ...(unseen > 0 ? [`${String(unseen)} not looked at yet`] : []),
    audience === 'link' ? `${String(begun)} begun` : `${String(missing)} missing`,
  ]
  return parts.join(' · ')
}

/** What of a row's entry does not keep the rules: how many things. */
export const faultsOf = ({ entry }: RegisterRow): number => (entry?.lines ?? []).filter(({ state }) => state !== 'met').length

/** Those of whom nothing was taken yet, and who can be written to. */
export const missingOf = (rows: readonly RegisterRow[]): readonly RegisterRow[] =>
  rows.filter(({ entry, address }) => entry === null && address !== null)
