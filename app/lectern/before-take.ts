import { unreachable } from '@core/model'
import type { Intent, Ms, Programme } from '@core/model'
import { programmeLength } from '@core/programme'
import type { Visit } from '@core/programme'

/** What stands before a take in the finished talk, in ms, by what becomes of the programme. */
export function beforeTake(intent: Intent, programme: Programme, visits: readonly Visit[]): Ms {
  const startOf = (id: Visit['id']): Ms => visits.find((visit) => visit.id === id)?.start ?? 0
  switch (intent.kind) {
    case 'replaceAll':
      return 0
    case 'append':
      return programmeLength(programme)
    case 'replaceFrom':
    case 'dub':
      return intent.at
    case 'retake':
      return startOf(intent.visit)
    case 'range':
      return startOf(intent.visit) + intent.from
    default:
      return unreachable(intent)
  }
}
