import { renderPlan } from '@core/plan'
import { isVideo } from '@core/model'
import { codingOf } from '@render/video'
import { database } from '@server/database'
import { isProbed, keepProbe, machineNeeded, revisionOf } from '@server/domain'
import { log } from '@server/log'
import type { Claim } from '../claims'
import { lastRecipe } from './last-recipe'
import { makeSamples } from './make-samples'
import { WhileNeeded } from './while-needed'

/**
 * Makes some of a talk's pictures as its recipe wants them, to know what all of them will take. Not while somebody records or waits for
 * a file.
 */
export async function probeTask(talk: string, { number }: Claim): Promise<void> {
  const found = await lastRecipe(talk)
  if (found === null || (await machineNeeded(database()))) return
  const { index, recipe } = found
  const plan = renderPlan(index, recipe)
  const { format } = plan
  if (!isVideo(format)) return
  const revision = revisionOf(recipe, index.film)
  if (await isProbed(database(), talk, plan, recipe, revision)) return
  const idle = new WhileNeeded(async () => !(await machineNeeded(database())))
  try {
    const probe = await makeSamples(index, plan, codingOf(format, plan.quality, plan.bits), idle, `probe.${String(number)}`)
    log.info({ talk, probe }, "looked at what a talk's pictures take")
    await keepProbe(database(), talk, plan, recipe, revision, probe)
  } catch (error) {
    if (!idle.needless) throw error
  } finally {
    idle.end()
  }
}

/** What was reckoned without it stays. */
export const probeGivenUp = (): Promise<void> => Promise.resolve()
