import type { Task } from 'graphile-worker'
import { QUEUE_NAMES } from '@contracts'
import type { QueueName } from '@contracts'
import type { JOBS_OF } from '@server/domain'
import { settings } from '@server/settings'
import { makeExportGivenUp, makeExportTask } from './exports'
import { task } from './task'
import { bringVoiceGivenUp, bringVoiceTask } from './tasks/bring-voice'
import { checkAllTask, checkRecentTask } from './tasks/check-kept'
import { deliverGivenUp, deliverTask } from './tasks/deliver'
import { finishTakeGivenUp, finishTakeTask, settleTakeGivenUp, settleTakeTask } from './tasks/finish-take'
import { helpDeliverGivenUp, helpDeliverTask } from './tasks/help-deliver'
import { listenGivenUp, listenTask } from './tasks/listen'
import { makeAheadGivenUp, makeAheadTask } from './tasks/make-ahead'
import { makeBackdropGivenUp, makeBackdropTask } from './tasks/make-backdrop'
import { makeStreamGivenUp, makeStreamTask } from './tasks/make-stream'
import { probeGivenUp, probeTask } from './tasks/probe'
import { readArchiveGivenUp, readArchiveTask } from './tasks/read-archive'
import { readDeckGivenUp, readDeckTask } from './tasks/read-deck'
import { readFilmGivenUp, readFilmTask } from './tasks/read-film'
import { reclaimTask } from './tasks/reclaim'
import { sendFileGivenUp, sendFileTask } from './tasks/send-file'
import { sendLetterGivenUp, sendLetterTask } from './tasks/send-letter'
import { takeEntryGivenUp, takeEntryTask } from './tasks/take-entry'

/** What can wait while there is no room on the disk but for recordings. */
const needsRoom = true

/** What each queue does. One does not wait for another: a long film holds up no take. */
export const QUEUES: { readonly [Name in QueueName]: Readonly<Record<(typeof JOBS_OF)[Name][number], Task>> } = {
  takes: {
    'finish-take': task('take', finishTakeTask, finishTakeGivenUp),
    'settle-take': task('take', settleTakeTask, settleTakeGivenUp),
    'bring-voice': task('take', bringVoiceTask, bringVoiceGivenUp),
  },
  decks: {
    'read-deck': task('id', readDeckTask, readDeckGivenUp, { needsRoom }),
    'read-archive': task('id', readArchiveTask, readArchiveGivenUp, { needsRoom }),
    'read-film': task('id', readFilmTask, readFilmGivenUp, { needsRoom }),
    'take-entry': task('entry', takeEntryTask, takeEntryGivenUp),
  },
  letters: {
    'send-letter': task('letter', sendLetterTask, sendLetterGivenUp, { shared: true }),
    'send-file': task('sending', sendFileTask, sendFileGivenUp),
  },
  films: {
    deliver: task('delivery', deliverTask, deliverGivenUp, { needsRoom }),
    'help-deliver': task('delivery', helpDeliverTask, helpDeliverGivenUp, { shared: true }),
    'make-export': task('export', makeExportTask, makeExportGivenUp, { needsRoom }),
    // Nobody waits for it while files are made.
    probe: task('talk', probeTask, probeGivenUp),
  },
  listening: { listen: task('talk', listenTask, listenGivenUp) },
  ahead: {
    'make-ahead': task('talk', makeAheadTask, makeAheadGivenUp, { needsRoom }),
    'make-stream': task('talk', makeStreamTask, makeStreamGivenUp, { needsRoom }),
    'make-backdrop': task('film', makeBackdropTask, makeBackdropGivenUp, { needsRoom }),
    reclaim: reclaimTask,
    'check-recent': checkRecentTask,
    'check-all': checkAllTask,
  },
}

/** How many jobs of each queue this worker does at a time. */
export function sharesOf(): Readonly<Record<QueueName, number>> {
  const { workers, shares } = settings()
  const usual: Readonly<Record<QueueName, number>> = { takes: workers, decks: 1, letters: 2, films: workers, listening: 1, ahead: 1 }
  return { ...usual, ...shares }
}

/** Queues that this worker serves. */
export const servedQueues = (): readonly QueueName[] => QUEUE_NAMES.filter((name) => sharesOf()[name] > 0)
