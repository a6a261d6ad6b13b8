import type { Ms } from '@core/model'

/** Which of the visits that follow each other is on at a time: the last that has begun; the first before that, null when there is none. */
export const visitAt = <Visit extends { readonly start: Ms }>(visits: readonly Visit[], at: Ms): Visit | null =>
  visits.findLast(({ start }) => start <= at) ?? visits[0] ?? null
