import type { Ms } from '@core/model'
import { visitAt } from './visit-at'

/** A film is counted in parts of so much of each visit, in ms. */
export const WATCHED_PART: Ms = 5000

/** A part of a film: the visit that it lies in, and its number there, from 0. It goes wherever that goes. */
export interface FilmPart {
  readonly visit: string
  readonly part: number
}

interface Placed {
  readonly id: string
  readonly start: Ms
  readonly length: Ms
}

/** The part that is on at a time; null when nothing is played. */
export function partAt(visits: readonly Placed[], at: Ms): FilmPart | null {
  const visit = visitAt(visits, at)
  return visit === null
    ? null
    : { visit: visit.id, part: Math.max(0, Math.floor(Math.min(at - visit.start, visit.length - 1) / WATCHED_PART)) }
}

/** How many parts a visit has. */
export const partsOf = ({ length }: Pick<Placed, 'length'>): number => Math.max(1, Math.ceil(length / WATCHED_PART))

/** What one who watches has told so far, and has yet to tell. Nothing in it says who they are. */
export interface WatchLog {
  /** Names of parts that were played, all of them. */
  readonly played: ReadonlySet<string>
  /** Parts played first, and parts gone back to, since it was told last. */
  readonly fresh: readonly FilmPart[]
  readonly back: readonly FilmPart[]
  readonly begun: boolean
  /** It was played to its end. */
  readonly finished: boolean
  /** Where it was told last that they left. */
  readonly left: FilmPart | null
}

export const NOTHING_WATCHED: WatchLog = { played: new Set(), fresh: [], back: [], begun: false, finished: false, left: null }

const nameOf = ({ visit, part }: FilmPart): string => `${visit} ${String(part)}`

/** It plays at a time. */
export function playedAt(log: WatchLog, visits: readonly Placed[], at: Ms, length: Ms): WatchLog {
  const part = partAt(visits, at)
  if (part === null) return log
  const finished = log.finished || at >= length - WATCHED_PART
  if (log.played.has(nameOf(part))) return finished === log.finished ? log : { ...log, finished }
  return { ...log, played: new Set([...log.played, nameOf(part)]), fresh: [...log.fresh, part], finished }
}

/** Somebody went to another time: back, where that was played already, says that it was not clear, or worth it. */
export function wentTo(log: WatchLog, visits: readonly Placed[], from: Ms, to: Ms): WatchLog {
  const part = partAt(visits, to)
  return part === null || to >= from || !log.played.has(nameOf(part)) ? log : { ...log, back: [...log.back, part] }
}

/** What is told to the server: counts of this one page, one each. */
export interface WatchReport {
  readonly begun: boolean
  readonly finished: boolean
  readonly played: readonly FilmPart[]
  readonly back: readonly FilmPart[]
  /** Where they are as they leave; null while they watch. */
  readonly left: FilmPart | null
  /** Where it was told before that they left, and they did not. */
  readonly stayed: FilmPart | null
}

const isSame = (one: FilmPart | null, other: FilmPart | null): boolean => one !== null && other !== null && nameOf(one) === nameOf(other)

const saysAnything = ({ begun, finished, played, back, left, stayed }: WatchReport): boolean =>
  begun || finished || played.length + back.length > 0 || left !== null || stayed !== null

/**
 * What is to be told now.
 * @param before the log when it was told last
 * @param left where they are as they leave; null: they watch
 * @returns the report, null when there is nothing to tell, and the log from then on
 */
export function report(
  log: WatchLog,
  before: WatchLog,
  left: FilmPart | null,
): { readonly report: WatchReport | null; readonly log: WatchLog } {
  if (log.played.size === 0) return { report: null, log }
  const same = isSame(left, log.left)
  const told: WatchReport = {
    begun: !log.begun,
    finished: log.finished && !before.finished,
    played: log.fresh,
    back: log.back,
    left: same ? null : left,
    stayed: same ? null : log.left,
  }
  return { report: saysAnything(told) ? told : null, log: { ...log, fresh: [], back: [], begun: true, left: same ? log.left : left } }
}
