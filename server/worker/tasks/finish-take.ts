import { Refusal } from '@core/model'
import { database } from '@server/database'
import {
  closingStretches,
  closingWindows,
  failTake,
  lastCueAt,
  placeFinishedTake,
  silentStretchReady,
  stretchesToSettle,
} from '@server/domain'
import { alone } from '../claims'
import type { Claim } from '../claims'
import { makeReady, settleStretch } from './ready-stretch'
import { makeWindowReady } from './ready-window'

/** Makes each stretch of a take ready to be played, then puts the take into the programme. Can be repeated at any point. */
export async function finishTakeTask(take: string, claim: Claim): Promise<void> {
  const db = database()
  for (const stretch of await closingStretches(db, take)) {
    const count = stretch.chunks ?? 0
    if (count > 0) {
      const refused = await makeReady(db, stretch, count, claim).then(() => null, refusalOf)
      if (refused === null) continue
      await giveUp(take, claim, refused.message)
      return
    }
    // Timings and ink alone: it lasts until it was closed, or until the last thing that happened in it.
    const length = stretch.voice ? 0 : (stretch.length_ms ?? (await lastCueAt(db, stretch.id)))
    await silentStretchReady(db, stretch.id, length)
  }
  // Their slides are in the programme by what they show: before the take is.
  for (const window of await closingWindows(db, take)) await makeWindowReady(db, window, claim)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await placeFinishedTake(q, take)
  })
}

/** What is left to do of a take that has its place, and that nobody waits for. Can be repeated at any point. */
export async function settleTakeTask(take: string): Promise<void> {
  const db = database()
  // More of it may come, and be made ready anew: then that is waited for.
  await alone('finish-take', take, async (_, claim) => {
    for (const stretch of await stretchesToSettle(db, take)) await settleStretch(db, stretch, claim)
  })
}

/** All of it can be played. What is left to do is done when all that is kept is checked. */
export const settleTakeGivenUp = (): Promise<void> => Promise.resolve()

function refusalOf(error: unknown): Refusal {
  if (error instanceof Refusal) return error
  throw error
}

const giveUp = (take: string, claim: Claim, sentence: string): Promise<void> =>
  database()
    .transaction()
    .execute(async (q) => {
      await claim.stillHeld(q)
      await failTake(q, take, sentence)
    })

export const finishTakeGivenUp = (take: string, _: unknown, claim: Claim): Promise<void> =>
  giveUp(
    take,
    claim,
    'This take could not be made ready. The recording is kept on the server as it came; try again, and tell whoever runs this ' +
      'server if it fails again.',
  )
