/** Why something was not done. The code is for programs, the sentence is for the person. */
export type RefusalCode =
  | 'not-found'
  | 'not-signed-in'
  | 'not-allowed'
  | 'malformed'
  | 'too-large'
  | 'too-many'
  | 'conflict'
  | 'unreadable'
  | 'over-limit'
  | 'unavailable'
  | 'internal'

/**
 * The one error that is meant to be read by a person. `sentence` says what happened and, where there is something,
 * what was kept and what to do. Anything else that is thrown is a fault of ours.
 */
export class Refusal extends Error {
  readonly code: RefusalCode
  readonly detail: Readonly<Record<string, unknown>>

  constructor(code: RefusalCode, sentence: string, detail: Readonly<Record<string, unknown>> = {}) {
    super(sentence)
    this.name = 'Refusal'
    this.code = code
    this.detail = detail
  }
}

/** For the default branch of a switch that must name every case. */
export const unreachable = (value: never): never => {
  throw new Error(`unhandled case: ${JSON.stringify(value)}`)
}
