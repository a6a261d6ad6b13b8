import { Refusal } from '@core/model'
import { lengthOfRecording } from '@render/probe'
import { bringSound } from '@render/sound'
import { database } from '@server/database'
import { closingVoice, failTake, placeVoice } from '@server/domain'
import { settings } from '@server/settings'
import { broughtPath, here, putUnder, rawPath, sizeOf } from '@server/store'
import type { Claim } from '../claims'
import { partOf } from '../recordings'

/** Reads a sound file that was brought in as a slide's voice. Can be repeated at any point. */
export async function bringVoiceTask(take: string, claim: Claim): Promise<void> {
  const db = database()
  const stretch = await closingVoice(db, take)
  if (stretch === null) return
  const raw = rawPath(stretch)
  try {
    if ((await sizeOf(raw)) === null) {
      const part = partOf(raw, claim)
      await bringSound(await here(broughtPath(stretch)), part, settings().importTime)
      await putUnder(part, raw)
    }
    const length = await lengthOfRecording(await here(raw))
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      await placeVoice(q, take, stretch, length)
    })
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    await failTake(db, take, error.message)
  }
}

export const bringVoiceGivenUp = (take: string): Promise<void> =>
  failTake(
    database(),
    take,
    'Reading this voice failed on our side. The file is kept; bring it in again, and tell whoever runs this server if it fails again.',
  )
