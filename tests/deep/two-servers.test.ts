import { execFileSync, spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { readFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { SessionView, TalkView } from '@contracts'
import { Client } from '../harness/client'
import { freePort, startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { openProxy, stubborn } from '../harness/proxy'
import type { Proxy } from '../harness/proxy'
import { openTake, sendTake, toneRecording } from '../harness/recording'
import { screeningOf, shareTalk } from '../harness/screening'
import { threeSlides } from '../harness/screening-page'

const PASSWORD = 'heron lantern gravel'
let product: Product
let proxy: Proxy
let url: string
let client: Client

beforeAll(async () => {
  proxy = await openProxy()
  url = proxy.url
  product = await startProduct({ AISLE_ACCOUNTS: 'on', AISLE_SIGN_UP: 'open', AISLE_PUBLIC_ADDRESS: url, AISLE_TRUSTED_PROXIES: '1' })
  await product.start('second server')
  await proxy.before(product)
  client = new Client(url)
  await client.get('POST', '/people', { name: 'Maren Holt', email: 'maren@harbour.example', password: PASSWORD })
  await client.get('POST', '/session', { email: 'maren@harbour.example', password: PASSWORD })
})
afterAll(async () => {
  await proxy.close()
  await product.stop()
})

describe('two servers behind a proxy', () => {
  it('lose nothing when one is killed while somebody records, watches and listens for changes, and nobody is signed out', async () => {
    const { talk, path } = await threeSlides(client, 'Knots for many')
    const { slides } = await client.get<TalkView>('GET', `/talks/${talk}`)
    const slide = slides[0]?.id ?? ''
    const media = await toneRecording(12)
    const { take, stretch, send } = await openTake(client, talk, slide)
    const { media: base } = await screeningOf(url, path.split('/')[2] ?? '')
    const list = await (await fetch(`${url}${base}/sound.m3u8`)).text()
    const files = [...list.matchAll(/[0-9a-f]{64}\.m(?:4s|p4)/g)].map(([file]) => file)
    const line = await client.listen()
    const PIECES = 24
    const size = Math.ceil(media.length / PIECES)
    const sendPiece = async (n: number): Promise<void> => {
      const piece = media.subarray(n * size, (n + 1) * size)
      await stubborn(async () => (await send(client, n, piece)) === 200)
    }
    const watched = async (): Promise<void> => {
      for (const file of files)
        await stubborn(async () => {
          const answer = await fetch(`${url}${base}/${file}`)
          return answer.ok && (await answer.arrayBuffer()).byteLength > 0
        })
    }
    const watching = Promise.all(Array.from({ length: 10 }, watched))
    for (let n = 0; n < PIECES; n += 1) {
      if (n === 8) await product.kill('server')
      if (n === 16) {
        await product.start('server')
        await product.kill('second server')
      }
      await sendPiece(n)
    }
    await watching
    line.end()
    const again = await stubborn(() => client.listen())
    expect((await stubborn(() => client.get<SessionView>('GET', '/session'))).person?.name).toBe('Maren Holt')
    await stubborn(() => client.get('POST', `/stretches/${stretch}/close`, { chunks: PIECES, cues: 0, length: 12_000 }))
    await stubborn(() => client.get('POST', `/takes/${take}/finish`))
    const { takes } = await until('the take', async () => {
      const now = await client.get<TalkView>('GET', `/talks/${talk}`)
      return now.takes.find(({ id }) => id === take)?.state === 'closed' && now
    })
    expect(takes.find(({ id }) => id === take)?.length).toBeGreaterThan(11_500)
    await until('the news of it', () => Promise.resolve(again.heard.some(({ kind, id }) => kind === 'take' && id === take)))
    again.end()
    await product.start('second server')
  })

  it('count what must agree together: attempts to sign in, whichever server they come to', async () => {
    const guess = () => new Client(url).ask('POST', '/session', { email: 'maren@harbour.example', password: 'wrong lantern gravel' })
    const answers = await Promise.all(Array.from({ length: 20 }, guess))
    expect(answers.filter(({ status }) => status === 401).length).toBeLessThanOrEqual(8)
    expect(answers.filter(({ status }) => status === 429).length).toBeGreaterThanOrEqual(12)
  })

  it('share work and results: what one was asked for is seen by way of the other', async () => {
    const [one, other] = [new Client(product.url), new Client(product.secondUrl)]
    for (const each of [one, other]) expect((await each.get<SessionView>('GET', '/session')).person).toBeNull()
    const { talk, path } = await threeSlides(client, 'Seen by both')
    const { key } = await shareTalk(client, talk)
    expect(path).toContain(key)
    for (const server of [product.url, product.secondUrl]) expect((await screeningOf(server, key)).title).toBe('Seen by both')
    const media = await toneRecording(2)
    const { slides } = await client.get<TalkView>('GET', `/talks/${talk}`)
    await sendTake(client, talk, 'full', { kind: 'append' }, [{ media, length: 2000, slide: slides[0]?.id ?? '' }])
  })
})

describe('the units that ship', () => {
  it('are understood, and what they start runs', async () => {
    const units = (await readdir('deploy/systemd')).map((name) => join('deploy/systemd', name))
    // Users and folders of a real machine are not here; anything else that is wrong is said.
    const said = spawnSaid('systemd-analyze', ['verify', '--man=no', ...units])
    expect(
      said.split('\n').filter((line) => /deploy\/systemd/.test(line) && !/not executable|does not exist|No such file/.test(line)),
    ).toEqual([])
    const settings = (await readFile('deploy/settings.example', 'utf8'))
      .split('\n')
      .filter((line) => /^[A-Z]/.test(line))
      .map((line) => [line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)] as const)
    const port = String(await freePort())
    const own = { DATABASE_URL: product.databaseUrl, AISLE_DATA: product.data, AISLE_PORT: port, NITRO_PORT: port, AISLE_LOG: 'error' }
    const started = async (unit: string): Promise<ChildProcess> => {
      const [, start = ''] = /^ExecStart=(.*)$/m.exec(await readFile(join('deploy/systemd', unit), 'utf8')) ?? []
      const [program = '', ...args] = start.split(' ')
      return spawn(program, args, { env: { PATH: process.env['PATH'], ...Object.fromEntries(settings), ...own }, stdio: 'ignore' })
    }
    // No other worker is there to be taken for this one.
    await product.kill('worker')
    await product.db.deleteFrom('worker').execute()
    const running = [await started('aisle-talk-server@.service'), await started('aisle-talk-worker.service')]
    try {
      const ready = await until('both', async () => {
        const answer = await fetch(`http://127.0.0.1:${port}/api/ready`).catch(() => null)
        return answer?.status === 200 && ((await answer.json()) as unknown)
      })
      expect(ready).toMatchObject({ ready: true, workers: true })
    } finally {
      for (const child of running) child.kill('SIGTERM')
    }
  })
})

function spawnSaid(program: string, args: readonly string[]): string {
  try {
    return execFileSync(program, [...args], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })
  } catch (error) {
    return (error as { stderr: string }).stderr
  }
}
