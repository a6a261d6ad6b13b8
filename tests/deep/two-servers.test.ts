import { execFileSync, spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { SessionView, TalkView } from '@contracts'
import { Client } from '../harness/client'
import { freePort, startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { openTake, sendTake, toneRecording } from '../harness/recording'
import { screeningOf, shareTalk } from '../harness/screening'
import { threeSlides } from '../harness/screening-page'

const PASSWORD = 'heron lantern gravel'
let product: Product
let folder: string
let proxy: ChildProcess
let url: string
let client: Client

/** The configuration that ships, on this machine: its own ports, certificate and cache. */
async function configured(port: number): Promise<string> {
  const shipped = await readFile('deploy/nginx.conf', 'utf8')
  const here = shipped
    .replace(/server \{\s+listen 80;[^}]*\}/, '')
    .replace('listen 443 ssl', `listen 127.0.0.1:${String(port)} ssl`)
    .replace('127.0.0.1:4310', new URL(product.url).host)
    .replace('127.0.0.1:4311', new URL(product.secondUrl).host)
    .replace('/var/cache/nginx/aisle', join(folder, 'cache'))
    .replaceAll('/etc/aisle-talk/tls', folder)
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((kind) => `${kind}_temp_path ${folder}/${kind};`)
  return `daemon off; master_process off; pid ${folder}/nginx.pid; error_log stderr crit;
    events { worker_connections 512; } http { access_log off; ${temporary.join(' ')} ${here} }`
}

/** Asks until an answer comes, as pages do: what is under way on a server that ends is lost, and asked for again. */
async function stubborn<Answer>(ask: () => Promise<Answer>): Promise<Answer> {
  return await until('an answer', () => ask().catch(() => undefined))
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-two-'))
  const port = await freePort()
  url = `https://127.0.0.1:${String(port)}`
  // Nobody vouches for the certificate of a test.
  process.env['NODE_TLS_REJECT_UNAUTHORIZED'] = '0'
  execFileSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-days',
      '2',
      '-subj',
      '/CN=talks.school.example',
      '-keyout',
      join(folder, 'privkey.pem'),
      '-out',
      join(folder, 'fullchain.pem'),
    ],
    { stdio: 'ignore' },
  )
  product = await startProduct({ AISLE_ACCOUNTS: 'on', AISLE_SIGN_UP: 'open', AISLE_PUBLIC_ADDRESS: url, AISLE_TRUSTED_PROXIES: '1' })
  await product.start('second server')
  await writeFile(join(folder, 'nginx.conf'), await configured(port))
  proxy = spawn('nginx', ['-c', join(folder, 'nginx.conf')], { stdio: ['ignore', 'ignore', 'inherit'] })
  client = new Client(url)
  await stubborn(() => client.get('GET', '/health'))
  await client.get('POST', '/people', { name: 'Maren Holt', email: 'maren@harbour.example', password: PASSWORD })
  await client.get('POST', '/session', { email: 'maren@harbour.example', password: PASSWORD })
})
afterAll(async () => {
  delete process.env['NODE_TLS_REJECT_UNAUTHORIZED']
  const gone = new Promise((resolve) => proxy.once('exit', resolve))
  proxy.kill('SIGTERM')
  await gone
  await product.stop()
  await rm(folder, { recursive: true, force: true })
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
    const server = await readFile('deploy/systemd/aisle-talk-server@.service', 'utf8')
    const [, start = ''] = /^ExecStart=(.*)$/m.exec(server) ?? []
    const settings = (await readFile('deploy/settings.example', 'utf8'))
      .split('\n')
      .filter((line) => /^[A-Z]/.test(line))
      .map((line) => [line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)] as const)
    const port = String(await freePort())
    const own = { DATABASE_URL: product.databaseUrl, AISLE_DATA: product.data, AISLE_PORT: port, NITRO_PORT: port, AISLE_LOG: 'error' }
    const [program = '', ...args] = start.split(' ')
    const child = spawn(program, args, { env: { PATH: process.env['PATH'], ...Object.fromEntries(settings), ...own }, stdio: 'ignore' })
    try {
      await stubborn(() => new Client(`http://127.0.0.1:${port}`).get('GET', '/health'))
      const ready = await fetch(`http://127.0.0.1:${port}/api/ready`)
      expect(await ready.json()).toMatchObject({ ready: true })
    } finally {
      child.kill('SIGTERM')
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
