import { renderPlan } from '@core/plan'
import { isVideo } from '@core/model'
import { codingOf } from '@render/video'
import { database } from '@server/database'
import { wantAhead } from '@server/domain'
import { log } from '@server/log'
import { trimSegmentCache } from '@server/store'
import { settings } from '@server/settings'
import type { Claim } from '../claims'
import { lastRecipe } from './last-recipe'
import { makePictures } from './make-pictures'
import { makeSound } from './make-sound'
import { idleOptions, whileIdle } from './while-idle'

/** Makes the parts of a talk's file while nobody needs the machine, so that there is little left to do when it is asked for. */
export async function makeAheadTask(talk: string, { number }: Claim): Promise<void> {
  if (settings().makeAhead === 0) return
  await whileIdle(
    talk,
    () => wantAhead(database(), talk),
    async (idle) => {
      const found = await lastRecipe(talk)
      if (found === null) return
      const { index, recipe } = found
      const plan = renderPlan(index, recipe)
      const label = `ahead.${String(number)}`
      await makeSound(plan, label, idle.signal)
      if (isVideo(plan.format)) await makePictures(index, plan, codingOf(plan.format, plan.quality, plan.bits), idle, idleOptions(label))
      await trimSegmentCache(settings().segmentCache, Date.now())
      log.info({ talk, frames: plan.frames }, 'made ahead')
    },
  )
}

/** Nobody asked for it, so nobody is told. */
export const makeAheadGivenUp = (): Promise<void> => Promise.resolve()
