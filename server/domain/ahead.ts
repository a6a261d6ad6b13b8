import { sql } from 'kysely'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { ago } from './ago'
import { addJob } from './jobs'

/** A take that was heard of within this time is being recorded, in ms. */
const RECORDING = 15_000
/** A take that was stopped so long ago is not being made ready any more, in ms. */
const CLOSING = 3_600_000
/** Whatever else waits is done first. */
const LAST = 1000

/** Has the parts of a talk's file made once nothing of it has changed for a while, if that is wanted at all. */
export async function wantAhead(q: Queries, talk: string): Promise<void> {
  const { makeAhead } = settings()
  if (makeAhead === 0) return
  await addJob(q, 'make-ahead', { talk }, `ahead:${talk}`, { starts: new Date(Date.now() + makeAhead), place: LAST })
}

/** Whether somebody is recording, or waits for a take or a file. */
export async function machineNeeded(q: Queries): Promise<boolean> {
  const { needed } = await q
    .selectNoFrom((build) =>
      build
        .or([
          build.exists(
            build
              .selectFrom('take')
              .select('take.id')
              .where((take) =>
                take.or(
                  (
                    [
                      ['open', RECORDING],
                      ['closing', CLOSING],
                    ] as const
                  ).map(([state, within]) => take.and([take('take.state', '=', state), take('take.seen', '>', ago(within))])),
                ),
              ),
          ),
          build.exists(
            build
              .selectFrom('delivery')
              .select('delivery.id')
              .where((either) =>
                either.or([
                  either('delivery.state', 'in', ['making', 'checking']),
                  either.and([
                    either('delivery.state', '=', 'queued'),
                    either.or([either('delivery.starts', 'is', null), either('delivery.starts', '<=', sql<Date>`now()`)]),
                  ]),
                ]),
              ),
          ),
        ])
        .as('needed'),
    )
    .executeTakeFirstOrThrow()
  return Boolean(needed)
}
