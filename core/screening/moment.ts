import type { Ms } from '@core/model'
import { visitAt } from './visit-at'

/** A moment of a film, told by what is on then: it goes wherever that goes. */
export interface Moment {
  readonly visit: string
  /** ms into that visit */
  readonly into: Ms
}

interface Placed {
  readonly id: string
  readonly start: Ms
  readonly length: Ms
}

/** The moment at a time of a film; the last one, when the time lies beyond its end. @returns null when nothing is played */
export function momentAt(visits: readonly Placed[], at: Ms): Moment | null {
  const visit = visitAt(visits, at)
  return visit === null ? null : { visit: visit.id, into: Math.min(visit.length, Math.max(0, Math.round(at - visit.start))) }
}

/** When a moment is in a film; where its visit is shorter now, at its end. @returns null when the visit is no longer in it */
export function momentOf(visits: readonly Placed[], { visit: id, into }: Moment): Ms | null {
  const visit = visits.find((one) => one.id === id)
  return visit === undefined ? null : visit.start + Math.min(into, visit.length)
}
