import { randomUUID } from 'node:crypto'
import type { FilmView, TalkView } from '@contracts'
import { fileForm, makePdf } from '../harness/decks'
import { Client } from '../harness/client'
import { cutDisk } from '../harness/power-cut/cut'
import { cutOnce } from '../harness/power-cut/cut-once'
import { Presenter } from '../harness/power-cut/presenter'
import { facedRecording, sendTake, toneRecording } from '../harness/recording'
import { until } from '../harness/run-product'
import { knotsTalk } from '../harness/talks'
import { sleep } from '../harness/timed-take'
import type { Row } from './row'
import { during } from './server-away'
import { withoutBrowser } from './stand'

/** What is recorded each time, in s; of it, so many ms count. */
const SECONDS = 4
const LENGTH = 3800
/** A take that was wrong in any way counts as lost whole. */
const lostWhen = (wrong: number): number => wrong * LENGTH

/** The power goes at random points of recording, closing and export; what was not synced is dropped, damaged or comes back as it was. */
export async function powerCut(times: number): Promise<Row> {
  const disk = cutDisk()
  const stand = await withoutBrowser(disk.settings)
  try {
    const { talk, slides } = await knotsTalk(stand.client, 'Cut')
    const media = await facedRecording(SECONDS, 'teal', 40)
    const began = Date.now()
    await new Presenter(stand.product, stand.client, talk, slides[0] ?? '', media, LENGTH).goOn()
    const usual = Date.now() - began
    const stages: Record<string, number> = {}
    const wrong: string[] = []
    let gone = 0
    for (let n = 0; n < times; n += 1) {
      const presenter = new Presenter(stand.product, stand.client, talk, slides[n % slides.length] ?? '', media, LENGTH)
      // The first moments, in which it is sent, count as much as the rest.
      const at = n % 2 === 0 ? Math.random() * 400 : Math.random() * usual * 1.1
      const cut = await cutOnce(stand.product, disk, presenter, sleep(at), () => {
        stand.cluster.restart()
      })
      stages[cut.stage] = (stages[cut.stage] ?? 0) + 1
      gone += cut.gone.length
      if (cut.wrong !== null) wrong.push(`${cut.stage}: ${cut.wrong}`)
    }
    const at = Object.entries(stages)
      .map(([stage, count]) => `${stage} ${String(count)}`)
      .join(', ')
    return {
      fault: 'power cut',
      lost: lostWhen(wrong.length),
      most: 0,
      told: wrong.join(' / '),
      note: `${String(times)} times (${at}); ${String(gone)} files and folders that nobody had called safe went or were damaged`,
    }
  } finally {
    await stand.close()
    disk.remove()
  }
}

/** A worker stands still at random points of closing and export until another has taken over, and then goes on. */
export async function workerTakenForDead(times: number): Promise<Row> {
  const stand = await withoutBrowser()
  try {
    const { talk, slides } = await knotsTalk(stand.client, 'Taken over')
    const media = await facedRecording(SECONDS, 'teal', 40)
    const wrong: string[] = []
    let [over, stood] = [0, 0]
    for (let n = 0; n < times; n += 1) {
      const presenter = new Presenter(stand.product, stand.client, talk, slides[n % slides.length] ?? '', media, LENGTH)
      const going = presenter.goOnAnyhow()
      going.catch(() => undefined)
      await sleep(300 + Math.random() * 3000)
      stand.product.signal('worker', 'SIGSTOP')
      stood += 1
      // Its claims go with its connections, as they do when its network is gone for long.
      await stand.cutConnections()
      await stand.product.start('second worker')
      const before = await stand.lastClaim()
      await Promise.race([going, sleep(9000)])
      if ((await stand.lastClaim()) > before) over += 1
      stand.product.signal('worker', 'SIGCONT')
      try {
        await going
        await sleep(2500)
        await presenter.lookAtAll()
        const { programme } = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
        if (programme.pieces.length !== 1) throw new Error('the take is not there once')
      } catch (error) {
        wrong.push(String(error))
      }
      await stand.product.kill('second worker')
    }
    return {
      fault: 'worker taken for dead that was only standing still',
      lost: lostWhen(wrong.length),
      most: 0,
      told: wrong.join(' / '),
      note: `${String(stood)} times; another had taken over ${String(over)} times before it went on`,
    }
  } finally {
    await stand.close()
  }
}

/** A take is thrown away at random points of its being made ready, and brought back at once. */
export async function discardedWhileFinishing(times: number): Promise<Row> {
  const stand = await withoutBrowser()
  try {
    const { talk, slides } = await knotsTalk(stand.client, 'Discarded')
    const media = await facedRecording(SECONDS, 'teal', 40)
    let wrong = 0
    for (let n = 0; n < times; n += 1) {
      const presenter = new Presenter(stand.product, stand.client, talk, slides[n % slides.length] ?? '', media, LENGTH)
      await presenter.send()
      await sleep(Math.random() * 900)
      await stand.client.get('DELETE', `/takes/${presenter.take}`)
      await sleep(Math.random() * 300)
      await stand.client.get('POST', `/takes/${presenter.take}/restore`)
      await until(
        'the take',
        async () =>
          (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === presenter.take)?.state === 'closed',
      )
      const { programme } = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
      const length = programme.pieces.reduce((sum, piece) => sum + (piece.kind === 'recorded' ? piece.show.to - piece.show.from : 0), 0)
      if (length !== LENGTH) wrong += 1
    }
    return {
      fault: 'take thrown away while it is made ready, and brought back',
      lost: lostWhen(wrong),
      most: 0,
      told: '',
      note: `${String(times)} times`,
    }
  } finally {
    await stand.close()
  }
}

/** Reading a long deck is stopped in the middle, while its first slides are worked on and recorded. */
export async function deckRefusedLate(): Promise<Row> {
  const stand = await withoutBrowser({ AISLE_IMPORT_SECONDS: '8' })
  try {
    const { client } = stand
    const { id: talk } = await client.get<{ id: string }>('POST', '/talks', { name: 'Refused', limit: null })
    await client.get(
      'POST',
      `/talks/${talk}/imports`,
      fileForm(
        'long.pdf',
        await makePdf(Array.from({ length: 900 }, (_, n) => ({ title: `Page ${String(n + 1)}`, colour: [51, 85, 68] as const }))),
      ),
    )
    const talkNow = () => client.get<TalkView>('GET', `/talks/${talk}`)
    const { slides } = await until('some slides', async () => {
      const now = await talkNow()
      return now.slides.length >= 4 && now
    })
    const [noted, shown] = [slides[0]?.id ?? '', slides[1]?.id ?? '']
    await client.get('POST', `/talks/${talk}/deck`, {
      revision: (await talkNow()).revision,
      edit: { kind: 'set', slides: [noted], fields: { notes: 'over, under' } },
    })
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media: await toneRecording(SECONDS), length: LENGTH, slide: shown }])
    const after = await until('the end of it', async () => {
      const now = await talkNow()
      return now.imports[0]?.state === 'failed' && now
    })
    const kept = after.slides.map((slide) => slide.id)
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const whole =
      [noted, shown].every((id) => kept.some((one) => one === id)) &&
      after.slides[0]?.notes === 'over, under' &&
      programme.pieces.length === 1
    return {
      fault: 'deck refused in the middle while its slides were worked on',
      lost: whole ? 0 : LENGTH,
      most: 0,
      told: after.imports[0]?.sentence ?? 'nothing',
      note: `${String(kept.length)} slides stay`,
    }
  } finally {
    await stand.close()
  }
}

/** Longer than a take that is not heard of is still taken for live, in ms. */
const NOT_LIVE = 24_000

/** A second machine tries to keep a take while it is recorded, and closes it while the recorder's network is away. */
export const secondMachine = (): Promise<Row> =>
  during({
    fault: 'second machine closes a take that is being recorded',
    go: async (stand, { page, talk }) => {
      const theirs = new Client(stand.product.url)
      const take = (await theirs.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.state === 'open')?.id ?? ''
      const refused = await theirs.ask('POST', `/takes/${take}/recover`, { browser: randomUUID() })
      if (refused.status !== 409) throw new Error(`it was let close a live take: ${String(refused.status)}`)
      const line = await page.context().newCDPSession(page)
      const away = { latency: 0, downloadThroughput: -1, uploadThroughput: -1 }
      await line.send('Network.emulateNetworkConditions', { ...away, offline: true })
      await sleep(NOT_LIVE)
      await theirs.get('POST', `/takes/${take}/recover`, { browser: randomUUID() })
      await until(
        'it to be closed',
        async () => (await theirs.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === take)?.state === 'closed',
      )
      await line.send('Network.emulateNetworkConditions', { ...away, offline: false })
      return `there: ${(refused.body as { error?: { sentence?: string } }).error?.sentence ?? ''}`
    },
  })
