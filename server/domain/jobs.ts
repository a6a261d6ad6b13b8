import { sql } from 'kysely'
import type { Queries } from '@server/database'

/** What each kind of job is given. */
export interface Jobs {
  readonly 'read-deck': { readonly id: string }
  readonly 'finish-take': { readonly take: string }
  readonly deliver: { readonly delivery: string }
}

/** How often a job is tried before it has failed. */
export const ATTEMPTS = 3

/** Adds a job. Within a transaction it begins when that commits; asked for twice with one key, it is done once. */
export async function addJob<Name extends keyof Jobs>(q: Queries, name: Name, payload: Jobs[Name], key: string): Promise<void> {
  await sql`select graphile_worker.add_job(${name}, payload => ${JSON.stringify(payload)}::json, max_attempts => ${ATTEMPTS}, job_key => ${key})`.execute(q)
}
