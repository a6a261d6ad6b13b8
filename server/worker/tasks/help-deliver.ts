import { renderPlan } from '@core/plan'
import { isVideo } from '@core/model'
import { codingOf } from '@render/video'
import { database } from '@server/database'
import { AFTER_FILES, addJob, deliveryToMake, filmOfRecipe, isMaking, removeJob, setMakers } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import type { Claim } from '../claims'
import { WORKER, notFor } from '../identity'
import { makePictures } from './make-pictures'
import { WhileNeeded } from './while-needed'

/** Helpers are asked for one after the other; so many at most. */
const MOST = 16

const jobOf = (delivery: string, helper: number): string => `help:${delivery}:${String(helper)}`

/**
 * Asks another worker, if there is one that has nothing else to do, to make some of a delivery's pictures.
 * @param busy workers that do so already
 */
export const askForHelp = (delivery: string, busy: readonly string[]): Promise<void> =>
  addJob(database(), 'help-deliver', { delivery }, jobOf(delivery, busy.length), {
    starts: null,
    place: AFTER_FILES,
    flags: busy.map(notFor),
  })

/** Nobody needs to help any more. */
export const needNoHelp = (delivery: string): Promise<void> =>
  removeJob(database(), ...Array.from({ length: MOST }, (_, n) => jobOf(delivery, n + 1)))

/** Makes pictures of a delivery that another worker makes, the short parts first, and has the next one asked. */
export async function helpDeliverTask(id: string, { number }: Claim): Promise<void> {
  const row = await deliveryToMake(database(), id)
  if (row?.state !== 'making' || row.recipe.bits.kind === 'size' || row.helpers.includes(WORKER)) return
  const helpers = [...row.helpers, WORKER]
  await setMakers(database(), id, helpers)
  if (helpers.length < MOST) await askForHelp(id, helpers)
  const index = await filmOfRecipe(database(), row.talk, row.recipe, row.programme_revision ?? undefined)
  const plan = renderPlan(index, row.recipe)
  if (!isVideo(plan.format)) return
  const needed = new WhileNeeded(() => isMaking(database(), id))
  try {
    const parts = await makePictures(index, plan, codingOf(plan.format, plan.quality, plan.bits), needed, {
      label: `help.${String(number)}`,
      preview: null,
      lanes: settings().encoderThreads,
      first: 'short',
    })
    log.info({ delivery: id, made: parts.filter(({ took }) => took > 0).length }, 'helped with a delivery')
  } catch (error) {
    if (!needed.needless) throw error
  } finally {
    needed.end()
  }
}

/** Whoever makes the delivery makes the rest as well, and says what is wrong if it cannot. */
export const helpDeliverGivenUp = (): Promise<void> => Promise.resolve()
