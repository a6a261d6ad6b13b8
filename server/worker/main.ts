import { EventEmitter } from 'node:events'
import { mkdir } from 'node:fs/promises'
import { Logger, makeWorkerUtils, run } from 'graphile-worker'
import type { WorkerEvents } from 'graphile-worker'
import { database, databasePool } from '@server/database'
import { AFTER_FILES, addJob, requireOwnStore } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { keepCopiesSmall } from '@server/store'
import { Heartbeat } from './heartbeat'
import { WORKER, notFor } from './identity'
import { ownSpeechModel } from './own-speech-model'
import { followers } from './recordings'
import { QUEUES, servedQueues, sharesOf } from './queues'

// Recordings and keys are nobody's else on this machine.
process.umask(0o077)
const { data, workerGrace } = settings()
// On a machine that has none of it yet, where media are kept elsewhere.
await mkdir(data, { recursive: true })
await requireOwnStore(database()).catch((error: unknown) => {
  log.fatal(error instanceof Error ? error.message : String(error))
  process.exit(1)
})
const logger = new Logger(() => (level, message) => {
  if (level === 'error') log.error(message)
  else log.debug(message)
})
const events: WorkerEvents = new EventEmitter()
const utils = await makeWorkerUtils({ pgPool: databasePool(), logger })
const heartbeat = new Heartbeat(database(), utils, workerGrace)
// Jobs are locked by the pool or by one of its workers, as the runner sees fit.
const live = (id: string): void => {
  heartbeat.join(id).catch((error: unknown) => {
    log.warn({ error: String(error) }, 'heartbeat missed')
  })
}
events.on('pool:create', ({ workerPool }) => {
  live(workerPool.id)
})
events.on('worker:create', ({ worker }) => {
  live(worker.workerId)
})
await heartbeat.beat()
const shares = sharesOf()
const runners = await Promise.all(
  servedQueues().map((name) =>
    run({
      pgPool: databasePool(),
      concurrency: shares[name],
      pollInterval: 1000,
      noHandleSignals: true,
      logger,
      events,
      forbiddenFlags: [notFor(WORKER)],
      taskList: QUEUES[name],
      // At night, and once more when the machine was off then; all that is kept is read once a week.
      crontab: name === 'ahead' ? '23 3 * * * reclaim ?fill=1d\n53 3 * * 0 check-all ?fill=7d' : '',
    }),
  ),
)
heartbeat.start()
followers.start()
const endTrimming = keepCopiesSmall()
// The machine may have lost its power.
await addJob(database(), 'check-recent', {}, 'check-recent', { starts: null, place: AFTER_FILES })
await ownSpeechModel()
log.info({ shares }, 'worker ready')

let stopping = false
const stop = (): void => {
  if (stopping) return
  stopping = true
  followers.stop()
  endTrimming()
  // Jobs under way are given back and begun again by whoever comes next.
  void Promise.race([
    Promise.all(runners.map((runner) => runner.stop())),
    new Promise((resolve) => {
      setTimeout(resolve, 3000)
    }),
  ])
    .then(() => heartbeat.leave())
    .catch(() => undefined)
    .finally(() => {
      process.exit(0)
    })
}
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
await Promise.all(runners.map((runner) => runner.promise))
