import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { cpus } from 'node:os'
import { median } from 'd3'
import { renderPlan } from '@core/plan'
import { USUAL_RECIPE } from '@core/model'
import { codingOf } from '@render/video'
import { bundle, programFile } from '../scripts/start/programs'
import { until } from '../tests/harness/run-product'
import { deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import { medianPair } from './pairs'
import type { Figure } from './figure'

/** Workers that are simulated. */
const MANY = 8
/** How often a talk is made alone and then by two. */
const ROUNDS = 3
const LEAST = 1.8
const LEAST_OF_MANY = 6.5

/**
 * How long so many workers would take that each take the next part when they are free.
 * @param times of the parts; the long ones come first
 */
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
  const [{ lastRecipe }, { makePictures }, { WhileNeeded }] = await Promise.all([
    import('@server/worker/tasks/last-recipe'),
    import('@server/worker/tasks/make-pictures'),
    import('@server/worker/tasks/while-needed'),
  ])
  const found = await lastRecipe(talk)
  if (found === null) throw new Error('there is no film')
  const plan = renderPlan(found.index, USUAL_RECIPE)
  const watch = new WhileNeeded(() => Promise.resolve(true))
  const parts = await makePictures(found.index, plan, codingOf('mp4', plan.quality, plan.bits), watch, {
    label: 'bench',
    preview: null,
    lanes: 1,
    first: 'long',
  })
  watch.end()
  return parts.map(({ took }) => took)
}

/** Starts another worker and waits until it is there. */
async function anotherWorker(): Promise<ChildProcess> {
  const { database } = await import('@server/database')
  const child = spawn(process.execPath, [programFile('worker')], {
    env: { ...process.env, AISLE_MAKE_AHEAD_SECONDS: '0' },
    stdio: 'ignore',
  })
  await until('a second worker', async () => (await database().selectFrom('worker').select('id').executeTakeFirst()) !== undefined)
  return child
}

/** Ends it and waits until it is gone. */
async function dismissed(worker: ChildProcess): Promise<void> {
  const { database } = await import('@server/database')
  worker.kill('SIGTERM')
  await until(
    'the second worker to be gone',
    async () =>
      (worker.exitCode ?? worker.signalCode) !== null &&
      (await database().selectFrom('worker').select('id').executeTakeFirst()) === undefined,
  )
}

/**
 * A talk with camera at 1080 lines, made by one worker that does one part at a time, and with a second such worker; and as eight would,
 * by the times that the parts took.
 */
export async function measure(): Promise<Figure> {
  process.env['AISLE_ENCODER_THREADS'] = '1'
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    bundle('worker')
    const [alone, both]: [number[], number[]] = [[], []]
    let facts: Awaited<ReturnType<typeof deliverNow>>['facts'] | null = null
    for (let round = 0; round < ROUNDS; round += 1) {
      await forgetParts()
      alone.push(Math.round((await deliverNow(talk, {})).took))
      await forgetParts()
      const helper = await anotherWorker()
      const made = await deliverNow(talk, {})
      both.push(Math.round(made.took))
      facts = made.facts
      await dismissed(helper)
    }
    await forgetParts()
    const times = await timesOfParts(talk)
    const work = times.reduce((sum, time) => sum + time, 0)
    const one = median(alone) ?? NaN
    const rest = Math.max(0, one - work)
    const simulated = (workers: number): number => Number((one / (rest + scheduled(times, workers))).toFixed(2))
    const { value, ratios, noise } = medianPair(alone, both)
    return {
      value,
      unit: 'x',
      target:
        `${String(LEAST)} or more with a second worker, the median of ${String(ROUNDS)} pairs in turn; ` +
        `${String(LEAST_OF_MANY)} with ${String(MANY)} simulated`,
      ok: value >= LEAST && simulated(MANY) >= LEAST_OF_MANY,
      detail: {
        ratios,
        noise,
        filmMs: facts?.length,
        aloneMs: alone,
        bothMs: both,
        parts: times.length,
        longestPartMs: Math.round(Math.max(...times)),
        restMs: Math.round(rest),
        madeHereOfFrames: facts?.encoded,
        frames: facts?.frames,
        processors: cpus().length,
        simulated: Object.fromEntries([2, 4, MANY].map((workers) => [`${String(workers)} workers`, simulated(workers)])),
      },
    }
  } finally {
    end()
  }
}
