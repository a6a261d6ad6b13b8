import { sql } from 'kysely'
import { UNDER_WAY } from '@core/model'
import type { Queries } from '@server/database'
import { AFTER_FILES } from './jobs'

/**
 * Shares out turns among people: whose films wait has one made, then who else waits has one, however many they ordered. The place of each
 * job is how many of the same person's films come before it: those being made, then the others in the order that they put them in.
 * @param talk of the person whose films changed
 */
export async function shareTurns(q: Queries, talk: string): Promise<void> {
  await sql`
    with own as (
      select delivery.id, row_number() over (order by (delivery.state <> 'queued') desc, delivery.place, delivery.number) - 1 as before
      from delivery join talk on talk.id = delivery.talk
      where talk.owner = (select owner from talk where id = ${talk})
        and delivery.state = any(${[...UNDER_WAY]}::text[]) and coalesce(delivery.starts <= now(), true)
    ), due as (
      select jobs.id, least(own.before, ${AFTER_FILES - 1})::integer as place
      from own join graphile_worker.jobs on jobs.key = 'deliver:' || own.id
      where jobs.locked_at is null
    )
    select graphile_worker.reschedule_jobs(array_agg(due.id), priority => due.place) from due group by due.place`.execute(q)
}
