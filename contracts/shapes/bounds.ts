import type { Ms, VisitId } from '@core/model'
import { real, text, whole } from './shape'
import type { Shape } from './shape'

/** Longest time anything here can have: a day. */
export const DAY = 86_400_000

/** Letters of the notes of a slide. */
export const MAX_NOTES = 20_000

export const ms: Shape<Ms> = whole(0, DAY)

/** A time of the finished talk, in ms: where something is played at another tempo it need not be whole. */
export const talkTime: Shape<Ms> = real(0, DAY)

export const share = real(0, 1)

/** Whether no two values are the same. */
export const distinct = (values: readonly unknown[]): boolean => new Set(values).size === values.length

export const digestOf = <Value extends string>(): Shape<Value> => text(64, 64, /^[0-9a-f]{64}$/)

export const pixels = whole(1, 20_000)

export const VISIT: Shape<VisitId> = text(1, 200)
