import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { connect } from '@server/database/connect'
import type { Database } from '@server/database/connect'
import { PROGRAMS_FOLDER, programFile } from '../../scripts/start/programs'
import { emptyDatabase } from './empty-database'
import { startObjects } from './object-store'

/** What runs; a second one only once it is started. */
export type Process = 'server' | 'second server' | 'worker' | 'second worker'

export interface Product {
  readonly url: string
  /** Where the second server is reached. */
  readonly secondUrl: string
  readonly data: string
  /** The file that keeps something of the store, by its name there: of a folder, or of an object service. */
  readonly storedAt: (name: string) => string
  /** Where the worker has what it works on, by its name in the store. */
  readonly workedOnAt: (name: string) => string
  readonly db: Database
  readonly databaseUrl: string
  readonly start: (which: Process) => Promise<void>
  /** Ends a process the hard way, as a power cut would. */
  readonly kill: (which: Process) => Promise<void>
  /** Has a process stand still, or go on. */
  readonly signal: (which: Process, signal: 'SIGSTOP' | 'SIGCONT') => void
  /** Processes that ended by themselves. */
  readonly ended: () => readonly string[]
  readonly stop: () => Promise<void>
}

/** A port of loopback that nobody listens on. */
export const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer()
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address()
      probe.close(() => {
        resolve(typeof address === 'object' && address !== null ? address.port : 0)
      })
    })
  })

/** Waits for something to become true. @throws Error when it has not after `most` ms */
export async function until<Value>(what: string, look: () => Promise<Value | undefined | false>, most = 240_000): Promise<Value> {
  const end = Date.now() + most
  for (;;) {
    const found = await look()
    if (found !== undefined && found !== false) return found
    if (Date.now() > end) throw new Error(`waited too long for: ${what}`)
    await new Promise((resolve) => {
      setTimeout(resolve, 100)
    })
  }
}

/**
 * Starts the built product with a database and a data folder of its own.
 * @param cluster address of a database server
 * @param settings as environment; with AISLE_DATA, that folder is used and is there afterwards
 */
export async function runProduct(cluster: string, settings: Readonly<Record<string, string>> = {}): Promise<Product> {
  const data = settings['AISLE_DATA'] ?? (await mkdtemp(join(tmpdir(), 'aisle-product-')))
  const databaseUrl = await emptyDatabase(cluster, `aisle_${randomBytes(6).toString('hex')}`)
  const { db } = connect(databaseUrl, () => undefined)
  const [port, secondPort] = [await freePort(), await freePort()]
  const url = `http://127.0.0.1:${String(port)}`
  const secondUrl = `http://127.0.0.1:${String(secondPort)}`
  const objects = process.env['AISLE_TEST_STORE'] === 'objects' ? await startObjects() : null
  const env: Readonly<Record<string, string | undefined>> = {
    ...process.env,
    NODE_ENV: 'production',
    AISLE_DATA: data,
    AISLE_PORT: String(port),
    DATABASE_URL: databaseUrl,
    NITRO_PORT: String(port),
    NITRO_HOST: '127.0.0.1',
    PORT: String(port),
    NUXT_SESSION_PASSWORD: randomBytes(32).toString('hex'),
    AISLE_WORKER_GRACE_MS: '4000',
    AISLE_MAKE_AHEAD_SECONDS: '0',
    AISLE_LISTEN_AFTER_SECONDS: '0',
    // Whoever tests waits for the file.
    AISLE_YIELD: 'off',
    AISLE_PROGRAMS: resolve(PROGRAMS_FOLDER),
    AISLE_LOG: process.env['AISLE_TEST_LOG'] ?? 'error',
    ...objects?.settings,
    ...settings,
  }
  const onObjects = env['AISLE_STORE']?.startsWith('s3:') === true
  /** Machines that share an object store have no folder in common: the first server's is the one that tests know. */
  const folderOf = (which: Process): string => (onObjects && which !== 'server' ? join(data, 'machines', which.replace(' ', '-')) : data)
  const running = new Map<string, ChildProcess>()

  const start = async (which: Process): Promise<void> => {
    const isServer = which === 'server' || which === 'second server'
    const args = isServer ? ['.output/server/index.mjs'] : [programFile('worker')]
    const own =
      which === 'second server' ? { AISLE_PORT: String(secondPort), NITRO_PORT: String(secondPort), PORT: String(secondPort) } : {}
    const child = spawn(process.execPath, args, {
      env: { ...env, AISLE_DATA: folderOf(which), ...own },
      stdio: ['ignore', process.env['AISLE_TEST_LOG'] === undefined ? 'ignore' : 'inherit', 'inherit'],
    })
    running.set(which, child)
    if (isServer)
      await until(
        'the server to answer',
        () =>
          fetch(`${which === 'server' ? url : secondUrl}/api/health`).then(
            (answer) => answer.ok,
            () => false,
          ),
        240_000,
      )
  }
  const kill = async (which: Process, signal: NodeJS.Signals = 'SIGKILL'): Promise<void> => {
    const child = running.get(which)
    if (child === undefined || child.exitCode !== null || child.signalCode !== null) return
    const gone = new Promise((resolve) => {
      child.once('exit', resolve)
    })
    child.kill(signal)
    // It may be standing still, and hears of it only when it goes on.
    child.kill('SIGCONT')
    await gone
  }

  /** Those that are meant to run, by name, and have ended. */
  const ended = (): readonly string[] =>
    [...running].filter(([, child]) => child.exitCode !== null || child.signalCode !== null).map(([which]) => which)

  await start('server')
  await start('worker')
  return {
    url,
    secondUrl,
    data,
    workedOnAt: (name) => join(folderOf('worker'), onObjects ? 'store-cache' : 'store', name),
    storedAt: (name) => objects?.fileOf(name) ?? join(data, 'store', name),
    db,
    databaseUrl,
    start,
    kill: (which) => kill(which),
    ended,
    signal: (which, signal) => {
      running.get(which)?.kill(signal)
    },
    stop: async () => {
      await kill('server', 'SIGTERM')
      await kill('second server', 'SIGTERM')
      await kill('worker', 'SIGTERM')
      await kill('second worker', 'SIGTERM')
      await db.destroy()
      await objects?.close()
      if (settings['AISLE_DATA'] === undefined) await rm(data, { recursive: true, force: true })
    },
  }
}
