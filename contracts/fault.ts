import type { RefusalCode } from '@core/model'

/** The one shape in which the server says that something was not done. */
export interface FaultBody {
  readonly error: {
    readonly code: RefusalCode
    /** For the person: what happened, what was kept, what to do. */
    readonly sentence: string
    readonly detail: Readonly<Record<string, unknown>>
  }
}

/** HTTP status for each kind of refusal. */
export const STATUS_OF: Readonly<Record<RefusalCode, number>> = {
  'not-signed-in': 401,
  'not-allowed': 403,
  'not-found': 404,
  conflict: 409,
  'too-large': 413,
  malformed: 400,
  unreadable: 422,
  'over-limit': 422,
  'too-many': 429,
  unavailable: 503,
  internal: 500,
}
