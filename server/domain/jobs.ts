import { sql } from 'kysely'
import type { Queries } from '@server/database'
import { currentRequest } from '@server/log'

/** What each kind of job is given. */
export interface Jobs {
  readonly 'read-deck': { readonly id: string }
  readonly 'finish-take': { readonly take: string }
  /** What is left to do once a take has its place. */
  readonly 'settle-take': { readonly take: string }
  readonly 'bring-voice': { readonly take: string }
  readonly deliver: { readonly delivery: string }
  /** A part of a delivery's pictures, for a worker that is not making it already. */
  readonly 'help-deliver': { readonly delivery: string }
  /** Some of a talk's pictures are made as its recipe wants them, to see what they take. */
  readonly probe: { readonly talk: string }
  readonly 'make-ahead': { readonly talk: string }
  /** A talk that is shown to others, as a film of several sizes. */
  readonly 'make-stream': { readonly talk: string }
  /** A camera with another backdrop. */
  readonly 'make-backdrop': { readonly film: string }
  /** What is said in a talk's recordings is found. */
  readonly listen: { readonly talk: string }
  /** An archive of a talk is read into one. */
  readonly 'read-archive': { readonly id: string }
  /** A finished film becomes a take of a talk. */
  readonly 'read-film': { readonly id: string }
  /** Something of a talk to be taken along. */
  readonly 'make-export': { readonly export: string }
  readonly 'send-letter': { readonly letter: string }
  readonly 'send-file': { readonly sending: string }
  /** What was handed in for a call is taken in, or refused. */
  readonly 'take-entry': { readonly entry: string }
  /** What was kept lately is read, and made again where it is damaged. */
  readonly 'check-recent': Readonly<Record<never, never>>
}

/** How often a job is tried before it has failed. */
const ATTEMPTS = 3

/** When a job is done. */
export interface JobTurn {
  /** Not before; null: as soon as it can be. */
  readonly starts: Date | null
  /** Of jobs that wait, lower ones are done first. */
  readonly place: number
  /** What marks it: a worker may refuse jobs that are marked so. */
  readonly flags?: readonly string[]
}
/** Place of what is done once no file waits to be begun. */
export const AFTER_FILES = 10
const AT_ONCE: JobTurn = { starts: null, place: 0 }

/** Adds a job. Within a transaction it begins when that commits; asked for twice with one key, it is done once, at its last turn. */
export async function addJob<Name extends keyof Jobs>(
  q: Queries,
  name: Name,
  payload: Jobs[Name],
  key: string,
  { starts, place, flags }: JobTurn = AT_ONCE,
): Promise<void> {
  const request = currentRequest()
  const given = JSON.stringify(request === null ? payload : { ...payload, request })
  await sql`select graphile_worker.add_job(${name}, payload => ${given}::json, max_attempts => ${ATTEMPTS},
    job_key => ${key}, run_at => coalesce(${starts}::timestamptz, now()), priority => ${place}, flags => ${flags ?? null}::text[])`.execute(
    q,
  )
}

/** Takes jobs out of the queue; what is being done goes on. */
export async function removeJob(q: Queries, ...keys: readonly string[]): Promise<void> {
  await sql`select graphile_worker.remove_job(key) from unnest(${keys}::text[]) as key`.execute(q)
}
