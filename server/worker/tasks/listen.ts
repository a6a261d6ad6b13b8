import { ProcessFailed } from '@render/process'
import { listenByFolder, listenByModel, modelFor, speaks } from '@render/speech'
import type { ListenOptions } from '@render/speech'
import { isMadeOut, timedByPauses } from '@core/words'
import type { Said, StretchId } from '@core/model'
import { database } from '@server/database'
import { keepSaid, listenLater, listenOrder, stretchesToHear } from '@server/domain'
import type { Listened } from '@server/domain'
import { log } from '@server/log'
import { nicenessOf } from '@server/media'
import { apartBounds } from '@server/settings'
import { here, voicePath } from '@server/store'
import type { Claim } from '../claims'
import { ownSpeechModel } from '../own-speech-model'
import { whileIdle } from './while-idle'

/** The most that a program takes for a second of speech, and besides, in ms: one that takes longer hangs. */
const TIME_A_SECOND = 4000
const TIME_BESIDE = 120_000

const FAILED = 'What is said here could not be made out: the recogniser failed. The recording is as it was; have it listened to again.'
const NOT_UNDERSTOOD =
  'What is said here could not be made out: nothing on this server understands its language, and nothing is written for its slides.'
const NOT_MADE_OUT =
  'Hardly anything could be made out here: it may be music or noise, several people at once, or another language than the talk’s.'
const NOTHING_HEARD = 'No speech was found in this recording.'

/** What came of hearing: words, or a sentence on why there are none. */
function asListened(by: 'folder' | 'model', said: Said): Listened {
  if (said.words.length === 0) return { by: null, sentence: NOTHING_HEARD, failed: false }
  return isMadeOut(said.words) ? { by, said } : { by: null, sentence: NOT_MADE_OUT, failed: false }
}

/** Finds what is said in a recording, by the best that there is for its language. */
async function listened(talk: string, stretch: StretchId, signal: AbortSignal): Promise<Listened | null> {
  const wish = await listenOrder(database(), talk, stretch)
  if (wish === null) return null
  const { language, ...order } = wish
  const options: ListenOptions = { time: TIME_BESIDE + (order.length / 1000) * TIME_A_SECOND, niceness: nicenessOf('listening'), signal }
  const voice = await here(voicePath(stretch))
  const own = await ownSpeechModel()
  if (own !== null && speaks(own, language)) {
    const said = await listenByFolder({ voice, ...order }, language, own, options, apartBounds())
    return asListened('folder', said)
  }
  if (await modelFor(language)) {
    const said = await listenByModel({ voice, ...order }, options)
    return asListened('model', said)
  }
  const said = timedByPauses(order.peaks, order.texts, order.shown)
  return said.words.length === 0 ? { by: null, sentence: NOT_UNDERSTOOD, failed: false } : { by: 'pauses', said }
}

/** Listens to all of a talk that nobody has listened to, while nobody needs the machine. */
export async function listenTask(talk: string, claim: Claim): Promise<void> {
  const db = database()
  await whileIdle(
    talk,
    () => listenLater(db, talk),
    async ({ signal }) => {
      for (const stretch of await stretchesToHear(db, talk)) {
        const found = await listened(talk, stretch, signal).catch((error: unknown): Listened => {
          if (signal.aborted || !(error instanceof ProcessFailed)) throw error
          log.warn({ talk, stretch, error: String(error) }, 'listening failed')
          return { by: null, sentence: FAILED, failed: true }
        })
        if (found === null) continue
        await db.transaction().execute(async (q) => {
          await claim.stillHeld(q)
          await keepSaid(q, talk, stretch, found)
        })
        log.info({ talk, stretch, by: found.by }, 'listened to')
      }
    },
  )
}

/** It can be asked for again. */
export const listenGivenUp = (): Promise<void> => Promise.resolve()
