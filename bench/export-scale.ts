import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { cpus } from 'node:os'
import { renderPlan } from '@core/plan'
import { USUAL_RECIPE } from '@core/model'
import { codingOf } from '@render/video'
import { bundle, programFile } from '../scripts/start/programs'
import { until } from '../tests/harness/run-product'
import { deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import type { Figure } from './run'

/** Workers that are simulated. */
const MANY = 8

/** How long so many workers would take that each take the next part when they are free. @param times of the parts; the long ones come first */
function scheduled(times: readonly number[], workers: number): number {
  const free = new Array<number>(workers).fill(0)
  for (const time of [...times].sort((a, b) => b - a)) {
    const next = free.indexOf(Math.min(...free))
    free[next] = (free[next] ?? 0) + time
  }
  return Math.max(...free)
}

/** How long each part of a talk's film takes one lane, in order, in ms. */
async function timesOfParts(talk: string): Promise<readonly number[]> {
  const [{ lastRecipe }, { makePictures }, { WhileNeeded }] = await Promise.all([import('@server/worker/tasks/last-recipe'), import('@server/worker/tasks/make-pictures'), import('@server/worker/tasks/while-needed')])
  const found = await lastRecipe(talk)
  if (found === null) throw new Error('there is no film')
  const plan = renderPlan(found.index, USUAL_RECIPE)
  const watch = new WhileNeeded(() => Promise.resolve(true))
  const parts = await makePictures(found.index, plan, codingOf('mp4', plan.quality, plan.bits), watch, { label: 'bench', look: null, lanes: 1, first: 'long', niceness: 0 })
  watch.end()
  return parts.map(({ took }) => took)
}

/** Starts another worker and waits until it is there. */
async function anotherWorker(): Promise<ChildProcess> {
  const { database } = await import('@server/database')
  bundle('worker')
  const child = spawn(process.execPath, [programFile('worker')], { env: { ...process.env, AISLE_MAKE_AHEAD_SECONDS: '0' }, stdio: 'ignore' })
  await until('a second worker', async () => await database().selectFrom('worker').select('id').executeTakeFirst() !== undefined)
  return child
}

/** A talk with camera at 1080 lines, made by one worker that does one part at a time, and with a second such worker; and as eight would, by the times that the parts took. */
export async function measure(): Promise<Figure> {
  process.env['AISLE_ENCODER_THREADS'] = '1'
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    await forgetParts()
    const alone = await deliverNow(talk, {})
    await forgetParts()
    const times = await timesOfParts(talk)
    const helper = await anotherWorker()
    await forgetParts()
    const both = await deliverNow(talk, {})
    helper.kill('SIGTERM')
    const work = times.reduce((sum, time) => sum + time, 0)
    const rest = Math.max(0, alone.took - work)
    const value = Number((alone.took / both.took).toFixed(2))
    return {
      value, unit: 'x', target: '1.7 or more with a second worker', ok: value >= 1.7,
      detail: {
        filmMs: alone.facts.length, aloneMs: Math.round(alone.took), bothMs: Math.round(both.took), parts: times.length, madeHereOfFrames: both.facts.encoded, frames: both.facts.frames, processors: cpus().length,
        simulated: Object.fromEntries([2, 4, MANY].map((workers) => [`${String(workers)} workers`, Number((alone.took / (rest + scheduled(times, workers))).toFixed(2))])),
      },
    }
  } finally {
    end()
  }
}
