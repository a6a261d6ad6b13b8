import Joi from 'joi'
import type { JobHelpers, Task } from 'graphile-worker'
import { inRequest, log } from '@server/log'
import { roomForWork } from '@server/store'
import { ClaimLost, alone } from './claims'
import type { Claim, Work } from './claims'

/** How a job is done besides its work. */
export interface TaskOptions {
  /** May be done by several workers at a time. */
  readonly shared?: boolean
  /** Takes room on the disk that can be asked for later: it waits while there is less than is kept for recordings. */
  readonly needsRoom?: boolean
}

/** How long a job waits before it looks again whether there is room, in s. */
const AGAIN = 30

/** Puts a job off; it counts as not tried. */
async function putOff({ withPgClient, job }: JobHelpers): Promise<void> {
  await withPgClient((client) =>
    client.query(
      'select graphile_worker.add_job($1, $2::json, run_at => now() + make_interval(secs => $3), priority => $4, job_key => $5)',
      [job.task_identifier, JSON.stringify(job.payload), AGAIN, job.priority, job.key],
    ),
  )
}

/**
 * A job: what it is given, how it is done, and what is said when it has failed as often as it may. What it logs names the request that it
 * was asked by.
 * @param field of what it is given that names what it is about
 */
export function task(
  field: string,
  work: Work,
  givenUp: (id: string, error: unknown, claim: Claim) => Promise<void>,
  { shared = false, needsRoom = false }: TaskOptions = {},
): Task {
  const payloadOf = Joi.object<Record<string, string>>({ [field]: Joi.string().guid().required(), request: Joi.string().max(64) })
  return async (payload, helpers) => {
    const { value, error } = payloadOf.validate(payload)
    if (error !== undefined) throw error
    const id = value[field] ?? ''
    const { job } = helpers
    if (needsRoom && !(await roomForWork())) {
      log.warn({ job: job.task_identifier, id }, 'waits for room on the disk')
      await putOff(helpers)
      return
    }
    // A worker may be taken for dead while it only was very slow: its job is given to another then, which waits for it.
    const [name, whose] = shared ? ['job', job.id] : [job.task_identifier, id]
    await inRequest(value['request'] ?? null, async () => {
      const began = Date.now()
      await alone(name, whose, async (_, claim) => {
        try {
          await work(id, claim)
        } catch (fault) {
          log.error({ err: fault, job: job.task_identifier, id, attempt: job.attempts }, 'job failed')
          if (job.attempts >= job.max_attempts && !(fault instanceof ClaimLost)) await givenUp(id, fault, claim)
          throw fault
        }
      }).catch((fault: unknown) => {
        // Whoever took it over does it.
        if (!(fault instanceof ClaimLost)) throw fault
      })
      log.info({ job: job.task_identifier, id, ms: Date.now() - began }, 'job done')
    })
  }
}
