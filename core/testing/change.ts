import type { Programme, VisitId } from '@core/model'
import { applyProgrammeEdit } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import type { RandomTalk } from './random-talk'
import { playedVisits } from './reference-talk'
import type { Moment, ReferenceTalk } from './reference-talk'

/** What an edit makes of the programme and of the reference. */
export interface Change {
  readonly name: string
  readonly programme: (programme: Programme) => Programme
  readonly moments: (moments: readonly Moment[]) => readonly Moment[]
  readonly ink?: (talk: ReferenceTalk) => ReferenceTalk
  /** Whether it touches one visit alone, by name; null: more than one, or the order. */
  readonly only: VisitId | null
}

/** What an edit makes of a programme. */
export const edited =
  (edit: ProgrammeEdit) =>
  (programme: Programme): Programme =>
    applyProgrammeEdit(programme, edit)
/** Whether a moment is of a visit. */
export const inVisit =
  (visit: VisitId) =>
  (moment: Moment): boolean =>
    moment.visit === visit
/** All moments but those of a visit. */
export const withoutVisit = (moments: readonly Moment[], visit: VisitId): readonly Moment[] =>
  moments.filter((moment) => moment.visit !== visit)

/** Moments put in before the first of a visit; null: at the end. */
export function insertedBefore(rest: readonly Moment[], before: VisitId | null, added: readonly Moment[]): readonly Moment[] {
  const at = before === null ? rest.length : rest.findIndex(inVisit(before))
  return [...rest.slice(0, at), ...added, ...rest.slice(at)]
}

/** A place where a visit can go: before another one that is played, or at the end. */
export function somePlace(talk: RandomTalk): VisitId | null {
  const visits = [...playedVisits(talk.reference.moments), null]
  return visits[talk.random(visits.length)] ?? null
}
