import { readFileSync } from 'node:fs'
import { median } from 'd3'
import type { TalkCard } from '@contracts'
import { ask, sleep } from '../tests/harness/timed-take'
import { present, shared } from './present'
import { spentByParts } from './processes'
import { recordingOf } from './recorded'
import { startRunning } from './running-product'
import type { RunningProduct } from './running-product'
import { viewersOf } from './viewers-of'
import type { Figure } from './figure'

/** What is measured, each alone: so many, for so long, in s. */
const SPAN = 60
const PRESENTERS = 10
const VIEWERS = 100
/** A model that is further off is of no use. */
const MOST_OFF = 0.2

/** Processor time of server and database, in s. */
const answering = (product: RunningProduct): number => {
  const { server, database } = spentByParts(product.data)
  return server + database
}

/** Processor seconds that server and database take in a second while something goes on. */
async function rateOf(product: RunningProduct, work: () => Promise<unknown>): Promise<number> {
  const [before, began] = [answering(product), performance.now()]
  await work()
  return (answering(product) - before) / ((performance.now() - began) / 1000)
}

/** What one of each costs server and database, in cores. */
interface Costs {
  readonly idle: number
  readonly presenter: number
  readonly viewer: number
}

async function costs(): Promise<Costs> {
  const product = await startRunning(4392)
  try {
    const [example] = (await ask<TalkCard[]>(product, 'GET', '/talks')).filter(({ name }) => name === 'The rule of twelfths')
    const talk = example?.id ?? ''
    const { media } = await shared(product, talk)
    const talks = await Promise.all(
      Array.from({ length: PRESENTERS }, async () => (await ask<{ id: string }>(product, 'POST', `/talks/${talk}/duplicate`)).id),
    )
    const recording = await recordingOf(SPAN)
    const idle = await rateOf(product, () => sleep(20_000))
    const presenting = await rateOf(product, () => {
      const end = performance.now() + SPAN * 1000
      return Promise.all(
        talks.map((one, n) => present(product, { talk: one, media: recording, seconds: SPAN, phase: n / PRESENTERS }, end)),
      )
    })
    const watching = await rateOf(product, () => viewersOf(`${product.url}${media}`, VIEWERS, SPAN))
    return { idle, presenter: (presenting - idle) / PRESENTERS, viewer: (watching - idle) / VIEWERS }
  } finally {
    await product.stop()
  }
}

interface Measured {
  readonly value: number
  readonly detail: Readonly<Record<string, unknown>>
}
const resultOf = (name: string): Measured => JSON.parse(readFileSync(`bench/results/${name}.json`, 'utf8')) as Measured

/** What so many presenters at once need, each watched by six and with a film made of every minute that they record. */
function needs(
  presenters: number,
  { idle, presenter, viewer }: Costs,
  film: number,
  bytesASecond: number,
): Readonly<Record<string, number>> {
  const VIEWERS_EACH = 6
  /** Of a processor, so that nobody waits when many do the same at once. */
  const HEADROOM = 0.6
  const round = (value: number): number => Number(value.toFixed(1))
  return {
    presenters,
    coresForServers: round((idle + presenters * (presenter + VIEWERS_EACH * viewer)) / HEADROOM),
    coresForFilms: round((presenters * film) / HEADROOM),
    megabitsIn: round((presenters * bytesASecond * 8) / 1e6),
    megabitsOut: round(presenters * VIEWERS_EACH * 1.5),
    gigabytesAnHour: round((presenters * bytesASecond * 3600) / 1e9),
  }
}

/**
 * What many presenters at once need, from what few were measured to cost, each alone. It is kept honest by what `many` measured of all
 * together: the value is how far the model is off there.
 */
export async function measure(): Promise<Figure> {
  const each = await costs()
  const many = resultOf('many').detail as {
    readonly seconds: number
    readonly recordedMegabytes: number
    readonly processorSeconds: { readonly server: number; readonly database: number }
  }
  const [presenters, viewers] = [50, 300]
  const predicted = (each.idle + presenters * each.presenter + viewers * each.viewer) * many.seconds
  const measured = many.processorSeconds.server + many.processorSeconds.database
  const value = Number(Math.abs(predicted / measured - 1).toFixed(3))
  const bytesASecond = (many.recordedMegabytes * 1e6) / presenters / many.seconds
  const inset = resultOf('export-inset').detail as {
    readonly exportMs: readonly number[]
    readonly filmMs: number
    readonly threads: number
  }
  // Cores that a second of film with a face keeps busy for a second.
  const film = ((median(inset.exportMs) ?? 0) * inset.threads) / inset.filmMs
  return {
    value,
    unit: 'of what was measured of many, off',
    target: `${String(MOST_OFF)} or less`,
    ok: value <= MOST_OFF,
    detail: {
      cores: each,
      predictedSeconds: Math.round(predicted),
      measuredSeconds: measured,
      needs: [10, 100, 1000].map((count) => needs(count, each, film, bytesASecond)),
    },
  }
}
