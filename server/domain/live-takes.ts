import { sql } from 'kysely'
import { ago } from './ago'

/** A take was heard of so lately that it is being recorded, in ms. */
export const HEARD_OF = 20_000

/** Whether a take is being recorded, by when it was heard of last. Decided here: a page sees only its own browser. */
export const isLive = sql<boolean>`take.state = 'open' and take.seen > ${ago(HEARD_OF)}`
