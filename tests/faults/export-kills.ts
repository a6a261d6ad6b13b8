import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { DeliveryView } from '@contracts'
import { decodesClean } from '../harness/film-file'
import { until } from '../harness/run-product'
import { sleep } from '../harness/timed-take'
import type { Row } from './row'
import { setUp } from './stand'
import type { FaultStand } from './stand'
import { beginWatched, openLectern, stopWatched } from './watched-take'

/** A file that takes a while to make, ordered just now of twelve seconds recorded before. */
async function largeFile(stand: FaultStand) {
  const { page, talk } = await openLectern(stand)
  const take = await beginWatched(page, talk)
  await sleep(12_000)
  await stopWatched(take)
  const { id } = await stand.client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
    lines: 2160,
    quality: 'fine',
    name: 'large',
    limit: { kind: 'none' },
  })
  const delivery = async (): Promise<DeliveryView | undefined> =>
    (await stand.client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
  return {
    id,
    delivery,
    ended: () =>
      until(
        'an end',
        async () => {
          const now = await delivery()
          return now !== undefined && ['done', 'failed'].includes(now.state) && now
        },
        600_000,
      ),
    isWhole: async ({ state, facts, framesTotal }: DeliveryView): Promise<boolean> =>
      state === 'done' &&
      facts?.frames === framesTotal &&
      (await decodesClean(join(stand.product.data, 'store', 'deliveries', id, 'film.mp4'))),
  }
}

/** A worker is killed again and again while it makes a file; the file comes all the same, whole. */
export async function workerKilled(times: number): Promise<Row> {
  const stand = await setUp()
  try {
    const { delivery, ended, isWhole } = await largeFile(stand)
    let killed = 0
    while (killed < times && !['done', 'failed'].includes((await delivery())?.state ?? '')) {
      await sleep(500 + Math.random() * 4000)
      await stand.product.kill('worker')
      killed += 1
      await stand.product.start('worker')
    }
    const done = await ended()
    const whole = await isWhole(done)
    return {
      fault: 'worker killed at random points of an export',
      lost: whole ? 0 : done.length,
      most: 0,
      told: done.sentence ?? `${String(done.framesTotal)} frames, all there`,
      note: `${String(killed)} times`,
    }
  } finally {
    await stand.close()
  }
}

/**
 * The disk fills up while a file is made: nothing half-written bears its name, the cause is said, and once there is room it is made
 * after all.
 */
export async function diskFullInExport(): Promise<Row> {
  const disk = mkdtempSync(join(tmpdir(), 'aisle-small-'))
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=120m', 'tmpfs', disk])
  try {
    const stand = await setUp({ AISLE_DATA: disk, AISLE_FREE_FLOOR_MB: '2' })
    try {
      const { id, delivery, ended, isWhole } = await largeFile(stand)
      await until('it to be made', async () => (await delivery())?.state === 'making')
      const filler = join(disk, 'filler')
      const { bavail, bsize } = statfsSync(disk)
      writeFileSync(filler, Buffer.alloc(Math.max(0, bavail * bsize - 400_000)))
      const failed = await ended()
      const folder = join(disk, 'store', 'deliveries', id)
      const half = existsSync(folder) && readdirSync(folder).some((name) => name.startsWith('film'))
      rmSync(filler)
      await stand.client.ask('POST', `/deliveries/${id}/retry`)
      const done = await ended()
      const whole = failed.state === 'failed' && !half && (await isWhole(done))
      return {
        fault: 'disk full in the middle of an export',
        lost: whole ? 0 : done.length,
        most: 0,
        told: failed.sentence ?? 'nothing',
        note: `tried again with room: ${String(done.framesTotal)} frames`,
      }
    } finally {
      await stand.close()
    }
  } finally {
    execFileSync('umount', [disk])
    rmSync(disk, { recursive: true })
  }
}
