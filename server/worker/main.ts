import { EventEmitter } from 'node:events'
import Joi from 'joi'
import { Logger, makeWorkerUtils, run } from 'graphile-worker'
import type { TaskList, WorkerEvents } from 'graphile-worker'
import { database, databasePool } from '@server/database'
import { AFTER_FILES, addJob } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { ClaimLost, alone } from './claims'
import type { Claim, Work } from './claims'
import { Heartbeat } from './heartbeat'
import { WORKER, notFor } from './identity'
import { ownSpeechModel } from './own-speech-model'
import { followers } from './recordings'
import { bringVoiceGivenUp, bringVoiceTask } from './tasks/bring-voice'
import { deliverGivenUp, deliverTask } from './tasks/deliver'
import { helpDeliverGivenUp, helpDeliverTask } from './tasks/help-deliver'
import { finishTakeGivenUp, finishTakeTask, settleTakeGivenUp, settleTakeTask } from './tasks/finish-take'
import { makeBackdropGivenUp, makeBackdropTask } from './tasks/make-backdrop'
import { makeAheadGivenUp, makeAheadTask } from './tasks/make-ahead'
import { makeStreamGivenUp, makeStreamTask } from './tasks/make-stream'
import { checkAllTask, checkRecentTask } from './tasks/check-kept'
import { probeGivenUp, probeTask } from './tasks/probe'
import { reclaimTask } from './tasks/reclaim'
import { listenGivenUp, listenTask } from './tasks/listen'
import { sendFileGivenUp, sendFileTask } from './tasks/send-file'
import { sendLetterGivenUp, sendLetterTask } from './tasks/send-letter'
import { takeEntryGivenUp, takeEntryTask } from './tasks/take-entry'
import { makeExportGivenUp, makeExportTask } from './exports'
import { readArchiveGivenUp, readArchiveTask } from './tasks/read-archive'
import { readFilmGivenUp, readFilmTask } from './tasks/read-film'
import { readDeckGivenUp, readDeckTask } from './tasks/read-deck'

/**
 * A job: what it is given, how it is done, and what is said when it has failed as often as it may.
 * @param shared may be done by several workers at a time
 */
function task(
  field: string,
  work: Work,
  givenUp: (id: string, error: unknown, claim: Claim) => Promise<void>,
  shared = false,
): TaskList[string] {
  const payloadOf = Joi.object<Record<string, string>>({ [field]: Joi.string().guid().required() })
  return async (payload, helpers) => {
    const { value, error } = payloadOf.validate(payload)
    if (error !== undefined) throw error
    const id = value[field] ?? ''
    const { job } = helpers
    // A worker may be taken for dead while it only was very slow: its job is given to another then, which waits for it.
    const [name, whose] = shared ? ['job', job.id] : [job.task_identifier, id]
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
  }
}

// Recordings and keys are nobody's else on this machine.
process.umask(0o077)
const { workers, workerGrace } = settings()
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
const runner = await run({
  pgPool: databasePool(),
  concurrency: workers,
  pollInterval: 1000,
  noHandleSignals: true,
  logger,
  events,
  forbiddenFlags: [notFor(WORKER)],
  taskList: {
    'read-deck': task('id', readDeckTask, readDeckGivenUp),
    'finish-take': task('take', finishTakeTask, finishTakeGivenUp),
    'settle-take': task('take', settleTakeTask, settleTakeGivenUp),
    'bring-voice': task('take', bringVoiceTask, bringVoiceGivenUp),
    deliver: task('delivery', deliverTask, deliverGivenUp),
    'help-deliver': task('delivery', helpDeliverTask, helpDeliverGivenUp, true),
    probe: task('talk', probeTask, probeGivenUp),
    'make-ahead': task('talk', makeAheadTask, makeAheadGivenUp),
    'make-backdrop': task('film', makeBackdropTask, makeBackdropGivenUp),
    'make-stream': task('talk', makeStreamTask, makeStreamGivenUp),
    'read-archive': task('id', readArchiveTask, readArchiveGivenUp),
    'read-film': task('id', readFilmTask, readFilmGivenUp),
    'make-export': task('export', makeExportTask, makeExportGivenUp),
    listen: task('talk', listenTask, listenGivenUp),
    'send-file': task('sending', sendFileTask, sendFileGivenUp),
    'send-letter': task('letter', sendLetterTask, sendLetterGivenUp, true),
    'take-entry': task('entry', takeEntryTask, takeEntryGivenUp),
    reclaim: reclaimTask,
    'check-recent': checkRecentTask,
    'check-all': checkAllTask,
  },
  // At night, and once more when the machine was off then; all that is kept is read once a week.
  crontab: '23 3 * * * reclaim ?fill=1d\n53 3 * * 0 check-all ?fill=7d',
})
heartbeat.start()
followers.start()
// The machine may have lost its power.
await addJob(database(), 'check-recent', {}, 'check-recent', { starts: null, place: AFTER_FILES })
await ownSpeechModel()
log.info({ concurrency: workers }, 'worker ready')

let stopping = false
const stop = (): void => {
  if (stopping) return
  stopping = true
  followers.stop()
  // Jobs under way are given back and begun again by whoever comes next.
  void Promise.race([
    runner.stop(),
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
await runner.promise
