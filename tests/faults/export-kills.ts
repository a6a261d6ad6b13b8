import type { DeliveryView } from '@contracts'
import { decodesClean } from '../harness/film-file'
import { until } from '../harness/run-product'
import { sleep } from '../harness/timed-take'
import type { Row } from './row'
import { setUp } from './stand'
import { beginWatched, openLectern, stopWatched } from './watched-take'
import { join } from 'node:path'


/** A worker is killed again and again while it makes a file; the file comes all the same, whole. */
export async function workerKilled(times: number): Promise<Row> {
  const stand = await setUp()
  try {
    const { page, talk } = await openLectern(stand)
    const take = await beginWatched(page, talk)
    await sleep(12_000)
    await stopWatched(take)
    const { id } = await stand.client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, { lines: 2160, quality: 'fine', name: 'large', limit: { kind: 'none' } })
    const delivery = async (): Promise<DeliveryView | undefined> => (await stand.client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    let killed = 0
    while (killed < times && !['done', 'failed'].includes((await delivery())?.state ?? '')) {
      await sleep(500 + Math.random() * 4000)
      await stand.product.kill('worker')
      killed += 1
      await stand.product.start('worker')
    }
    const done = await until('the file', async () => {
      const now = await delivery()
      return now !== undefined && ['done', 'failed'].includes(now.state) && now
    }, 600_000)
    const whole = done.state === 'done' && done.facts?.frames === done.framesTotal && await decodesClean(join(stand.product.data, 'store', 'deliveries', id, 'film.mp4'))
    return { fault: 'worker killed at random points of an export', lost: whole ? 0 : done.length, most: 0, told: done.sentence ?? `${String(done.framesTotal)} frames, all there`, note: `${String(killed)} times` }
  } finally {
    await stand.close()
  }
}
