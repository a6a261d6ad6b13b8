import { sleep } from '../harness/timed-take'
import type { Row } from './row'
import { setUp } from './stand'
import type { FaultStand } from './stand'
import { beginWatched, lostOf, openLectern, stopWatched, told } from './watched-take'
import type { WatchedTake } from './watched-take'
import type { StandIn } from '../harness/stand-in'
import { FAITHFUL } from '../harness/stand-in'

/** What stands for five minutes here, in seconds; `AISLE_FAULTS_AWAY` sets it. */
const AWAY = Number(process.env['AISLE_FAULTS_AWAY'] ?? 20)

export interface During {
  readonly fault: string
  /** What goes wrong in the middle of a take. @returns what the person was told by then */
  readonly go: (stand: FaultStand, take: WatchedTake) => Promise<string>
  readonly note?: string
  readonly plan?: StandIn
  readonly scripts?: readonly string[]
  readonly settings?: Readonly<Record<string, string>>
}

/** A take during which something goes wrong, and which goes on afterwards; nothing of it may be lost. */
export async function during({ fault, go, note, plan = FAITHFUL, scripts = [], settings = {} }: During): Promise<Row> {
  const stand = await setUp(settings)
  try {
    const { page, talk } = await openLectern(stand, plan, scripts)
    const take = await beginWatched(page, talk)
    await sleep(3000)
    const said = await go(stand, take)
    await sleep(3000)
    await page.keyboard.press('ArrowRight')
    await sleep(1000)
    const end = await stopWatched(take)
    return { fault, lost: await lostOf(stand, take, end, 2), most: 0, told: said, ...(note === undefined ? {} : { note }) }
  } finally {
    await stand.close()
  }
}

export const serverKilled = (): Promise<Row> =>
  during({
    fault: 'server killed and started again',
    go: async (stand, { page }) => {
      await stand.product.kill('server')
      await page.getByText('The network is away').waitFor()
      const said = await told(page)
      await stand.product.start('server')
      return said
    },
  })

export const serverAway = (): Promise<Row> =>
  during({
    fault: 'server gone for five minutes',
    note: `shortened to ${String(AWAY)} s`,
    go: async (stand, { page }) => {
      await stand.product.kill('server')
      await sleep(AWAY * 1000)
      const said = await told(page)
      await stand.product.start('server')
      return said
    },
  })

export const networkPoor = (): Promise<Row> =>
  during({
    fault: 'network cut for 8 s, then 50 kB/s with 2 s delay',
    go: async (_stand, { page }) => {
      const line = await page.context().newCDPSession(page)
      const slow = { latency: 2000, downloadThroughput: 50_000, uploadThroughput: 50_000 }
      await line.send('Network.emulateNetworkConditions', { ...slow, offline: true })
      await sleep(8000)
      const said = await told(page)
      await line.send('Network.emulateNetworkConditions', { ...slow, offline: false })
      return said
    },
  })

export const databaseRestarted = (): Promise<Row> =>
  during({
    fault: 'database broken off and started again under load, three times',
    go: async (stand, { page, talk }) => {
      let loading = true
      const load = Promise.all(
        Array.from({ length: 6 }, async () => {
          while (loading) await stand.client.ask('GET', `/talks/${talk}`).catch(() => sleep(50))
        }),
      )
      let said = ''
      for (let n = 0; n < 3; n += 1) {
        stand.cluster.restart()
        await sleep(1500)
        said ||= await told(page)
      }
      loading = false
      await load
      return said
    },
  })
